import { type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { type EditOwner } from '@/store/edits/list';

/** What the controls of a kind of edit are given. */
export interface EditControls<K extends EditKindName> {
  readonly at: EditOwner;
  /** of the edit; absent where there is none yet */
  readonly id?: string;
  /** the settings as they stand; those it begins with where there is none yet */
  readonly settings: EditSettings[K];
  /**
   * @param change what becomes of settings; of those that there are then where it is more than one value put in its place
   * @param name of the step
   * @param gesture joins what one movement does
   */
  readonly onChange: (
    change: Partial<EditSettings[K]> | ((now: EditSettings[K]) => Partial<EditSettings[K]>),
    name: string,
    gesture?: string,
  ) => void;
}
