import { type Edit } from './edit';
import { RANKS } from './rank';
import { type EditKind } from './editKind';
import { EDIT_KINDS, type EditKindName } from './editKinds';

/** The kind of an edit, whatever its settings. */
export const kindOf = ({ kind }: Pick<Edit, 'kind'>): EditKind<object> =>
  EDIT_KINDS[kind] as unknown as EditKind<object>;

const rankOf = (edit: Edit): number => RANKS.indexOf(edit.rank ?? kindOf(edit).rank);

/** Edits in the order in which they are done: by rank, within a rank as they were made. */
export function ranked(edits: readonly Edit[]): Edit[] {
  return edits
    .map((edit, i) => ({ edit, i }))
    .sort((a, b) => rankOf(a.edit) - rankOf(b.edit) || a.i - b.i)
    .map(({ edit }) => edit);
}

/** What an edit does, a few words. */
export const says = (edit: Edit): string => kindOf(edit).says(edit.settings);

/** Whether an edit changes anything as it stands. */
export const changes = (edit: Edit): boolean =>
  edit.on && edit.amount > 0 && kindOf(edit).changes(edit.settings);

/** Whether an edit belongs after the picture was set straight: detail and finish are those of the pixels that are delivered. */
export const isLate = (edit: Edit): boolean => rankOf(edit) >= RANKS.indexOf('detail');

/** The first edit of a kind in a list. */
export function findEdit<K extends EditKindName>(
  edits: readonly Edit[],
  kind: K,
): Extract<Edit, { kind: K }> | undefined {
  return edits.find((e): e is Extract<Edit, { kind: K }> => e.kind === kind);
}
