'use client';
import { useEffect, useRef } from 'react';
import { type Key } from 'react-aria-components';
import { placeCanvas, type ProjectionChoice } from '@/core/merge/panorama/canvas';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type SetScope, type KeptPanorama } from '@/core/recipe/project';
import { smallFrames } from '@/store/madePixels';
import { useBench, useBenchParts } from '../benchContext';
import { drawPreview, PreviewCard as Card, PreviewCards as Cards } from './PreviewCards';
import { OTHER_TEXT as TEXT } from './text';

const says = ({ stretch, whole }: ProjectionChoice): string =>
  `${stretch > 999 ? 'over 999' : Math.round(stretch)} % stretch${whole ? '' : ', not all fits'}`;

interface ProjectionCardsProps {
  readonly scope: SetScope;
  readonly panorama: KeptPanorama;
  readonly choices: readonly ProjectionChoice[];
  readonly value: ProjectionKind;
  readonly onChange: (kind: ProjectionKind) => void;
}

/** The set in every projection, drawn small as it is fitted now. */
export function ProjectionCards({ scope, panorama, choices, value, onChange }: ProjectionCardsProps) {
  const choose = (keys: Set<Key>): void => {
    const chosen = choices.find((c) => keys.has(c.kind));
    if (chosen && chosen.kind !== value) onChange(chosen.kind);
  };
  return (
    <Cards
      aria-label={TEXT.laidOut}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[value]}
      onSelectionChange={choose}
    >
      {choices.map((choice) => (
        <Card key={choice.kind} id={choice.kind}>
          <Preview scope={scope} panorama={panorama} projection={choice.kind} />
          {TEXT.projections[choice.kind]}
          <small>{says(choice)}</small>
        </Card>
      ))}
    </Cards>
  );
}

const LONG_EDGE = 280;

function Preview({
  scope,
  panorama,
  projection,
}: {
  scope: SetScope;
  panorama: KeptPanorama;
  projection: ProjectionKind;
}) {
  const { viewer } = useBenchParts();
  const { decoded, makings } = useBench((s) => ({ decoded: s.decoded, makings: s.made }));
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const controller = new AbortController();
    const images = smallFrames({ decoded, made: makings }, scope);
    const paper = placeCanvas(panorama.fit, projection);
    viewer
      .run((tasks) => tasks.previewPanorama(images, panorama.fit, paper, LONG_EDGE), {
        signal: controller.signal,
        priority: -2,
      })
      .then((preview) => drawPreview(canvas.current, preview))
      .catch(() => undefined);
    return () => controller.abort();
  }, [viewer, scope, panorama, projection, decoded, makings]);
  return <canvas ref={canvas} aria-hidden width={3} height={1} />;
}
