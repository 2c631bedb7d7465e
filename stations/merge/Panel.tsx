'use client';
import { useMemo, useState } from 'react';
import { findEdit } from '@/core/edits/ranked';
import { FRAME_COLOURS } from '@/core/view/frameColours';
import { type FrameSet } from '@/core/recipe/project';
import { setHow, setMeasure } from '@/store/edits/sets';
import { BarChart } from '@/ui/chart/BarChart';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Section } from '@/ui/Section';
import { useActions, useBench, useFrames, useMerged, useScope } from '../benchContext';
import { EditForm } from '../edits/EditForm';
import { StationFindings } from '../stationFindings';
import { isOneFrame } from '@/store/stages/mergeStage';
import { OtherSection } from './OtherSection';
import { meanShares } from './shares';
import { MERGE_TEXT as TEXT } from './text';

const MEASURES = ['exposedness', 'contrast', 'saturation'] as const;

/** Findings of the merge, the three measures, and how much each frame gave. */
export function MergePanel() {
  const scope = useScope();
  const set = scope?.set;
  const isOne = scope !== undefined && isOneFrame(scope);
  const none = isOne ? TEXT.oneFrameHint : TEXT.none;
  const merged = useMerged();
  const working = useBench((s) => s.work !== undefined);
  const frames = useFrames();
  const shares = useMemo(() => meanShares(merged), [merged]);
  const bars = (merged?.scene.frames ?? []).map((id, i) => ({
    name: frames.find((f) => f.frame.id === id)?.name ?? id,
    value: 100 * (shares.get(id) ?? 0),
    colour: `rgb(${FRAME_COLOURS[i % FRAME_COLOURS.length].join(' ')})`,
  }));
  return (
    <>
      <StationFindings station="merge" title={TEXT.name} none={working ? TEXT.working : none} />
      {set &&
        (set.kind === 'bracket' ? (
          <BracketSections set={set} isOne={isOne} />
        ) : (
          <OtherSection kind={set.kind} />
        ))}
      {set?.kind === 'developments' && <MeasuresSection set={set} />}
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

/** The two ways of merging a bracket, and what each can be told. */
function BracketSections({ set, isOne }: { readonly set: FrameSet; readonly isOne: boolean }) {
  const actions = useActions();
  return (
    <>
      <Section title={TEXT.method}>
        <Choice
          label={TEXT.method}
          value={set.method}
          options={[
            { value: 'fusion', label: TEXT.methods.fusion },
            { value: 'radiance', label: TEXT.methods.radiance },
          ]}
          onChange={(method) =>
            actions.edit(`Merge: ${TEXT.methods[method].toLowerCase()}`, setHow(set.id, { method }))
          }
        />
        {!isOne && <Hint>{set.method === 'fusion' ? TEXT.hint : TEXT.radianceHint}</Hint>}
        <Button onPress={() => actions.go({ look: 'methods' })}>{TEXT.beside}</Button>
      </Section>
      {set.method === 'fusion' ? (
        // of one frame nothing is weighed
        !isOne && <MeasuresSection set={set} />
      ) : (
        <Section title={TEXT.tone}>
          <EditForm at={{ kind: 'set', id: set.id }} kind="toneMap" edit={findEdit(set.edits, 'toneMap')} />
          <Toggle
            label={TEXT.recovered}
            value={set.response === 'recovered'}
            onChange={(on) =>
              actions.edit(
                on ? 'Response recovered from the set' : 'Response as the files say',
                setHow(set.id, { response: on ? 'recovered' : 'srgb' }),
              )
            }
          />
        </Section>
      )}
    </>
  );
}

/** The three measures of a good pixel. */
function MeasuresSection({ set }: { set: FrameSet }) {
  const actions = useActions();
  return (
    <Section title={TEXT.how}>
      {MEASURES.map((measure) => (
        <HeldLine
          key={measure}
          label={TEXT[measure]}
          value={set.merge[measure]}
          max={1}
          onKeep={(v) => actions.edit(`${TEXT[measure]} ${v.toFixed(2)}`, setMeasure(set.id, measure, v))}
        />
      ))}
    </Section>
  );
}

interface HeldLineProps {
  readonly label: string;
  readonly value: number;
  readonly max: number;
  readonly onKeep: (value: number) => void;
}

/** One amount; the merge starts when the hand lets go. */
function HeldLine({ label, value, max, onKeep }: HeldLineProps) {
  const [held, setHeld] = useState<number>();
  return (
    <Measure
      label={label}
      value={held ?? value}
      min={0}
      max={max}
      step={0.05}
      format={(v) => v.toFixed(2)}
      onChange={setHeld}
      onChangeEnd={(v) => {
        onKeep(v);
        setHeld(undefined);
      }}
    />
  );
}
