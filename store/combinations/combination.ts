import { array, string } from 'yup';
import { type Draft } from 'immer';
import { type Edit } from '@/core/edits/edit';
import { EDIT_KINDS, type EditKindName } from '@/core/edits/editKinds';
import { changes, ranked } from '@/core/edits/ranked';
import { centredOn } from '@/core/edits/vignette/centredOn';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { share, strict, text } from '@/core/recipe/schemaParts';
import { type Change } from '../edits/drafts';
import { addEdit, type EditOwner, editsAt } from '../edits/list';

/** An edit without its place: what of it holds in any picture. */
export interface LooseEdit {
  readonly kind: EditKindName;
  readonly settings: object;
  readonly amount: number;
}

/** Edits under one name, to be made in other pictures. */
export interface Combination {
  readonly id: string;
  readonly name: string;
  readonly edits: readonly LooseEdit[];
}

/** kinds that speak of frames or places of one picture */
const OF_ONE_PICTURE: ReadonlySet<EditKindName> = new Set(['repair', 'chart', 'toneMap']);
/** most that are kept, and edits of one */
export const MOST_COMBINATIONS = 60;
const MOST_EDITS = 30;

/** What is changed at a place, as a combination; undefined where nothing of it holds elsewhere. Regions stay behind: they are of their picture. */
export function combinationOf(
  project: Project,
  at: EditOwner,
  id: string,
  name: string,
): Combination | undefined {
  const edits = ranked(editsAt(project, at))
    .filter((e) => e.on && changes(e) && !OF_ONE_PICTURE.has(e.kind))
    .slice(0, MOST_EDITS)
    .map(({ kind, settings, amount }): LooseEdit => ({ kind, settings, amount }));
  return edits.length > 0 ? { id, name, edits } : undefined;
}

/** Makes the edits of a combination at a place, taken over so far. @param newId one for each */
export const applyCombination =
  (at: EditOwner, { edits }: Combination, amount: number, newId: () => string): Change =>
  (draft: Draft<Project>) => {
    const grid = pictureGrid(draft);
    for (const { kind, settings, amount: own } of edits) {
      // light falls off round the middle of this picture, whatever its shape
      const placed =
        kind === 'vignette' && grid ? { ...settings, ...centredOn(grid) } : structuredClone(settings);
      addEdit(at, { id: newId(), kind, settings: placed, amount: own * amount, on: true } as Edit)(draft);
    }
  };

const SCHEMA = array(
  strict({
    id: text(80),
    name: text(120),
    edits: array(
      strict({
        kind: string()
          .oneOf(Object.keys(EDIT_KINDS) as EditKindName[])
          .required(),
        settings: strict({}).noUnknown(false),
        amount: share(),
      }),
    )
      .max(MOST_EDITS)
      .required(),
  }),
)
  .max(MOST_COMBINATIONS)
  .required();

/** Combinations as they were kept; those that cannot be read are left out. */
export function readCombinations(kept: string): Combination[] {
  const value: unknown = JSON.parse(kept);
  if (!Array.isArray(value)) return [];
  return value.filter((one): one is Combination => {
    if (!SCHEMA.isValidSync([one], { strict: true })) return false;
    return (one as Combination).edits.every(({ kind, settings }) =>
      EDIT_KINDS[kind].schema.isValidSync(settings, { strict: true }),
    );
  });
}
