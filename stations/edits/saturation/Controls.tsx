'use client';
import { Measure } from '@/ui/controls/Measure';
import { type EditControls } from '../controls';
import { EDITS_TEXT as TEXT } from '../text';

export function SaturationControls({ settings, onChange }: EditControls<'saturation'>) {
  return (
    <Measure
      label={TEXT.names.saturation}
      value={settings.factor}
      min={0}
      max={2}
      step={0.02}
      neutral={1}
      format={(v) => `${Math.round(100 * v)} %`}
      onChange={(factor) => onChange({ factor }, TEXT.names.saturation, 'saturation')}
    />
  );
}
