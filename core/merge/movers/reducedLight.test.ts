import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { kernels } from '../../kernels/kernels';
import { emptyImage, type EncodedImage } from '../../raster/encodedImage';
import { randomSource } from '../../raster/random';
import { srgbToLinear } from '../../raster/srgb';
import { cellMeansKernel, cellMeansPlain, reducedLight } from './reducedLight';

const noise = (width: number, height: number, white: 255 | 65535): EncodedImage => {
  const image = emptyImage(width, height, white);
  const random = randomSource(width + white);
  // a third of it at either end, where samples clip or are dark
  for (let i = 0; i < image.data.length; i++) {
    const v = random() * 1.6 - 0.3;
    image.data[i] = Math.round(Math.max(0, Math.min(1, v)) * white);
  }
  return image;
};

describe('light on the grid of the search for movers', () => {
  test.each([
    [64, 40, 255, 2],
    [67, 41, 255, 1],
    [50, 33, 65535, 2],
    [9, 7, 255, 0],
    [33, 20, 65535, 4],
  ] as const)('%i × %i, white %i, level %i: the kernel agrees with the plain form', (w, h, white, level) => {
    const k = kernels();
    if (!k) throw new Error('no WebAssembly SIMD here');
    const image = noise(w, h, white);
    const [cw, ch] = [Math.max(1, w >> level), Math.max(1, h >> level)];
    const [plain, compiled] = [
      cellMeansPlain(image, level, cw, ch),
      cellMeansKernel(k, image, level, cw, ch),
    ];
    expect([...compiled.lost]).toEqual([...plain.lost]);
    expect([...compiled.dark]).toEqual([...plain.dark]);
    for (const plane of ['light', 'red', 'blue'] as const)
      expect(largestDifference(compiled[plane], plain[plane])).toBeLessThan(1e-6);
    expect(plain.lost.some((n) => n > 0)).toBe(true);
  });

  test('a cell with one burnt pixel says the least it can be, one that is mostly dark the most; others are held', () => {
    const image = emptyImage(6, 2, 255);
    const cell = (x: number, codes: readonly number[]): void =>
      codes.forEach((code, i) => {
        const at = ((i >> 1) * 6 + 2 * x + (i & 1)) * 3;
        image.data.fill(code, at, at + 3);
      });
    cell(0, [255, 128, 128, 128]);
    cell(1, [2, 2, 2, 128]);
    cell(2, [128, 128, 128, 2]);
    const { w, h, light, least, most } = reducedLight(image, 1);
    expect([w, h]).toEqual([3, 1]);
    const mean = (codes: readonly number[]): number =>
      codes.reduce((sum, c) => sum + srgbToLinear(c / 255), 0) / codes.length;
    expect(least[0]).toBeCloseTo(mean([255, 128, 128, 128]), 5);
    expect(most[1]).toBeCloseTo(mean([2, 2, 2, 128]), 5);
    expect(light[2]).toBeCloseTo(mean([128, 128, 128, 2]), 5);
    expect([light[0], light[1], least[1], least[2], most[0], most[2]].every(Number.isNaN)).toBe(true);
  });
});
