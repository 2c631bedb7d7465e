'use client';
import { useEffect, useRef, useState } from 'react';
import { type Key } from 'react-aria-components';
import { ratioValue } from '@/core/finish/cropRatio';
import { type BorderChoice, type BorderChoices } from '@/core/merge/panorama/borderChoices';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type SetScope, type KeptPanorama, type OtherMerge } from '@/core/recipe/project';
import { meshOf } from '@/core/recipe/pictureGrid';
import { setBorder } from '@/store/edits/sets';
import { smallFrames } from '@/store/madePixels';
import { Hint, Section } from '@/ui/Section';
import { useActions, useBench, useBenchParts } from '../benchContext';
import { drawPreview, PreviewCard, PreviewCards } from './PreviewCards';
import { OTHER_TEXT as TEXT } from './text';

const LONG_EDGE = 280;
const WAYS = ['crop', 'warp'] as const satisfies OtherMerge['border'][];

/** What a way loses, as a line. */
function loses(way: OtherMerge['border'], choice: BorderChoice | undefined): string {
  if (!choice) return TEXT.borderMeasured;
  const kept = TEXT.borderKeeps(Math.round(100 * choice.kept));
  return way === 'crop' ? kept : `${kept}, ${TEXT.borderBends(Math.round(choice.stretch), choice.bow)}`;
}

interface BorderCardsProps {
  readonly scope: SetScope;
  readonly panorama: KeptPanorama;
  readonly projection: ProjectionKind;
}

/** The two ways to be rid of a panorama's blank border, drawn small, with what each loses. */
export function BorderCards({ scope, panorama, projection }: BorderCardsProps) {
  // the search takes seconds: it must not hold up what is looked at
  const { pool } = useBenchParts().bench;
  const actions = useActions();
  const { set } = scope;
  const { ratio, upright, decoded, makings } = useBench((s) => ({
    ratio: s.history.project.geometry.ratio,
    upright: s.history.project.geometry.upright,
    decoded: s.decoded,
    makings: s.made,
  }));
  const shape = ratioValue({ ratio, upright });
  const wish = `${projection} ${shape}`;
  const [made, setMade] = useState<{ wish: string; choices: BorderChoices }>();
  const choices = made?.wish === wish ? made.choices : undefined;
  useEffect(() => {
    const controller = new AbortController();
    const images = smallFrames({ decoded, made: makings }, scope);
    const mesh = meshOf(scope);
    const known = mesh?.projection === projection ? mesh : undefined;
    pool
      .run((tasks) => tasks.borderChoices(images, panorama.fit, projection, shape, LONG_EDGE, known), {
        signal: controller.signal,
        priority: -3,
      })
      .then((found) => setMade({ wish, choices: found }))
      .catch(() => undefined);
    return () => controller.abort();
  }, [pool, scope, panorama, projection, shape, wish, decoded, makings]);
  const choose = (keys: Set<Key>): void => {
    const border = WAYS.find((way) => keys.has(way));
    if (border && border !== set.other.border)
      actions.edit(
        `${TEXT.border}: ${TEXT.borders[border].toLowerCase()}`,
        setBorder(set.id, border, choices?.mesh),
      );
  };
  return (
    <Section title={TEXT.border}>
      <PreviewCards
        aria-label={TEXT.border}
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[set.other.border]}
        onSelectionChange={choose}
      >
        {WAYS.map((way) => (
          <PreviewCard key={way} id={way}>
            <Picture choice={choices?.[way]} />
            {TEXT.borders[way]}
            <small>{loses(way, choices?.[way])}</small>
          </PreviewCard>
        ))}
      </PreviewCards>
      <Hint>{TEXT.borderHint}</Hint>
    </Section>
  );
}

function Picture({ choice }: { choice: BorderChoice | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (choice) drawPreview(canvas.current, choice.preview, choice.box);
  }, [choice]);
  return <canvas ref={canvas} aria-hidden width={3} height={1} />;
}
