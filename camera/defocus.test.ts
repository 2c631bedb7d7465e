import { describe, expect, test } from '@jest/globals';
import { kernels } from '@/core/kernels/kernels';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { randomSource } from '@/core/raster/random';
import { defocus } from './defocus';
import { gatherLight, looksOfFrame, plainGather, spreadOf } from './gatherLight';

const W = 160;
const H = 120;

/** A dark field with one light square. */
function lamp(left: number, top: number, side: number): Raster {
  const raster = emptyRaster(W, H);
  for (const plane of raster.planes)
    for (let y = top; y < top + side; y++) plane.fill(1, y * W + left, y * W + left + side);
  return raster;
}

const sum = (plane: Float32Array): number => plane.reduce((a, b) => a + b, 0);

describe('out of focus', () => {
  // radii below, at and above those from which squares of pixels are spread as one
  test.each([3, 7.3, 19.6])('an even field stays even, radius %d px', (radius) => {
    const field = emptyRaster(W, H);
    for (const plane of field.planes) plane.fill(0.4);
    const { planes } = defocus(field, new Float32Array(W * H).fill(radius));
    for (const v of planes[0]) expect(v).toBeCloseTo(0.4, 3);
  });

  test.each([3, 7.3, 19.6])('light is kept and spread evenly over a disc, radius %d px', (radius) => {
    const { planes } = defocus(lamp(76, 56, 4), new Float32Array(W * H).fill(radius));
    expect(sum(planes[1])).toBeCloseTo(16, 1);
    // the middle of the square lies at (77.5, 57.5)
    let [mx, my] = [0, 0];
    planes[1].forEach((v, i) => {
      mx += (v * (i % W)) / 16;
      my += (v * Math.floor(i / W)) / 16;
    });
    expect(mx).toBeCloseTo(77.5, 1);
    expect(my).toBeCloseTo(57.5, 1);
    // a disc of even light has its second moment at r² / 4 in each direction (any mechanics handbook); the square adds its own
    const spread = planes[1].reduce((s, v, i) => s + (v * ((i % W) - 77.5) ** 2) / 16, 0);
    const expected = radius ** 2 / 4 + 15 / 12;
    expect(Math.abs(Math.sqrt(spread) / Math.sqrt(expected) - 1)).toBeLessThan(0.06);
  });
});

test('compiled steps blur as the plain ones do, near and far at once', () => {
  expect(kernels()).toBeDefined();
  const random = randomSource(5);
  const picture: Raster = {
    width: W,
    height: H,
    planes: [0, 1, 2].map(() => Float32Array.from({ length: W * H }, () => random())),
  };
  // from far blur on the left over a sharp middle to near blur on the right, with a post before it
  const radii = Float32Array.from({ length: W * H }, (_, i) => {
    const x = i % W;
    return x > 60 && x < 66 ? -9 : 60 - 0.75 * x;
  });
  const compiled = defocus(picture, radii);
  const plain = defocus(picture, radii, null);
  compiled.planes.forEach((plane, c) =>
    plane.forEach((v, i) => expect(Math.abs(v - plain.planes[c][i])).toBeLessThan(2e-4)),
  );
});

test.each([
  ['one look for all colours', false],
  ['a look for each colour', true],
])('the kernel that gathers light agrees with its plain form, also beyond the border: %s', (_, apart) => {
  expect(kernels()).toBeDefined();
  const random = randomSource(3);
  const planes = [0, 1, 2].map(() => Float32Array.from({ length: W * H }, () => random()));
  const looks = [0, 1, 2].map((c) =>
    looksOfFrame(90, 70, (x, y, at) => {
      at[0] = 1.9 * x - 6.3 + 0.01 * y + (apart ? 0.3 * c : 0);
      at[1] = 1.8 * y - 2.7;
    }),
  );
  const compiled = gatherLight({ light: { width: W, height: H, planes } }, apart ? looks : looks[0], 0.8);
  planes.forEach((plane, c) => {
    const plain = plainGather(plane, W, H, looks[c], spreadOf(0.8));
    compiled[c].forEach((v, i) => expect(Math.abs(v - plain[i])).toBeLessThan(2e-6));
  });
});
