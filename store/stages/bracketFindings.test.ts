import { afterAll, expect, test } from '@jest/globals';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { setScope } from '@/core/recipe/setFrames';
import { emptyProject } from '@/core/recipe/emptyProject';
import { projectBench } from '@/cli/projectBench';
import { inlinePool } from '@/tests/inlinePool';
import { reopened, settled, type SmallProject } from '@/tests/smallProject';
import { smallBracket } from '@/tests/smallBracket';
import { addFiles } from '../addFiles';
import { type Bench } from '../benchState';
import { setKindOfEdit } from '../edits/list';
import { setHow } from '../edits/sets';
import { finishedPicture } from '../deliver';
import { smallMerge } from '../smallMerge';
import { whenState } from '../whenState';
import { nextStage } from './nextStage';

const pool = inlinePool(2);
afterAll(() => pool.close());

const mergedOf = (bench: Bench) => {
  const merged = bench.store.getState().merged[SET];
  if (!merged) throw new Error('no merge');
  return merged;
};

const SET = 'set';

/** A bracket merged to radiance, and what opens it anew. */
async function radianceBench(): Promise<{ bench: Bench; originals: SmallProject['originals'] }> {
  const empty = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  const bench = projectBench(pool, { ...empty, edits: [] });
  const shots = await smallBracket(false, [300, 200]);
  const read = (buffer: Buffer) => () => Promise.resolve(new Uint8Array(buffer));
  await addFiles(
    bench,
    shots.map(({ name, buffer }) => ({ name, read: read(buffer) })),
  );
  bench.actions.edit('Method', setHow(SET, { method: 'radiance' }));
  await settled(bench);
  await resting(bench);
  const byName = new Map(shots.map(({ name, buffer }) => [name, new Uint8Array(buffer)]));
  const { frames } = bench.store.getState().history.project;
  return {
    bench,
    originals: new Map(frames.map(({ hash, file }) => [hash, byName.get(file) ?? new Uint8Array()])),
  };
}

/** Everything is made, findings too. */
const resting = (bench: Bench) =>
  whenState(bench.store, (state) => !state.work && nextStage(state, false) === undefined);

function meanOf({ data, white }: EncodedImage): number {
  let sum = 0;
  for (const code of data) sum += code;
  return sum / data.length / white;
}

test('findings and noise of a radiance merge do not depend on which tone maps it had before', async () => {
  const { bench, originals } = await radianceBench();
  const before = mergedOf(bench);
  expect(before.scene.frames).toHaveLength(3);
  const at = { kind: 'set', id: SET } as const;
  bench.actions.edit('Tone', setKindOfEdit(at, 'toneMap', { strength: 0, detail: 2 }, `${SET}-toneMap`));
  await resting(bench);
  const after = mergedOf(bench);
  // the range is no longer pressed: something of it is lost now, and is told
  expect(after.findings).not.toEqual(before.findings);
  expect(after.key).toBe(before.key);
  const { project } = bench.store.getState().history;
  const fresh = await reopened(pool, { project: { ...project, made: {} }, originals });
  await settled(fresh);
  await resting(fresh);
  expect(mergedOf(fresh).findings).toEqual(after.findings);
  expect(mergedOf(fresh).scene.noise).toEqual(after.scene.noise);
  await Promise.all([bench.actions.close(), fresh.actions.close()]);
});

test('a radiance merge is as light in its small picture as the picture is', async () => {
  const { bench } = await radianceBench();
  const state = bench.store.getState();
  const scope = setScope(state.history.project, SET);
  const small = scope && smallMerge(state, scope);
  if (!small) throw new Error('no small picture');
  const whole = meanOf(await finishedPicture(bench, 65535, 0));
  expect(Math.abs(meanOf(small) - whole)).toBeLessThan(0.02);
  // the light itself is another: without its tone map this small picture would be told apart
  const untoned = meanOf(mergedOf(bench).scene.levels[0]);
  expect(Math.abs(untoned - whole)).toBeGreaterThan(0.03);
  await bench.actions.close();
});
