import { type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { type EditOwner } from '@/store/edits/list';

/** What the controls of a kind of edit are given. */
export interface EditControls<K extends EditKindName> {
  readonly at: EditOwner;
  /** of the edit; absent where there is none yet */
  readonly id?: string;
  /** the settings as they stand; those it begins with where there is none yet */
  readonly settings: EditSettings[K];
  /** @param name of the step; `gesture` joins what one movement does */
  readonly onChange: (settings: Partial<EditSettings[K]>, name: string, gesture?: string) => void;
}
