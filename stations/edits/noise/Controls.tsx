'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { useMerged } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT as TEXT } from '../text';

export function NoiseControls({ settings, onChange }: EditControls<'noise'>) {
  const noise = useMerged('now')?.scene.noise;
  return (
    <>
      <Measure
        label={TEXT.names.noise}
        value={settings.strength}
        min={0}
        max={1}
        step={0.05}
        neutral={0.5}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(strength) => onChange({ strength }, TEXT.names.noise, 'noise')}
      />
      <Hint>
        {noise !== undefined && `${TEXT.noise.measured} ${(255 * noise).toFixed(1)}/255. `}
        {TEXT.noise.hint}
      </Hint>
    </>
  );
}
