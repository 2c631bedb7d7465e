'use client';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { findEdit } from '@/core/edits/ranked';
import { type EditOwner, editsAt, setKindOfEdit } from '@/store/edits/list';
import { Measure } from '@/ui/controls/Measure';
import { useActions, useBench } from '../../benchContext';
import { type EditControls } from '../controls';
import { EDITS_TEXT } from '../text';

const TEXT = EDITS_TEXT.toneMap;

/** How a radiance map is brought to the range of a print: strength and detail. */
export function ToneMapForm({ settings, onChange }: Omit<EditControls<'toneMap'>, 'at'>) {
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

/** The tone map of a set, by itself. */
export function ToneMapControls({ at }: { readonly at: EditOwner }) {
  const edit = useBench((s) => findEdit(editsAt(s.history.project, at), 'toneMap'));
  const actions = useActions();
  const id = at.kind === 'whole' ? 'whole' : at.id;
  return (
    <ToneMapForm
      settings={edit?.settings ?? EDIT_KINDS.toneMap.plain}
      onChange={(change, name, gesture) =>
        actions.edit(
          name,
          setKindOfEdit(at, 'toneMap', change, `${id}-toneMap`),
          gesture && `${gesture} ${id}`,
        )
      }
    />
  );
}
