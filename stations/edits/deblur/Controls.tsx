'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.deblur;

export function DeblurControls({ settings, onChange }: EditControls<'deblur'>) {
  return (
    <>
      <Measure
        label={TEXT.steps}
        value={settings.steps}
        min={0}
        max={20}
        step={1}
        format={String}
        onChange={(steps) => onChange({ steps }, TEXT.steps, 'steps')}
      />
      <Measure
        label={TEXT.radius}
        value={settings.radius}
        min={0.3}
        max={6}
        step={0.05}
        format={(v) => `${v.toFixed(2)} px`}
        onChange={(radius) => onChange({ radius }, TEXT.radius, 'radius')}
      />
      <Measure
        label={TEXT.ringing}
        value={settings.ringing}
        min={0}
        max={0.5}
        step={0.01}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(ringing) => onChange({ ringing }, TEXT.ringing, 'ringing')}
      />
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
