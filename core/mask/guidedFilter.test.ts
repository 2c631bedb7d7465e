import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { kernels } from '../kernels/kernels';
import { randomSource } from '../raster/random';
import { boxMean, plainBoxMean } from '../raster/boxMean';
import { guidedAll, guidedFilter, plainGuidedBy } from './guidedFilter';

const plane = (seed: number, w: number, h: number): Float32Array => {
  const random = randomSource(seed);
  return Float32Array.from({ length: w * h }, () => random());
};

const SIZES = [
  [37, 23, 3],
  [64, 16, 8],
  [9, 30, 6],
  [5, 4, 9],
  [1, 7, 2],
] as const;

describe('means over windows', () => {
  test.each(SIZES)('of %i × %i, reach %i: what adding up every window gives', (w, h, r) => {
    const data = plane(1, w, h);
    const mean = boxMean(data, w, h, r);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        let [sum, n] = [0, 0];
        for (let v = Math.max(0, y - r); v <= Math.min(h - 1, y + r); v++)
          for (let u = Math.max(0, x - r); u <= Math.min(w - 1, x + r); u++, n++) sum += data[v * w + u];
        expect(mean[y * w + x]).toBeCloseTo(sum / n, 5);
      }
  });

  test('a small value beside large ones keeps its digits: running sums do not drift', () => {
    const [w, h] = [500, 8];
    const data = new Float32Array(w * h).fill(1e-7);
    for (let y = 0; y < h; y++) data.fill(1e4, y * w, y * w + 100);
    expect(boxMean(data, w, h, 2)[3 * w + 400] / 1e-7).toBeCloseTo(1, 3);
  });
});

describe('guided filter', () => {
  test.each(SIZES)('of %i × %i, reach %i: the kernel agrees with the plain form', (w, h, r) => {
    expect(kernels()).toBeDefined();
    const [guide, input] = [plane(2, w, h), plane(3, w, h)];
    expect(largestDifference(boxMean(input, w, h, r), plainBoxMean(input, w, h, r))).toBeLessThan(1e-6);
    const plain = plainGuidedBy(guide, w, h, r, 0.01);
    guidedAll([input, guide], guide, w, h, r, 0.01).forEach((filtered, k) =>
      expect(largestDifference(filtered, plain([input, guide][k]))).toBeLessThan(2e-5),
    );
  });

  // He, Sun & Tang 2010, section 3.2: with a small ε a picture guided by itself stays, with a large one it becomes the mean of means
  test('a picture guided by itself keeps its edges where variance exceeds ε, and is evened out where it does not', () => {
    const [w, h] = [40, 20];
    const step = Float32Array.from({ length: w * h }, (_, i) => (i % w < 20 ? 0.2 : 0.8));
    expect(largestDifference(guidedFilter(step, step, w, h, 4, 1e-6), step)).toBeLessThan(1e-3);
    const even = guidedFilter(step, step, w, h, 4, 1e3);
    const mean = plainBoxMean(plainBoxMean(step, w, h, 4), w, h, 4);
    expect(largestDifference(even, mean)).toBeLessThan(1e-3);
  });
});
