import { type TextureMatch } from '@/core/match/texture/matchTexture';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type Bench } from './benchState';
import { type EditOwner, removeKindOfEdit, setKindOfEdit } from './edits/list';

/** Gives something the grain and the edges that were measured beside it, as edits of its own in one step. */
export function makeTextureAlike(
  bench: Bench,
  at: EditOwner,
  { soften, sharpen, grain }: TextureMatch,
  label: string,
): void {
  const id = at.kind === 'whole' ? at.kind : at.id;
  bench.actions.edit(label, (draft) => {
    // what an earlier measure has left is not what is missing now
    if (soften === undefined) removeKindOfEdit(at, 'soften')(draft);
    else setKindOfEdit(at, 'soften', { radius: soften }, `${id}-soften`)(draft);
    if (sharpen)
      setKindOfEdit(
        at,
        'sharpen',
        { ...EDIT_KINDS.sharpen.plain, ...sharpen, edge: 0 },
        `${id}-sharpen`,
      )(draft);
    if (grain) setKindOfEdit(at, 'grain', grain, `${id}-grain`)(draft);
    else removeKindOfEdit(at, 'grain')(draft);
  });
}
