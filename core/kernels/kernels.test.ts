import { describe, expect, test } from '@jest/globals';
import { collapseBand, collapseBandPlain } from '@/core/merge/collapseBand';
import { fuseBand, fuseBandPlain } from '@/core/merge/fuseBand';
import { fuseCoarse } from '@/core/merge/fuseCoarse';
import { fusionBuffers, type FusionFrame, planFusion } from '@/core/merge/fusionPlan';
import { type FusionMeasures, PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { emptyImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, translation } from '@/core/raster/matrix3';
import { addExpanded, reduce } from '@/core/raster/pyramid';
import { warpImage } from '@/core/raster/warp';
import { largestDifference, paint, waves } from '@/tests/paint';
import { KERNEL_BYTES } from './kernelBytes';
import { type Kernels, kernels } from './kernels';
import { warpIntoKernels } from './warpKernel';

const [W, H] = [211, 157];
const [red, green] = [waves(41, 24), waves(42, 24)];
const picture = (white: 255 | 65535, dx = 0) =>
  paint(W, H, (x, y) => [red(x + dx, y), green(x + dx, y), x < 40 ? 1 : 0.4], white);

function compiled(): Kernels {
  const k = kernels();
  if (!k) throw new Error('no WebAssembly SIMD here');
  return k;
}

test('the shipped bytes are what the sources compile to', async () => {
  const { compileKernels } = await import('../../scripts/kernels.mjs');
  expect(Buffer.from(await compileKernels()).toString('base64')).toBe(KERNEL_BYTES);
}, 60_000);

describe('each kernel agrees with its plain form', () => {
  const tilted: Matrix3 = [1.01, 0.012, -3.4, -0.011, 0.99, 5.7, 1e-5, -2e-5, 1];

  test.each([
    ['8 bit', 255, tilted, 0.0004],
    ['16 bit', 65535, tilted, 2e-6],
    ['8 bit, still', 255, IDENTITY, 1e-7],
    ['16 bit, still', 65535, IDENTITY, 1e-7],
    ['8 bit, mostly outside', 255, translation(-150, 90), 0.0004],
  ] as const)('Lanczos, %s', (_, white, matrix, tolerance) => {
    const k = compiled();
    const image = picture(white);
    for (const area of [
      { x: 0, y: 0, width: W, height: H },
      { x: 17, y: 60, width: 90, height: 31 },
    ]) {
      const plain = warpImage(image, matrix, area, 'lanczos');
      k.borrow(() => {
        const plane = area.width * area.height * 4 + 64;
        const dst = k.take(3 * plane);
        warpIntoKernels(k)(image, matrix, area, dst, plane);
        plain.forEach((p, c) =>
          expect(largestDifference(k.floats(dst + c * plane, p.length), p)).toBeLessThan(tolerance),
        );
      });
    }
  });

  test.each([
    [64, 48],
    [65, 37],
    [211, 157],
    [9, 8],
    [5, 3],
  ])('reduce and expand, %i × %i', (width, height) => {
    const k = compiled();
    const data = Float32Array.from({ length: width * height }, (_, i) =>
      red(i % width, Math.floor(i / width)),
    );
    const coarse = reduce({ width, height, data });
    const fine = { width, height, data: data.slice() };
    addExpanded(fine, coarse, -1);
    k.borrow(() => {
      const src = k.take(data.length * 4);
      const dst = k.take(coarse.data.length * 4);
      const ring = k.take(5 * coarse.width * 4);
      k.floats(src, data.length).set(data);
      k.reduceLevel(src, width, height, dst, ring);
      expect(largestDifference(k.floats(dst, coarse.data.length), coarse.data)).toBeLessThan(1e-6);
      k.addExpandedLevel(src, width, height, dst, coarse.width, coarse.height, -1, ring);
      expect(largestDifference(k.floats(src, data.length), fine.data)).toBeLessThan(1e-6);
    });
  });

  const fused = (frames: FusionFrame[], measures: FusionMeasures, plain: boolean) => {
    const plan = planFusion(W, H);
    const buffers = fusionBuffers(plan, frames.length);
    const image = emptyImage(W, H, 65535);
    const [fuse, collapse] = plain ? [fuseBandPlain, collapseBandPlain] : [fuseBand, collapseBand];
    for (const band of plan.bands) fuse(frames, measures, plan, buffers, band);
    fuseCoarse(plan, buffers);
    for (const band of plan.bands) collapse(plan, buffers, band, image);
    return { image, shares: buffers.shares };
  };

  test.each([
    ['the paper’s measures', PAPER_MEASURES, 64],
    ['fractional measures', { contrast: 0.35, saturation: 0.6, exposedness: 0.5 }, 257],
    ['contrast alone', { contrast: 1, saturation: 0, exposedness: 0 }, 64],
  ])('a whole fusion with %s', (_, measures, worst) => {
    const frames = [
      { image: picture(255), matrix: IDENTITY },
      { image: picture(255, 6), matrix: tilted },
      { image: picture(65535, -9), matrix: translation(9.25, -3.5) },
    ];
    const [a, b] = [fused(frames, measures, false), fused(frames, measures, true)];
    // in 16-bit codes; a fractional power of a contrast near nothing magnifies its last bit
    expect(largestDifference(a.image.data, b.image.data)).toBeLessThan(worst);
    const mean =
      [...a.image.data].reduce((s, v, i) => s + Math.abs(v - b.image.data[i]), 0) / a.image.data.length;
    expect(mean).toBeLessThan(4);
    a.shares.forEach((plane, f) => expect(largestDifference(plane, b.shares[f])).toBeLessThanOrEqual(2));
  });
});

test('memory taken inside a borrow is given back', () => {
  const k = compiled();
  const [first, again] = [k.borrow(() => k.take(1e6)), k.borrow(() => k.take(8))];
  expect(again).toBe(first);
});
