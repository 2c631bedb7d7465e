'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.sharpen;

export function SharpenControls({ settings, onChange }: EditControls<'sharpen'>) {
  return (
    <>
      <Measure
        label={TEXT.amount}
        value={settings.amount}
        min={0}
        max={2}
        step={0.05}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(amount) => onChange({ amount }, TEXT.amount, 'Sharpening')}
      />
      <Measure
        label={TEXT.radius}
        value={settings.radius}
        min={0.5}
        max={4}
        step={0.1}
        format={(v) => `${v.toFixed(1)} px`}
        onChange={(radius) => onChange({ radius }, 'Sharpening radius', 'Sharpening radius')}
      />
      <Measure
        label={TEXT.edge}
        value={settings.edge}
        min={0}
        max={1}
        step={0.05}
        format={(v) => `${v.toFixed(2)} EV`}
        onChange={(edge) => onChange({ edge }, 'Sharpening edges', 'Sharpening edges')}
      />
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
