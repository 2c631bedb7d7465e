import { type TextureMatch } from '@/core/match/texture/matchTexture';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { findEdit } from '@/core/edits/ranked';
import { type Bench } from './benchState';
import { type EditOwner, removeKindOfEdit, setKindOfEdit } from './edits/list';

/** Whether edits are those that a measure asks for. */
export function isTextureMade(
  edits: readonly Edit[],
  { soften, sharpen, grain }: Pick<TextureMatch, 'soften' | 'sharpen' | 'grain'>,
): boolean {
  return (
    findEdit(edits, 'soften')?.settings.radius === soften &&
    findEdit(edits, 'grain')?.settings.strength === grain?.strength &&
    (sharpen === undefined || findEdit(edits, 'sharpen')?.settings.amount === sharpen.amount)
  );
}

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
