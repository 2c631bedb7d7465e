'use client';
import { signed } from '@/core/edits/signed';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.glow;

export function GlowControls({ settings, onChange }: EditControls<'glow'>) {
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
        label={TEXT.from}
        value={settings.from}
        min={-2}
        max={6}
        step={0.1}
        format={(v) => `${signed(v, 1)} EV`}
        onChange={(from) => onChange({ from }, TEXT.from, 'from')}
      />
      <Measure
        label={TEXT.reach}
        value={Math.log2(settings.reach)}
        min={1}
        max={10}
        step={0.05}
        format={(v) => `${Math.round(2 ** v)} px`}
        onChange={(reach) => onChange({ reach: 2 ** reach }, TEXT.reach, 'reach')}
      />
      <Measure
        label={TEXT.warmth}
        value={settings.warmth}
        min={-1}
        max={1}
        step={0.02}
        format={TEXT.warm}
        onChange={(warmth) => onChange({ warmth }, TEXT.warmth, 'warmth')}
      />
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
