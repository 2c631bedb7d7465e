import { expect, test } from '@jest/globals';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type Project } from '@/core/recipe/project';
import { sampleProject } from '@/tests/sampleProject';
import { produce } from 'immer';
import { addEdit, editsAt, newEdit } from '../edits/list';
import { applyCombination, combinationOf, readCombinations } from './combination';
import { PLAIN_COMBINATIONS } from './plainCombinations';

const WHOLE = { kind: 'whole' } as const;
const bare = (): Project => ({ ...sampleProject(), edits: [] });
const changed = (project: Project, ...changes: readonly ReturnType<typeof addEdit>[]): Project =>
  produce(project, (draft) => changes.forEach((change) => change(draft)));

function ids(): () => string {
  let k = 0;
  return () => `new-${k++}`;
}

test('what is changed at a place becomes a combination, and is made elsewhere as far as wished', () => {
  const glow = { ...EDIT_KINDS.glow.plain, amount: 0.6 };
  const region = { id: 'r', name: 'Sky', parts: [], invert: false, feather: 0, grow: 0, follow: 0 };
  const first = changed(
    bare(),
    addEdit(WHOLE, { ...newEdit('a', 'glow', glow), where: region }),
    addEdit(WHOLE, { ...newEdit('b', 'exposure', { stops: 1 }), amount: 0.5 }),
    addEdit(WHOLE, { ...newEdit('c', 'exposure', { stops: -1 }), on: false }),
    addEdit(WHOLE, newEdit('d', 'repair')),
  );
  const own = combinationOf(first, WHOLE, 'mine', 'Mine');
  expect(own?.edits).toEqual([
    { kind: 'exposure', settings: { stops: 1 }, amount: 0.5 },
    { kind: 'glow', settings: glow, amount: 1 },
  ]);
  if (!own) throw new Error('it has edits');
  const other = changed(bare(), applyCombination(WHOLE, own, 0.5, ids()));
  expect(editsAt(other, WHOLE)).toEqual([
    { id: 'new-0', kind: 'exposure', settings: { stops: 1 }, amount: 0.25, on: true },
    { id: 'new-1', kind: 'glow', settings: glow, amount: 0.5, on: true },
  ]);
  expect(combinationOf(bare(), WHOLE, 'none', 'None')).toBeUndefined();
});

test('those that ship can be read, change something, and fall off round the middle of any picture', () => {
  expect(readCombinations(JSON.stringify(PLAIN_COMBINATIONS))).toEqual(PLAIN_COMBINATIONS);
  expect(PLAIN_COMBINATIONS).toHaveLength(5);
  for (const { edits } of PLAIN_COMBINATIONS)
    for (const { kind, settings } of edits)
      expect((EDIT_KINDS[kind].changes as (s: object) => boolean)(settings)).toBe(true);
  const last = PLAIN_COMBINATIONS[4];
  const made = editsAt(changed(bare(), applyCombination(WHOLE, last, 1, ids())), WHOLE);
  // 600 × 400
  expect(made[1].settings).toMatchObject({ x: 0.5, y: 1 / 3, stops: 1 });
});

test('what was kept and is damaged is left out, the others stay', () => {
  const [good] = PLAIN_COMBINATIONS;
  const kept = [
    good,
    { ...good, id: 'kind', edits: [{ kind: 'wobble', settings: {}, amount: 1 }] },
    { ...good, id: 'settings', edits: [{ kind: 'exposure', settings: { stops: 'many' }, amount: 1 }] },
    { ...good, id: 'amount', edits: [{ kind: 'exposure', settings: { stops: 1 }, amount: 7 }] },
    7,
  ];
  expect(readCombinations(JSON.stringify(kept))).toEqual([good]);
  expect(readCombinations('{}')).toEqual([]);
});
