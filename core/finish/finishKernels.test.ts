import { expect, test } from '@jest/globals';
import { kernels } from '../kernels/kernels';
import { gaussianBlur } from '../raster/gaussianBlur';
import { normalSource, randomSource } from '../raster/random';
import { denoisePlanes } from './denoise';
import { sharpenPlanes } from './sharpen';

/** Three noisy planes of stripes and steps; the sizes are no multiples of what a kernel takes at once. */
function picture(width: number, height: number): Float32Array[] {
  const normal = normalSource(randomSource(width));
  return [0, 1, 2].map((c) =>
    Float32Array.from({ length: width * height }, (_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      return 0.4 + 0.2 * Math.sin(0.4 * x + c) + (y > height / 2 ? 0.2 : 0) + 0.01 * normal();
    }),
  );
}

const apart = (a: readonly Float32Array[], b: readonly Float32Array[]): number =>
  Math.max(...a.map((plane, c) => plane.reduce((most, v, i) => Math.max(most, Math.abs(v - b[c][i])), 0)));

const SIZES = [
  [97, 61],
  [64, 40],
  [7, 5],
  [3, 2],
  [1, 9],
] as const;

test.each(SIZES)('noise is taken out as by the plain form, %d × %d', (width, height) => {
  expect(kernels()).toBeDefined();
  const [compiled, plain] = [picture(width, height), picture(width, height)];
  denoisePlanes(compiled, width, height, 0.7, 0.01);
  denoisePlanes(plain, width, height, 0.7, 0.01, null);
  expect(apart(compiled, plain)).toBeLessThan(5e-5);
  if (width > 60) expect(apart(compiled, picture(width, height))).toBeGreaterThan(0.005);
});

test.each(SIZES.flatMap(([w, h]) => [0, 0.3].map((edge) => [w, h, edge] as const)))(
  'sharpening is what the plain form does, %d × %d, edge %d',
  (width, height, edge) => {
    for (const radius of [0.5, 1.3, 3]) {
      const [compiled, plain] = [picture(width, height), picture(width, height)];
      const wish = { radius, amount: 1.2, edge };
      sharpenPlanes(compiled, width, height, wish);
      sharpenPlanes(plain, width, height, wish, null);
      expect(apart(compiled, plain)).toBeLessThan(2e-5);
      if (width > 60) expect(apart(compiled, picture(width, height))).toBeGreaterThan(0.005);
    }
  },
);

test.each(SIZES)('a blur is what the plain form does, %d × %d', (width, height) => {
  const [plane] = picture(width, height);
  for (const sigma of [0.6, 2.1])
    expect(
      apart([gaussianBlur(plane, width, height, sigma)], [gaussianBlur(plane, width, height, sigma, null)]),
    ).toBeLessThan(1e-6);
});
