'use client';
import { useEffect, useRef, useState } from 'react';
import { type LensCorrection, NO_LENS } from '@/core/capture/lensFaults';
import { joinedFrames } from '@/core/recipe/setFrames';
import { measureLens } from '@/engine/measureLens';
import { activeScope } from '@/store/activeSet';
import { setHow, setMeasuredLens } from '@/store/edits/sets';
import { Button } from '@/ui/controls/Button';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint } from '@/ui/Section';
import { useActions, useBenchParts, useScope } from '../benchContext';
import { FRAMES_TEXT as TEXT } from './text';

const signed = (v: number, digits: number): string => {
  const text = Math.abs(v).toFixed(digits);
  // what rounds to nothing has no sign
  return `${Number(text) === 0 ? '' : v > 0 ? '+' : '−'}${text}`;
};

const NUMBERS = [
  { part: 'distortion', most: 0.1, step: 0.001, format: (v: number) => `${signed(100 * v, 1)} %` },
  { part: 'vignette', most: 2, step: 0.05, format: (v: number) => `${signed(v, 2)} EV` },
  { part: 'red', most: 0.003, step: 0.0001, format: (v: number) => `${signed(1000 * v, 1)} ‰` },
  { part: 'blue', most: 0.003, step: 0.0001, format: (v: number) => `${signed(1000 * v, 1)} ‰` },
] as const satisfies readonly {
  part: keyof LensCorrection;
  most: number;
  step: number;
  format: (v: number) => string;
}[];

/** What the lens did, by given or measured numbers, taken back in every frame alike. */
export function LensSection() {
  const own = useScope()?.set;
  const actions = useActions();
  const { measure, busy, told } = useLensMeasure();
  if (!own) return null;
  const { id, prepare } = own;
  const { lens } = prepare;
  const set = (change: Partial<LensCorrection>, gesture?: string): void =>
    actions.edit(
      'Lens of the set',
      setHow(id, { prepare: { ...prepare, lens: { ...(lens ?? NO_LENS), ...change } } }),
      gesture,
    );
  const toggle = (on: boolean): void => {
    const { lens: _, ...rest } = prepare;
    actions.edit(
      on ? 'Lens corrected' : 'Lens as shot',
      setHow(id, { prepare: on ? { ...prepare, lens: NO_LENS } : rest }),
    );
  };
  return (
    <>
      <Toggle label={TEXT.lens} value={lens !== undefined} onChange={toggle} />
      {lens &&
        NUMBERS.map(({ part, most, step, format }) => (
          <Measure
            key={part}
            label={TEXT.lensParts[part]}
            value={lens[part]}
            min={-most}
            max={most}
            step={step}
            neutral={0}
            format={format}
            onChange={(v) => set({ [part]: v }, `lens ${part}`)}
          />
        ))}
      {lens && (
        <Button isDisabled={busy} onPress={measure}>
          {busy ? TEXT.measuringLens : TEXT.measureLens}
        </Button>
      )}
      {lens && told && <Hint role="status">{told}</Hint>}
    </>
  );
}

/** Measures the lens of the frames in use as they were shot. */
function useLensMeasure() {
  const { bench } = useBenchParts();
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState('');
  const running = useRef<AbortController | undefined>(undefined);
  useEffect(() => () => running.current?.abort(), []);
  const measure = (): void => {
    const state = bench.store.getState();
    const { decoded } = state;
    const scope = activeScope(state);
    if (!scope) return;
    const { set } = scope;
    const used = joinedFrames(scope).filter((f) => decoded[f.hash]);
    const frames = used.map((f) => ({ levels: decoded[f.hash].levels, facts: f.facts }));
    if (frames.length === 0) return;
    const at = Math.max(
      0,
      used.findIndex((f) => f.id === set.reference),
    );
    running.current?.abort();
    const controller = new AbortController();
    running.current = controller;
    setBusy(true);
    measureLens(bench.pool, set.kind, frames, at, { signal: controller.signal })
      .then((measured) => {
        const { turned, lateral } = measured;
        // meanwhile other things may have been set
        if (turned || lateral) bench.actions.edit(TEXT.lensMeasured, setMeasuredLens(set.id, measured.lens));
        setTold(TEXT.lensTold[turned ? (lateral ? 'all' : 'bends') : lateral ? 'colours' : 'nothing']);
        setBusy(false);
      })
      .catch(() => {
        if (!controller.signal.aborted) {
          setTold(TEXT.lensTold.stopped);
          setBusy(false);
        }
      });
  };
  return { measure, busy, told };
}
