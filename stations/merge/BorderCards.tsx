'use client';
import { useEffect, useRef, useState } from 'react';
import { type Key } from 'react-aria-components';
import { ratioValue } from '@/core/finish/finish';
import { type BorderChoice, type BorderChoices } from '@/core/merge/panorama/borderChoices';
import { type ProjectionKind } from '@/core/merge/panorama/projection';
import { type KeptPanorama, type OtherMerge } from '@/core/recipe/project';
import { setBorder } from '@/store/edits';
import { smallFrames } from '@/store/preparedFrames';
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
  readonly panorama: KeptPanorama;
  readonly projection: ProjectionKind;
}

/** The two ways to be rid of a panorama's blank border, drawn small, with what each loses. */
export function BorderCards({ panorama, projection }: BorderCardsProps) {
  // the search takes seconds: it must not hold up what is looked at
  const { pool } = useBenchParts().bench;
  const actions = useActions();
  const { frames, set, ratio, upright, decoded, prepared, views } = useBench((s) => ({
    frames: s.history.project.frames,
    set: s.history.project.set,
    ratio: s.history.project.finish.ratio,
    upright: s.history.project.finish.upright,
    decoded: s.decoded,
    prepared: s.prepared,
    views: s.views,
  }));
  const shape = ratioValue({ ratio, upright });
  const wish = `${projection} ${shape}`;
  const [made, setMade] = useState<{ wish: string; choices: BorderChoices }>();
  const choices = made?.wish === wish ? made.choices : undefined;
  useEffect(() => {
    const controller = new AbortController();
    const images = smallFrames({ decoded, prepared, views }, { frames, set, panorama });
    const known = panorama.mesh?.projection === projection ? panorama.mesh : undefined;
    pool
      .run((tasks) => tasks.borderChoices(images, panorama.fit, projection, shape, LONG_EDGE, known), {
        signal: controller.signal,
        priority: -3,
      })
      .then((found) => setMade({ wish, choices: found }))
      .catch(() => undefined);
    return () => controller.abort();
  }, [pool, panorama, projection, frames, set, shape, wish, decoded, prepared, views]);
  const choose = (keys: Set<Key>): void => {
    const border = WAYS.find((way) => keys.has(way));
    if (border && border !== set.other.border)
      actions.edit(`${TEXT.border}: ${TEXT.borders[border].toLowerCase()}`, setBorder(border, choices?.mesh));
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
