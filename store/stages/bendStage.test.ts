import { afterEach, expect, test } from '@jest/globals';
import { encodePng } from '@/core/codecs/write/encodePng';
import { proposedCrop } from '@/core/recipe/cropOf';
import { emptyProject } from '@/core/recipe/emptyProject';
import { parseProject } from '@/core/recipe/parseProject';
import { type Project } from '@/core/recipe/project';
import { bendOf, fitOf, mergedFrames, planeFitOf } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { liveBench, until } from '@/tests/liveBench';
import { type NearAndFar, seenFrom } from '@/tests/nearAndFar';
import { baseOf } from '@/tests/sampleProject';
import { addFiles } from '../addFiles';
import { type Bench } from '../benchState';
import { setReference } from '../edits/frames';
import { setBent, setKind } from '../edits/sets';
import { stationFindings } from '../stationFindings';

let bench: Bench;
afterEach(() => bench.actions.close());

const project = (): Project => bench.store.getState().history.project;
const scope = () => baseOf(project());
const merged = () => bench.store.getState().merged['set'];
const isMerged = (): boolean => merged()?.key === setGraph(scope()).merge;

/** A bench with two frames of a view, as moments held on the first. */
async function moments(view: NearAndFar): Promise<string> {
  const files = await Promise.all(
    (['reference', 'frame'] as const).map(async (from, i) => {
      const png = await encodePng(seenFrom(view, from, 0, i + 1));
      return { name: `${from}.png`, read: () => Promise.resolve(png) };
    }),
  );
  bench = liveBench(emptyProject('p', 'Marsh', '2026-11-30T12:00:00.000Z'));
  await addFiles(bench, files);
  const [on, own] = files.map(({ name }) => project().frames.find((f) => f.file === name)?.id ?? '');
  bench.actions.edit('moments', setKind('set', 'moments'));
  bench.actions.edit('held', setReference(on));
  for (const f of project().frames) expect(f.used).toBe(true);
  await until(bench, isMerged);
  return own;
}

test('a frame is bent where that is asked for, its findings are those of the bent frame, and undo has the plane again', async () => {
  const own = await moments({ width: 420, height: 280, far: (x) => -2 + x / 84, near: [7, -2] });
  const plain = setGraph(scope()).merge;
  const plane = fitOf(scope(), { id: own });
  bench.actions.edit('bent', setBent('set', [own]));
  expect(setGraph(scope()).merge).not.toBe(plain);
  await until(bench, isMerged);
  const bend = bendOf(scope(), { id: own });
  expect(bend?.agreement.after).toBeGreaterThan(0.95);
  const worst = stationFindings(bench.store.getState(), 'fit')?.find((f) => f.id === 'fit.worst');
  expect(worst?.value).toBe(bend?.residual.worst);
  const [{ width, registration }] = mergedFrames(scope()).filter(({ frame }) => frame.id === own);
  // what the bend would have to make up is cut off, and the crop knows
  expect(width).toBe(bend?.inside.width);
  expect(registration.matrix[2]).toBeCloseTo((plane?.matrix[2] ?? 0) - (bend?.inside.x ?? 0), 9);
  expect(proposedCrop(project())?.width).toBeLessThan(420);
  // the recipe keeps it whole
  expect(parseProject(JSON.parse(JSON.stringify(project())), 'bent.marsh')).toEqual(project());
  bench.actions.undo();
  expect(setGraph(scope()).merge).toBe(plain);
  await until(bench, isMerged);
  expect(fitOf(scope(), { id: own })).toEqual(plane);
}, 100_000);

test('a frame that no plane lays is laid by a bend that shows that it is the same view, and by none that does not', async () => {
  // a wall in folds
  const far = (x: number): number => 8 * Math.sin(x / 50);
  const own = await moments({ width: 420, height: 280, far, near: [-7, 6] });
  expect(planeFitOf(scope(), { id: own })?.fitted).toBe(false);
  expect(mergedFrames(scope())).toHaveLength(1);
  bench.actions.edit('bent', setBent('set', [own]));
  await until(bench, isMerged);
  expect(fitOf(scope(), { id: own })?.fitted).toBe(true);
  expect(mergedFrames(scope())).toHaveLength(2);
}, 100_000);
