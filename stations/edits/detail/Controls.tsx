'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { sizeOf } from '@/core/edits/detail/detail';
import { signed } from '@/core/edits/signed';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.detail;
const NAMES = ['fine', 'middle', 'broad'] as const;

export function DetailControls({ settings, onChange }: EditControls<'detail'>) {
  return (
    <>
      {NAMES.map((name) => (
        <Measure
          key={name}
          label={TEXT.band(TEXT[name], sizeOf(name))}
          value={settings[name]}
          min={-1}
          max={1}
          step={0.02}
          format={(v) => `${signed(100 * v, 0)} %`}
          onChange={(v) => onChange({ [name]: v }, TEXT.changed(TEXT[name]), name)}
        />
      ))}
      <Hint>{TEXT.hint}</Hint>
    </>
  );
}
