'use client';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS, type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { type EditOwner, setEdit, setKindOfEdit } from '@/store/edits/list';
import { useActions } from '../benchContext';
import { type EditControls } from './controls';
import { ExposureControls } from './exposure/Controls';
import { MatchControls } from './match/Controls';
import { NeutralControls } from './neutral/Controls';
import { NoiseControls } from './noise/Controls';
import { RepairControls } from './repair/Controls';
import { SaturationControls } from './saturation/Controls';
import { SharpenControls } from './sharpen/Controls';
import { ToneMapForm } from './toneMap/Controls';
import { ZonesControls } from './zones/Controls';
import { newEditId } from './editIds';

/** The controls of each kind; a new kind is a folder beside these and a line here. */
const CONTROLS: { readonly [K in EditKindName]: (props: EditControls<K>) => React.ReactNode } = {
  repair: RepairControls,
  neutral: NeutralControls,
  exposure: ExposureControls,
  toneMap: ToneMapForm,
  match: MatchControls,
  zones: ZonesControls,
  saturation: SaturationControls,
  noise: NoiseControls,
  sharpen: SharpenControls,
};

/** The settings of an edit, or of one that there is not yet: the first change makes it. */
export function EditForm<K extends EditKindName>({
  at,
  kind,
  edit,
}: {
  readonly at: EditOwner;
  readonly kind: K;
  readonly edit: Edit | undefined;
}) {
  const actions = useActions();
  const Controls = CONTROLS[kind] as (props: EditControls<K>) => React.ReactNode;
  const settings = (edit?.settings ?? EDIT_KINDS[kind].plain) as EditSettings[K];
  const id = edit?.id ?? newEditId(at, kind);
  return (
    <Controls
      at={at}
      {...(edit ? { id: edit.id } : {})}
      settings={settings}
      onChange={(change, name, gesture) =>
        actions.edit(
          name,
          edit
            ? setEdit(at, edit.id, { settings: { ...settings, ...change } })
            : setKindOfEdit(at, kind, change, id),
          gesture === undefined ? undefined : `${gesture} ${id}`,
        )
      }
    />
  );
}
