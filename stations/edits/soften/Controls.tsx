'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { TextureMatch } from '../TextureMatch';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.soften;

export function SoftenControls({ at, settings, onChange }: EditControls<'soften'>) {
  return (
    <>
      <Measure
        label={TEXT.radius}
        value={settings.radius}
        min={0}
        max={Math.max(10, settings.radius)}
        step={0.05}
        format={(v) => `${v.toFixed(2)} px`}
        onChange={(radius) => onChange({ radius }, EDITS_TEXT.names.soften, 'soften')}
      />
      <Hint>{TEXT.hint}</Hint>
      {at.kind === 'layer' && <TextureMatch at={at} />}
    </>
  );
}
