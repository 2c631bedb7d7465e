import { afterEach, expect, test } from '@jest/globals';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type SetKind } from '@/core/capture/setKind';
import { type Frame, type KeptPanorama, type Project } from '@/core/recipe/project';
import { rayOf, turned } from '@/core/register/rotation/cameraModel';
import { referenceRegistration } from '@/core/register/registration';
import { type DecodedFrame } from '@/engine/tasks';
import { inlinePool } from '@/tests/inlinePool';
import { liveBench, until } from '@/tests/liveBench';
import { baseOf, sampleFrame, sampleProject, withFits, withSet } from '@/tests/sampleProject';
import { type Bench } from '../benchState';
import { shownMerge } from '../madePixels';
import { halvingsFor } from './proxyStage';

const [W, H, FOCAL] = [2800, 1800, 3200];
let bench: Bench;
afterEach(() => bench.actions.close());

const turn = (degrees: number): Matrix3 => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [c, 0, -s, 0, 1, 0, s, 0, c];
};

/** A smooth pattern over directions, as a frame turned by `degrees` shows it. */
function patterned(degrees: number, gain: number): EncodedImage {
  const image = emptyImage(W, H, 255);
  const lens = { focalPx: FOCAL, k1: 0, width: W, height: H };
  const back = turn(-degrees);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 3) {
      const [dx, dy, dz] = turned(back, rayOf(lens, x, y));
      const v = gain * (128 + 50 * Math.sin((40 * dx) / dz) * Math.cos((50 * dy) / dz));
      image.data[o] = image.data[o + 1] = v;
      image.data[o + 2] = 0.8 * v;
    }
  return image;
}

/** Opens a set of two large frames that are decoded and fitted, and waits for its merge. */
async function merged(project: Project, images: readonly EncodedImage[]) {
  const pool = inlinePool(2);
  const seen: string[] = [];
  bench = liveBench(project, pool);
  let first: { image: EncodedImage; shares: readonly Uint8Array[] } | undefined;
  bench.store.subscribe((s) => {
    if (s.work && seen[seen.length - 1] !== s.work.text) seen.push(s.work.text);
    const shown = shownMerge(s, baseOf(s.history.project))?.scene;
    if (!s.merged['set'] && shown) first ??= { image: shown.levels[0], shares: shown.shares };
  });
  const decoded = await Promise.all(
    images.map(async (image, i): Promise<[string, DecodedFrame]> => {
      const levels = await pool.run((tasks) => tasks.levels(image));
      return [project.frames[i].hash, { levels } as unknown as DecodedFrame];
    }),
  );
  bench.store.setState({ decoded: Object.fromEntries(decoded) });
  await until(bench, () => bench.store.getState().merged['set'] !== undefined);
  return { first, seen, state: bench.store.getState() };
}

/** Mean difference of two pictures of one size where both are lit, codes of 255. */
function apart(a: EncodedImage, b: EncodedImage): number {
  expect([a.width, a.height]).toEqual([b.width, b.height]);
  let [sum, n] = [0, 0];
  for (let i = 0; i < a.data.length; i += 3 * 101) {
    if (a.data[i] === 0 || b.data[i] === 0) continue;
    sum += Math.abs(a.data[i] / a.white - b.data[i] / b.white);
    n++;
  }
  return (255 * sum) / n;
}

const large = { width: W, height: H };

/** A project of these frames alone, which lie on the first. */
function projectOf(frames: readonly Frame[], kind: SetKind, panorama?: KeptPanorama): Project {
  const own = { frames: frames.map((f) => f.id), reference: frames[0].id };
  const project = withSet({ ...sampleProject({ kind }), frames }, own);
  return withFits(project, Object.fromEntries(frames.map((f) => [f.id, referenceRegistration()])), panorama);
}

test('a large bracket is merged small first, and the whole takes its place', async () => {
  const project = projectOf([sampleFrame('mid', 0, large), sampleFrame('light', 1, large)], 'bracket');
  const { first, seen, state } = await merged(project, [patterned(0, 0.7), patterned(0, 1)]);
  expect(seen).toEqual(expect.arrayContaining(['Merging 2 frames, small first', 'Merging 2 frames']));
  expect(seen.indexOf('Merging 2 frames, small first')).toBeLessThan(seen.indexOf('Merging 2 frames'));
  const whole = state.merged['set']?.scene;
  if (!first || !whole) throw new Error('nothing was shown before the whole');
  // fusion weighs detail, of which there is less in a small picture: alike, not the same
  expect(apart(first.image, whole.levels[0])).toBeLessThan(6);
  expect(first.shares.map((s) => s.length)).toEqual(whole.shares.map((s) => s.length));
  expect(state.proxies['set']).toBeUndefined();
}, 120_000);

test('a large panorama’s small merge lies where the whole will', async () => {
  const fit = { lens: { focalPx: FOCAL, k1: 0, ...large }, rotations: [turn(-8), turn(8)], pairs: [] };
  const frames = [sampleFrame('left', 0, large), sampleFrame('right', 0, large)];
  const project = projectOf(frames, 'panorama', { frames: ['left', 'right'], fit });
  const { first, state } = await merged(project, [patterned(-8, 1), patterned(8, 1)]);
  const whole = state.merged['set']?.scene.levels[0];
  if (!first || !whole) throw new Error('nothing was shown before the whole');
  // a pattern that is off by a pixel of the small picture would differ by 5 codes and more
  expect(apart(first.image, whole)).toBeLessThan(1.2);
}, 120_000);

test('only what takes long is merged small: 1.5 megapixels are not, 24 are halved three times', () => {
  expect(halvingsFor(1.5e6)).toBe(0);
  expect(halvingsFor(4e6)).toBe(0);
  expect(halvingsFor(6e6)).toBe(2);
  expect(halvingsFor(24e6)).toBe(3);
  expect(halvingsFor(100e6)).toBe(4);
});
