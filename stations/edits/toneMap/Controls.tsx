'use client';
import { Measure } from '@/ui/controls/Measure';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.toneMap;

/** How a radiance map is brought to the range of a print: strength and detail. */
export function ToneMapControls({ settings, onChange }: EditControls<'toneMap'>) {
  return (
    <>
      <Measure
        label={TEXT.strength}
        value={settings.strength}
        min={0}
        max={1}
        step={0.05}
        format={(v) => v.toFixed(2)}
        onChange={(strength) => onChange({ strength }, TEXT.strength, 'tone strength')}
      />
      <Measure
        label={TEXT.detail}
        value={settings.detail}
        min={0}
        max={2}
        step={0.05}
        neutral={1}
        format={(v) => v.toFixed(2)}
        onChange={(detail) => onChange({ detail }, TEXT.detail, 'tone detail')}
      />
    </>
  );
}
