'use client';
import { useMemo, useState } from 'react';
import { type FusionMeasures } from '@/core/merge/mertensWeight';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { setMeasure } from '@/store/edits';
import { BarChart } from '@/ui/chart/BarChart';
import { Measure } from '@/ui/controls/Measure';
import { Hint, Section } from '@/ui/Section';
import { useActions, useBench, useFrames } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { meanShares } from './shares';
import { MERGE_TEXT as TEXT } from './text';

const MEASURES = ['exposedness', 'contrast', 'saturation'] as const;

/** Findings of the merge, the three measures, and how much each frame gave. */
export function MergePanel() {
  const { measures, merged } = useBench((s) => ({ measures: s.history.project.set.merge, merged: s.merged }));
  const frames = useFrames();
  const shares = useMemo(() => meanShares(merged), [merged]);
  const bars = (merged?.scene.frames ?? []).map((id, i) => ({
    name: frames.find((f) => f.frame.id === id)?.name ?? id,
    value: 100 * (shares.get(id) ?? 0),
    colour: `rgb(${FRAME_COLOURS[i % FRAME_COLOURS.length].join(' ')})`,
  }));
  return (
    <>
      <StationFindings station="merge" title={TEXT.name} none={TEXT.none} />
      <Section title={TEXT.how}>
        {MEASURES.map((measure) => (
          <MeasureLine key={measure} measure={measure} value={measures[measure]} />
        ))}
        <Hint>{TEXT.hint}</Hint>
      </Section>
      {bars.length > 0 && (
        <Section title={TEXT.chart}>
          <BarChart
            label={TEXT.chart}
            bars={bars}
            max={Math.max(...bars.map((b) => b.value))}
            format={(v) => `${v.toFixed(1)} %`}
          />
        </Section>
      )}
    </>
  );
}

/** One measure; the merge starts when the hand lets go. */
function MeasureLine({ measure, value }: { measure: keyof FusionMeasures; value: number }) {
  const [held, setHeld] = useState<number>();
  const actions = useActions();
  return (
    <Measure
      label={TEXT[measure]}
      value={held ?? value}
      min={0}
      max={1}
      step={0.05}
      format={(v) => v.toFixed(2)}
      onChange={setHeld}
      onChangeEnd={(v) => {
        actions.edit(`${TEXT[measure]} ${v.toFixed(2)}`, setMeasure(measure, v));
        setHeld(undefined);
      }}
    />
  );
}
