import { describe, expect, test } from '@jest/globals';
import { largestDifference, paint, waves } from '@/tests/paint';
import { kernels } from '../../kernels/kernels';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { type EncodedImage } from '../../raster/encodedImage';
import { IDENTITY, type Matrix3 } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { fusionBuffers, planFusion } from '../fusionPlan';
import { farAnswers } from './farAnswers';
import { type FocusEnergy, focusEnergy, plainEnergy } from './focusEnergy';
import { type CellBand, cellBands, type FocusBuffers, focusBuffers } from './focusPlan';
import { fuseFocusBand, fuseFocusBandPlain } from './fuseFocusBand';
import { mapBand, plainMapBand } from './mapBand';
import { plainShareBand, shareBand } from './shareBand';
import { askSurroundings, plainSurroundings } from './surroundings';

const [W, H] = [203, 151];
const TILTED: Matrix3 = [1.01, 0.012, -3.4, -0.011, 0.99, 5.7, 1e-5, -2e-5, 1];

/** Fine stones, sharp on the left in one frame and on the right in the other. */
function halfSharp(left: boolean, white: 255 | 65535 = 255): EncodedImage {
  const tone = waves(81, 30);
  const normal = normalSource(randomSource(left ? 5 : 6));
  const random = randomSource(7);
  const stones = Float32Array.from({ length: W * H }, (_, i) =>
    Math.min(1, Math.max(0, 0.6 * tone(i % W, Math.floor(i / W)) + 0.3 * random())),
  );
  const soft = gaussianBlur(stones, W, H, 3);
  return paint(
    W,
    H,
    (x, y) => {
      const v = (x < W / 2 === left ? stones : soft)[y * W + x] + 0.004 * normal();
      return [v, 0.9 * v, 0.8 * v];
    },
    white,
  );
}

test.each([
  ['8 bit, as it lies', 255, IDENTITY],
  ['16 bit, as it lies', 65535, IDENTITY],
  ['8 bit, tilted', 255, TILTED],
] as const)('sharpness by the kernels agrees with the plain form: %s', (_, white, matrix) => {
  expect(kernels()).toBeDefined();
  const image = halfSharp(true, white);
  const [a, b] = [focusEnergy(image, matrix, W, H), plainEnergy(image, matrix, W, H)];
  const most = Math.max(...b.fine);
  expect(largestDifference(a.fine, b.fine) / most).toBeLessThan(1e-4);
  expect(largestDifference(a.coarse, b.coarse) / Math.max(...b.coarse)).toBeLessThan(1e-4);
  expect(largestDifference(a.grey, b.grey)).toBeLessThan(1e-5);
  expect([...a.fine].filter((v) => v < 0).length).toBe([...b.fine].filter((v) => v < 0).length);
});

test('a frame’s sharpness does not depend on where the reference lies', () => {
  // the cells of a frame moved by whole cells are the same cells
  const image = halfSharp(true);
  const still = focusEnergy(image, IDENTITY, W, H);
  const moved = focusEnergy(image, [1, 0, 10, 0, 1, 6, 0, 0, 1], W, H);
  for (const [x, y] of [
    [5, 5],
    [40, 30],
    [80, 60],
  ])
    expect(moved.fine[y * moved.width + x]).toBeCloseTo(still.fine[(y + 3) * still.width + x + 5], 6);
  expect(moved.fine[moved.width - 1]).toBe(-1);
});

describe('the passes of a depth map agree with their plain forms', () => {
  const frames: FocusEnergy[] = [
    focusEnergy(halfSharp(true), IDENTITY, W, H),
    focusEnergy(halfSharp(false), TILTED, W, H),
    focusEnergy(halfSharp(false), [1, 0, 20, 0, 1, 0, 0, 0, 1], W, H),
  ];
  const bands: CellBand[] = [
    { top: 0, rows: 40 },
    { top: 40, rows: frames[0].height - 40 },
  ];
  const made = (share: typeof shareBand, map: typeof mapBand) => {
    const buffers = focusBuffers(frames[0], frames.length);
    for (const band of bands) share(frames, band, buffers);
    farAnswers(
      frames.map((f) => f.noise),
      buffers,
    );
    return { buffers, lost: bands.map((band) => map(frames, band, buffers)) };
  };
  const [compiled, plain] = [made(shareBand, mapBand), made(plainShareBand, plainMapBand)];

  test('what each place says', () => {
    const pairs = (of: (b: FocusBuffers) => readonly Float32Array[]): void =>
      of(compiled.buffers).forEach((p, k) =>
        expect(largestDifference(p, of(plain.buffers)[k])).toBeLessThan(1e-4),
      );
    pairs((b) => [b.guide, b.sure, b.small.guide, b.small.sure]);
    pairs((b) => b.weighted);
    pairs((b) => b.small.weighted);
    pairs((b) => b.small.energies.flat());
  });

  test('the map', () => {
    // a quotient of little by little magnifies the last bit
    compiled.buffers.planes.forEach((plane, f) => {
      const other = plain.buffers.planes[f];
      const off = plane.filter((v, i) => Math.abs(v - other[i]) > 2e-3).length;
      expect(off / plane.length).toBeLessThan(1e-3);
    });
    expect(largestDifference(compiled.buffers.depth, plain.buffers.depth)).toBeLessThan(0.1);
    compiled.lost.forEach(({ cells, windows }, b) => {
      expect(cells).toBe(plain.lost[b].cells);
      windows.forEach(([clear, lost], k) => {
        expect(Math.abs(clear - plain.lost[b].windows[k][0])).toBeLessThanOrEqual(2);
        expect(Math.abs(lost - plain.lost[b].windows[k][1])).toBeLessThanOrEqual(2);
      });
    });
    expect(plain.lost[0].windows[0][0]).toBeGreaterThan(1000);
  });

  test('bands meet without a step: one band gives the same map', () => {
    const whole = focusBuffers(frames[0], frames.length);
    const band = { top: 0, rows: frames[0].height };
    shareBand(frames, band, whole);
    farAnswers(
      frames.map((f) => f.noise),
      whole,
    );
    mapBand(frames, band, whole);
    expect(largestDifference(whole.depth, compiled.buffers.depth)).toBeLessThan(1e-3);
  });

  test.each([true, false])('surroundings, the last one answering all: %s', (all) => {
    const { small } = compiled.buffers;
    const [a, b] = [askSurroundings(small, [2, 5], all), plainSurroundings(small, [2, 5], all)];
    expect(largestDifference(a.left, b.left)).toBeLessThan(2e-4);
    const off = a.mixed[0].filter((v, i) => Math.abs(v - b.mixed[0][i]) > 2e-3).length;
    expect(off / a.left.length).toBeLessThan(0.01);
    if (all) expect(Math.max(...a.left)).toBeLessThan(1e-3);
  });

  test('bands cover a grid once, from multiples of the coarser grid’s step', () => {
    for (const [width, height] of [
      [1500, 1000],
      [90, 61],
      [4000, 12],
      [3, 3],
    ]) {
      const cut = cellBands({ width, height, level: 1 });
      expect(cut.reduce((sum, b) => sum + b.rows, 0)).toBe(height);
      cut.forEach((b, k) => {
        expect(b.top % 4).toBe(0);
        expect(b.top).toBe(k === 0 ? 0 : cut[k - 1].top + cut[k - 1].rows);
      });
    }
  });
});

test('the pyramid school by the kernels agrees with its plain form', () => {
  const frames = [
    { image: halfSharp(true), matrix: IDENTITY },
    { image: halfSharp(false, 65535), matrix: TILTED },
    { image: halfSharp(false), matrix: [1, 0, 60, 0, 1, 0, 0, 0, 1] as const },
  ];
  const plan = planFusion(W, H);
  const [a, b] = [fuseFocusBand, fuseFocusBandPlain].map((fuse) => {
    const buffers = fusionBuffers(plan, frames.length);
    for (const band of plan.bands) fuse(frames, plan, buffers, band);
    return buffers;
  });
  a.fine.forEach((level, l) =>
    level.forEach((plane, c) => {
      const off = plane.filter((v, i) => Math.abs(v - b.fine[l][c][i]) > 1e-3).length;
      // where two frames show as much, the sixth power magnifies what an 8-bit warp rounds
      expect(off / plane.length).toBeLessThan(0.004);
    }),
  );
  a.coarse.forEach((planes, f) =>
    planes.forEach((plane, c) => expect(largestDifference(plane, b.coarse[f][c])).toBeLessThan(5e-4)),
  );
  a.shares.forEach((plane, f) => {
    const off = plane.filter((v, i) => Math.abs(v - b.shares[f][i]) > 6).length;
    expect(off / plane.length).toBeLessThan(0.01);
  });
});
