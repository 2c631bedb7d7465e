'use client';
import { useEffect, useRef } from 'react';
import { type Key, ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import { styled } from 'styled-components';
import { type ProjectionChoice } from '@/core/merge/panorama/canvas';
import { type PanoramaPreview } from '@/core/merge/panorama/previewPanorama';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type KeptPanorama } from '@/core/recipe/project';
import { joinedLevels } from '@/store/preparedFrames';
import { COLOUR, focusRing, touchable } from '@/ui/tokens';
import { useBench, useBenchParts } from '../benchContext';
import { OTHER_TEXT as TEXT } from './text';

const Cards = styled(ToggleButtonGroup)`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
`;

const Card = styled(ToggleButton)`
  ${touchable}
  display: flex;
  flex-direction: column;
  gap: 2px;
  height: auto;
  padding: 4px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    width: 100%;
    height: 62px;
    object-fit: contain;
    background: ${COLOUR.sunken};
  }
  small {
    font-variant-numeric: tabular-nums;
  }
  &[data-hovered] {
    background: ${COLOUR.hover};
  }
  &[data-selected] {
    background: ${COLOUR.ink};
    color: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

const says = ({ stretch, whole }: ProjectionChoice): string =>
  `${stretch > 999 ? 'over 999' : Math.round(stretch)} % stretch${whole ? '' : ', not all fits'}`;

interface ProjectionCardsProps {
  readonly panorama: KeptPanorama;
  readonly choices: readonly ProjectionChoice[];
  readonly value: ProjectionKind;
  readonly onChange: (kind: ProjectionKind) => void;
}

/** The set in every projection, drawn small as it is fitted now. */
export function ProjectionCards({ panorama, choices, value, onChange }: ProjectionCardsProps) {
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
          <Preview panorama={panorama} projection={choice.kind} />
          {TEXT.projections[choice.kind]}
          <small>{says(choice)}</small>
        </Card>
      ))}
    </Cards>
  );
}

const LONG_EDGE = 280;

function Preview({ panorama, projection }: { panorama: KeptPanorama; projection: ProjectionKind }) {
  const { viewer } = useBenchParts();
  const { frames, set, decoded, prepared, views } = useBench((s) => ({
    frames: s.history.project.frames,
    set: s.history.project.set,
    decoded: s.decoded,
    prepared: s.prepared,
    views: s.views,
  }));
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const controller = new AbortController();
    const images = panorama.frames.map((id) => {
      const frame = frames.find((f) => f.id === id);
      if (!frame || !decoded[frame.hash]) return undefined;
      // what the panorama is joined from: merged brackets, prepared frames
      const levels = joinedLevels({ decoded, prepared, views }, { frames, set }, frame.hash);
      return levels[levels.length - 1];
    });
    viewer
      .run((tasks) => tasks.previewPanorama(images, panorama.fit, projection, LONG_EDGE), {
        signal: controller.signal,
        priority: -2,
      })
      .then((preview) => draw(canvas.current, preview))
      .catch(() => undefined);
    return () => controller.abort();
  }, [viewer, panorama, projection, frames, set, decoded, prepared, views]);
  return <canvas ref={canvas} aria-hidden width={3} height={1} />;
}

function draw(canvas: HTMLCanvasElement | null, { width, height, rgba }: PanoramaPreview): void {
  const context = canvas?.getContext('2d');
  if (!canvas || !context) return;
  canvas.width = width;
  canvas.height = height;
  context.putImageData(new ImageData(new Uint8ClampedArray(rgba), width, height), 0, 0);
}
