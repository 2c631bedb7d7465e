'use client';
import { Measure } from '@/ui/controls/Measure';
import { Hint } from '@/ui/Section';
import { type EditControls } from '../controls';
import { TextureMatch } from '../TextureMatch';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.grain;

export function GrainControls({ at, settings, onChange }: EditControls<'grain'>) {
  return (
    <>
      <Measure
        label={TEXT.strength}
        value={settings.strength}
        min={0}
        max={Math.max(15, settings.strength)}
        step={0.1}
        format={(v) => v.toFixed(1)}
        onChange={(strength) => onChange({ strength }, EDITS_TEXT.names.grain, 'grain')}
      />
      <Measure
        label={TEXT.size}
        value={settings.size}
        min={0}
        max={Math.max(3, settings.size)}
        step={0.05}
        format={(v) => `${v.toFixed(2)} px`}
        onChange={(size) => onChange({ size }, `${EDITS_TEXT.names.grain}: ${TEXT.size}`, 'grain size')}
      />
      <Measure
        label={TEXT.colour}
        value={settings.colour}
        min={0}
        max={1}
        step={0.05}
        format={(v) => `${Math.round(100 * v)} %`}
        onChange={(colour) =>
          onChange({ colour }, `${EDITS_TEXT.names.grain}: ${TEXT.colour}`, 'grain colour')
        }
      />
      <Hint>{TEXT.hint}</Hint>
      {at.kind === 'layer' && <TextureMatch at={at} />}
    </>
  );
}
