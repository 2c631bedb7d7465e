import { describe, expect, test } from '@jest/globals';
import { alphaOf } from '@/core/graph/blend/blendLayers';
import { mixed } from '@/core/graph/mix/mixLight';
import { resampled } from '@/core/graph/resample';
import { emptyImage } from '@/core/raster/encodedImage';
import { halved } from '@/core/raster/halveImage';
import { randomSource } from '@/core/raster/random';
import { ellipseOn } from '@/core/region/ellipse/ellipse';
import { fadeOn } from '@/core/region/gradient/gradient';
import { inRange } from '@/core/region/inRange';
import { layPixels } from '@/core/view/layPixels';
import { joined } from '@/core/region/shape/joinParts';

const random = randomSource(11);
const plane = (n: number): Float32Array => Float32Array.from({ length: n }, () => random());
const furthest = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  expect(a.length).toBe(b.length);
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
};
const CODE = 1 / 65535;

describe('compiled masks are the plain ones to 1/65535, also where rows are no multiple of four', () => {
  test.each([1, 3, 64, 101])('shapes on a grid %i wide', (width) => {
    const grid = { width, height: 37 };
    const circle = { u: [-1.3, 0.03, 0.004], v: [-0.9, -0.006, 0.05], outer: 1.01, fade: 0.3 } as const;
    expect(furthest(ellipseOn(grid, circle), ellipseOn(grid, circle, null))).toBeLessThan(CODE);
    const fade = [1.2, -0.011, -0.004] as const;
    expect(furthest(fadeOn(grid, fade), fadeOn(grid, fade, null))).toBeLessThan(CODE);
  });

  test('an ellipse of a few pixels far from the corner of its grid', () => {
    const scale = 1 / 6000;
    const circle = {
      u: [-0.5 / 0.001, scale / 0.001, 0],
      v: [-0.002 / 0.001, 0, scale / 0.001],
      outer: 1,
      fade: 0.2,
    } as const;
    const grid = { width: 6000, height: 24 };
    // single precision holds a ten-thousandth of a pixel there
    expect(furthest(ellipseOn(grid, circle), ellipseOn(grid, circle, null))).toBeLessThan(1 / 2048);
  });

  test('ranges', () => {
    const values = plane(1001).map((v) => 12 * v - 6);
    for (const range of [
      { from: -2, to: 1, soft: 1.5 },
      { from: 0, to: 0, soft: 0 },
    ])
      expect(furthest(inRange(values, range), inRange(values, range, null))).toBeLessThan(CODE);
  });

  test('parts joined in every way', () => {
    const planes = [plane(77), plane(77), plane(77), plane(77)];
    for (const first of ['add', 'remove', 'keep'] as const) {
      const parts = [
        { how: first, turned: false },
        { how: 'add', turned: true },
        { how: 'remove', turned: false },
        { how: 'keep', turned: true },
      ] as const;
      expect(furthest(joined(parts, planes, 77), joined(parts, planes, 77, null))).toBeLessThan(CODE);
    }
    expect([...joined([], [], 5)]).toEqual([1, 1, 1, 1, 1]);
  });

  test('a coarser mask read between its pixels', () => {
    const from = { level: 2, kernel: 'bilinear', area: { x: -3, y: 5, width: 22, height: 17 } } as const;
    const to = { level: 0, kernel: 'bilinear', area: { x: -5, y: 24, width: 71, height: 50 } } as const;
    const coarse = plane(22 * 17);
    expect(furthest(resampled(coarse, from, to), resampled(coarse, from, to, null))).toBeLessThan(CODE);
  });

  test('opacities, and changes taken over in part', () => {
    const tile = { is: 'light', encoded: true, planes: [plane(53), plane(53), plane(53)] } as const;
    const alpha = plane(53);
    const where = plane(53);
    for (const mask of [undefined, where])
      for (const own of [tile, { ...tile, alpha }])
        expect(furthest(alphaOf(own, 0.7, mask), alphaOf(own, 0.7, mask, null))).toBeLessThan(CODE);
    const changed = [plane(53), plane(53), plane(53)];
    for (const mask of [undefined, where]) {
      const plain = mixed(tile.planes, changed, 0.6, mask, null);
      mixed(tile.planes, changed, 0.6, mask).forEach((p, c) =>
        expect(furthest(p, plain[c])).toBeLessThan(CODE),
      );
    }
  });

  test.each([255, 65535] as const)('laying codes up to %i, to the code', (white) => {
    const planes = [0, 1, 2].map(() => plane(40_001).map((v) => 1.4 * v - 0.2));
    const [a, b] = [emptyImage(40_002, 1, white), emptyImage(40_002, 1, white)];
    layPixels(planes, a, 1);
    layPixels(planes, b, 1, null);
    expect(furthest(a.data, b.data)).toBe(0);
  });

  test.each([
    [255, 9, 7],
    [65535, 8, 6],
    [255, 1, 5],
    [65535, 5, 1],
  ] as const)('halving codes up to %i, %i × %i, to the code', (white, width, height) => {
    const image = emptyImage(width, height, white);
    for (let i = 0; i < image.data.length; i++) image.data[i] = Math.floor(random() * (white + 1));
    expect(furthest(halved(image).data, halved(image, null).data)).toBe(0);
  });
});
