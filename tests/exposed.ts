import { type Project } from '@/core/recipe/project';
import { type Change } from '@/store/edits/drafts';
import { setKindOfEdit } from '@/store/edits/list';

/** Exposes the whole picture by so many EV. */
export const exposed = (stops: number): Change =>
  setKindOfEdit({ kind: 'whole' }, 'exposure', { stops }, 'whole-exposure');

/** EV that the whole picture is exposed by; 0 where it is as it was. */
export function exposureOf({ edits }: Project): number {
  const edit = edits.find((e) => e.kind === 'exposure');
  return edit?.kind === 'exposure' ? edit.settings.stops : 0;
}
