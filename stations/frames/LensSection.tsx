'use client';
import { type LensCorrection, NO_LENS } from '@/core/capture/lensCorrection';
import { setHow } from '@/store/edits';
import { Measure } from '@/ui/controls/Measure';
import { Toggle } from '@/ui/controls/Toggle';
import { useActions, useBench } from '../benchContext';
import { FRAMES_TEXT as TEXT } from './text';

const signed = (v: number, digits: number): string =>
  `${v > 0 ? '+' : v < 0 ? '−' : ''}${Math.abs(v).toFixed(digits)}`;

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

/** What the lens did, by given numbers, taken back in every frame alike. */
export function LensSection() {
  const prepare = useBench((s) => s.history.project.set.prepare);
  const actions = useActions();
  const { lens } = prepare;
  const set = (change: Partial<LensCorrection>, gesture?: string): void =>
    actions.edit(
      'Lens of the set',
      setHow({ prepare: { ...prepare, lens: { ...(lens ?? NO_LENS), ...change } } }),
      gesture,
    );
  const toggle = (on: boolean): void => {
    const { lens: _, ...rest } = prepare;
    actions.edit(
      on ? 'Lens corrected' : 'Lens as shot',
      setHow({ prepare: on ? { ...prepare, lens: NO_LENS } : rest }),
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
    </>
  );
}
