import { type EditKindName } from '@/core/edits/editKinds';
import { type EditOwner } from '@/store/edits/list';

/** Names what an edit belongs to. */
export const ownerKey = (at: EditOwner): string => (at.kind === 'whole' ? 'whole' : at.id);

/** The id of the first edit of a kind at a place. */
export const newEditId = (at: EditOwner, kind: EditKindName): string => `${ownerKey(at)}-${kind}`;
