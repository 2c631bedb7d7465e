'use client';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS, type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { changeSettings, type EditOwner, setKindOfEdit } from '@/store/edits/list';
import { useActions } from '../benchContext';
import { type EditControls } from './controls';
import { ChartControls } from './chart/Controls';
import { ExposureControls } from './exposure/Controls';
import { GrainControls } from './grain/Controls';
import { HuesControls } from './hues/Controls';
import { MatchControls } from './match/Controls';
import { NeutralControls } from './neutral/Controls';
import { NoiseControls } from './noise/Controls';
import { RepairControls } from './repair/Controls';
import { SaturationControls } from './saturation/Controls';
import { SharpenControls } from './sharpen/Controls';
import { SoftenControls } from './soften/Controls';
import { TintControls } from './tint/Controls';
import { ToneMapControls } from './toneMap/Controls';
import { DeblurControls } from './deblur/Controls';
import { DetailControls } from './detail/Controls';
import { GlowControls } from './glow/Controls';
import { OverTimeControls } from './overTime/Controls';
import { VeilControls } from './veil/Controls';
import { VignetteControls } from './vignette/Controls';
import { ZonesControls } from './zones/Controls';
import { newEditId } from './editIds';

/** The controls of each kind; a new kind is a folder beside these and a line here. */
const CONTROLS: { readonly [K in EditKindName]: (props: EditControls<K>) => React.ReactNode } = {
  repair: RepairControls,
  chart: ChartControls,
  neutral: NeutralControls,
  exposure: ExposureControls,
  toneMap: ToneMapControls,
  match: MatchControls,
  zones: ZonesControls,
  saturation: SaturationControls,
  hues: HuesControls,
  noise: NoiseControls,
  soften: SoftenControls,
  sharpen: SharpenControls,
  grain: GrainControls,
  tint: TintControls,
  overTime: OverTimeControls,
  detail: DetailControls,
  deblur: DeblurControls,
  veil: VeilControls,
  glow: GlowControls,
  vignette: VignetteControls,
};

/** What a change puts in the place of settings. */
const changedBy = <S extends object>(change: Partial<S> | ((now: S) => Partial<S>), now: S): Partial<S> =>
  typeof change === 'function' ? change(now) : change;

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
            ? changeSettings(at, edit.id, (now) => changedBy(change, now as EditSettings[K]))
            : setKindOfEdit(at, kind, changedBy(change, settings), id),
          gesture === undefined ? undefined : `${gesture} ${id}`,
        )
      }
    />
  );
}
