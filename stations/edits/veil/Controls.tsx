'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.veil;

export function VeilControls({ settings, onChange }: EditControls<'veil'>) {
  return (
    <>
      <Measure
        label={TEXT.amount}
        value={settings.amount}
        min={0}
        max={1}
        step={0.01}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(amount) => onChange({ amount }, TEXT.amount, 'amount')}
      />
      <Measure
        label={TEXT.radius}
        value={Math.log2(settings.radius)}
        min={0}
        max={8}
        step={0.05}
        format={(v) => `${Math.round(2 ** v)} px`}
        onChange={(radius) => onChange({ radius: 2 ** radius }, TEXT.radius, 'radius')}
      />
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
