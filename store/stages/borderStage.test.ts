import { afterEach, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { factsOf, shootView } from '@/camera/shootView';
import { writeExif } from '@/camera/writeExif';
import { encodeJpeg } from '@/core/codecs/write/encodeJpeg';
import { proposedCrop } from '@/core/recipe/cropOf';
import { meshOf, pictureGrid } from '@/core/recipe/pictureGrid';
import { emptyProject } from '@/core/recipe/emptyProject';
import { panoramaOf } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { nodePlatform } from '@/engine/nodePlatform';
import { millAtDusk } from '@/tests/knownScene';
import { liveBench, until } from '@/tests/liveBench';
import { baseOf } from '@/tests/sampleProject';
import { addFiles } from '../addFiles';
import { type Bench } from '../benchState';
import { setKind, setOther } from '../edits/sets';

let bench: Bench;
afterEach(() => bench.actions.close());

const project = (): Project => bench.store.getState().history.project;
const mesh = () => meshOf(baseOf(project()));
test('a panorama is bent to a rectangle when that is asked for, again for another projection, and back by undo', async () => {
  const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
  const { encodeJpeg: encode } = nodePlatform();
  // a camera that was not level: its frames step up and down
  const files = await Promise.all(
    [-11, 0, 11].map(async (yaw, i) => {
      const shot = {
        ...{ width: 420, height: 280, lens: { ...PLAIN_LENS, focalLength: 60 } },
        stand: { yaw, pitch: 2 * (i - 1), roll: 2 },
        ...{ seconds: 0.5, iso: 100, seed: i },
      };
      const taken = new Date(Date.parse('2026-10-03T18:00:00Z') + 9000 * i).toISOString().slice(0, 23);
      const jpeg = await encodeJpeg(shootView(scene, shot).image, 95, encode);
      return {
        name: `step-${i}.jpg`,
        read: () => Promise.resolve(writeExif(jpeg, factsOf(shot, taken))),
      };
    }),
  );
  const empty = emptyProject('p', 'Marsh', '2026-10-03T12:00:00.000Z');
  bench = liveBench(empty);
  await addFiles(bench, files);
  bench.actions.edit('a panorama', setKind('set', 'panorama'));
  await until(
    bench,
    () => panoramaOf(baseOf(project())) !== undefined && bench.store.getState().merged['set'] !== undefined,
  );
  const share = (): number => {
    const [grid, crop] = [pictureGrid(project()), proposedCrop(project())];
    return grid && crop ? (crop.width * crop.height) / (grid.width * grid.height) : 0;
  };
  const cropped = share();
  expect(cropped).toBeLessThan(0.85);

  bench.actions.edit('bent', setOther('set', { border: 'warp' }));
  const ids = (): string[] => bench.store.getState().merged['set']?.findings.map((f) => f.id) ?? [];
  await until(bench, () => ids().includes('merge.bent'));
  expect(share()).toBeGreaterThan(0.93);
  const picture = bench.store.getState().merged['set']?.scene.levels[0];
  const { width, height } = pictureGrid(project()) ?? { width: 0, height: 0 };
  expect(picture).toMatchObject({ width, height });
  expect(project().log.some((entry) => entry.text.startsWith('Bent the border'))).toBe(true);
  const first = mesh();

  bench.actions.edit('cylinder', setOther('set', { projection: 'cylindrical' }));
  await until(bench, () => mesh()?.projection === 'cylindrical' && ids().includes('merge.bent'));
  expect(mesh()).not.toEqual(first);
  expect(share()).toBeGreaterThan(0.93);

  bench.actions.undo();
  bench.actions.undo();
  await until(bench, () => bench.store.getState().work === undefined && !ids().includes('merge.bent'));
  expect(share()).toBeCloseTo(cropped, 5);
}, 120_000);
