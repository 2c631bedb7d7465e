import { describe, expect, test } from '@jest/globals';
import { collapseBand, collapseBandPlain } from '@/core/merge/collapseBand';
import { fuseBand, fuseBandPlain } from '@/core/merge/fuseBand';
import { fuseCoarse } from '@/core/merge/fuseCoarse';
import { fusionBuffers, type FusionFrame, planFusion } from '@/core/merge/fusionPlan';
import { type BlendWeights } from '@/core/merge/blendWeights';
import { PAPER_MEASURES } from '@/core/merge/mertensWeight';
import { emptyImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, translation } from '@/core/raster/matrix3';
import { addExpanded, reduce } from '@/core/raster/pyramid';
import { type White } from '@/core/raster/encodedImage';
import { plainWarp, warpImage } from '@/core/raster/warp';
import { largestDifference, paint, waves } from '@/tests/paint';
import { randomSource } from '@/core/raster/random';
import { DESCRIPTOR } from '@/core/register/features/describe';
import { type Features } from '@/core/register/features/featurePoints';
import { compiledNearest, plainNearest } from '@/core/register/features/matchFeatures';
import { type GradientPoints, gradientPoints, plainGradientPoints } from '@/core/register/gradientPoints';
import { logLuminance, plainLogLuminance } from '@/core/register/logLuminance';
import {
  type Channel,
  halveLuminance,
  type Luminance,
  luminance,
  luminancePyramid,
} from '@/core/register/luminance';
import { plainEquations, withEquations } from '@/core/register/normalEquations';
import { type Kernels, kernels } from './kernels';
import { warpIntoKernels } from './warpKernel';

const [W, H] = [211, 157];
const [red, green] = [waves(41, 24), waves(42, 24)];
const picture = (white: White, dx = 0) =>
  paint(W, H, (x, y) => [red(x + dx, y), green(x + dx, y), x < 40 ? 1 : 0.4], white);

function compiled(): Kernels {
  const k = kernels();
  if (!k) throw new Error('no WebAssembly SIMD here');
  return k;
}

describe('each kernel agrees with its plain form', () => {
  const tilted: Matrix3 = [1.01, 0.012, -3.4, -0.011, 0.99, 5.7, 1e-5, -2e-5, 1];

  test.each([
    ['8 bit', 255, tilted, 0.0004],
    ['16 bit', 65535, tilted, 2e-6],
    ['8 bit, still', 255, IDENTITY, 1e-7],
    ['16 bit, still', 65535, IDENTITY, 1e-7],
    ['8 bit, mostly outside', 255, translation(-150.5, 90), 0.0004],
    ['8 bit, by whole pixels mostly outside', 255, translation(-150, 90), 1e-7],
    ['16 bit, by whole pixels over the right and lower border', 65535, translation(60, 40), 1e-7],
    ['floats, by whole pixels wholly outside', 1, translation(-900, 900), 1e-7],
  ] as const)('Lanczos, %s', (_, white, matrix, tolerance) => {
    const k = compiled();
    const image = picture(white);
    for (const area of [
      { x: 0, y: 0, width: W, height: H },
      { x: 17, y: 60, width: 90, height: 31 },
    ]) {
      const plain = plainWarp(image, matrix, area, 'lanczos');
      k.borrow(() => {
        const plane = area.width * area.height * 4 + 64;
        const dst = k.take(3 * plane);
        warpIntoKernels(k, image, matrix, area, dst, plane);
        plain.forEach((p, c) =>
          expect(largestDifference(k.floats(dst + c * plane, p.length), p)).toBeLessThan(tolerance),
        );
      });
    }
  });

  test.each([
    ['8 bit', 255, tilted],
    ['16 bit', 65535, tilted],
    ['mostly outside', 255, translation(-150, 90)],
    ['a whole shift', 255, translation(7, -3)],
    ['all above', 65535, translation(0.3, -900)],
    ['all below', 65535, translation(0.3, 900)],
  ] as const)('linear resampling, %s', (_, white, matrix) => {
    expect(kernels()).toBeDefined();
    const image = picture(white);
    for (const area of [
      { x: 0, y: 0, width: W, height: H },
      { x: 17, y: 60, width: 90, height: 31 },
    ]) {
      const plain = plainWarp(image, matrix, area, 'bilinear');
      warpImage(image, matrix, area, 'bilinear').forEach((plane, c) =>
        expect(largestDifference(plane, plain[c])).toBeLessThan(1e-6),
      );
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

  const fused = (frames: FusionFrame[], measures: BlendWeights, plain: boolean) => {
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

  test('a blend by weights that were worked out beforehand', () => {
    const frames = [
      { image: picture(255), matrix: IDENTITY },
      { image: picture(255, 6), matrix: tilted },
    ];
    const [width, height] = [Math.ceil(W / 4), Math.ceil(H / 4)];
    const left = Float32Array.from({ length: width * height }, (_, i) => (i % width < width / 2 ? 1 : 0));
    const chosen = { width, height, level: 2, planes: [left, left.map((v) => 1 - v)] };
    const [a, b] = [fused(frames, chosen, false), fused(frames, chosen, true)];
    expect(largestDifference(a.image.data, b.image.data)).toBeLessThan(64);
    a.shares.forEach((plane, f) => expect(largestDifference(plane, b.shares[f])).toBeLessThanOrEqual(2));
  });

  test('nearest neighbours of features', () => {
    const random = randomSource(5);
    const features = (count: number): Features => ({
      count,
      x: new Float32Array(count),
      y: new Float32Array(count),
      spread: new Float32Array(count).fill(1),
      descriptors: Int16Array.from({ length: count * DESCRIPTOR }, () => Math.round(90 * random())),
    });
    const [p, q] = [features(40), features(55)];
    // some points have a clear counterpart
    for (let k = 0; k < 12; k++)
      q.descriptors.set(p.descriptors.subarray(k * DESCRIPTOR, (k + 1) * DESCRIPTOR), (50 - k) * DESCRIPTOR);
    const [found, back] = compiledNearest(compiled(), p, q);
    expect([...found]).toEqual([...plainNearest(p, q)]);
    expect([...back]).toEqual([...plainNearest(q, p)]);
    expect(found[3]).toBe(47);
  });
});

describe('the kernels of registration agree with their plain forms', () => {
  const image = paint(230, 170, (x, y) =>
    x > 200 && y < 40 ? [1, 1, 1] : [0.6 * red(x, y), 0.5 * green(x, y), 0.3],
  );
  const plainLevels = (channel: Channel): Luminance[] => {
    const levels = [luminance(image, 1, channel)];
    while (levels.length < 3) levels.push(halveLuminance(levels[levels.length - 1]));
    return levels;
  };

  test.each(['all', 1] as const)('luminance and its levels, channel %s', (channel) => {
    const levels = luminancePyramid(image, 1, channel);
    plainLevels(channel).forEach((plain, l) => {
      expect([levels[l].width, levels[l].height, levels[l].gain]).toEqual([
        plain.width,
        plain.height,
        plain.gain,
      ]);
      expect(largestDifference(levels[l].valid, plain.valid)).toBeLessThan(1e-6);
      expect(largestDifference(levels[l].light, plain.light)).toBeLessThan(1e-6);
    });
  });

  test('logarithm and noise, smoothed at the finest level', () => {
    plainLevels('all').forEach((level) => {
      const [a, b] = [logLuminance(level, 0.006), plainLogLuminance(level, 0.006)];
      expect(largestDifference(a.value, b.value)).toBeLessThan(5e-4);
      const relative = a.variance.map((v, i) => v / b.variance[i] - 1);
      // the plain form looks the noise up in steps of a sixteenth of a stop
      expect(largestDifference(relative, new Float32Array(relative.length))).toBeLessThan(0.06);
    });
  });

  test('points of the largest gradient', () => {
    const rep = plainLogLuminance(plainLevels('all')[0], 0.006);
    const limits = { tilesX: 4, tilesY: 3, total: 3000, leastScore: 2 };
    const [a, b] = [gradientPoints(rep, limits), plainGradientPoints(rep, limits)];
    const places = (p: GradientPoints): Set<number> => new Set(Array.from(p.x, (x, i) => p.y[i] * 1000 + x));
    const [one, other] = [places(a), places(b)];
    const shared = [...one].filter((p) => other.has(p)).length;
    // a score at the threshold may round either way
    expect(shared / Math.max(one.size, other.size)).toBeGreaterThan(0.99);
    expect(one.size).toBeGreaterThan(1000);
  });

  test.each(['huber', 'tukey'] as const)('the equations of a pass, %s', (robustness) => {
    const [still, moving] = [0, 1].map((l) => plainLogLuminance(plainLevels('all')[l], 0.006));
    const points = plainGradientPoints(still, { tilesX: 4, tilesY: 3, total: 3000, leastScore: 2 });
    const coordinates = { cx: 114.5, cy: 84.5, scale: 115 };
    expect(moving.width).toBe(115);
    const map: Matrix3 = [1.001, 0.002, 0.4, -0.002, 0.999, -0.3, 1e-6, 0, 1];
    const plain = plainEquations(points, still, coordinates)(map, undefined, 1.3, robustness);
    withEquations(points, still, coordinates, (pass) => {
      const compiledForm = pass(map, undefined, 1.3, robustness);
      expect(compiledForm.used).toBe(plain.used);
      const scale = Math.max(...plain.A.map(Math.abs));
      expect(largestDifference(compiledForm.A, plain.A) / scale).toBeLessThan(1e-5);
      expect(largestDifference(compiledForm.b, plain.b) / Math.max(...plain.b.map(Math.abs))).toBeLessThan(
        1e-4,
      );
      expect(largestDifference(compiledForm.residuals, plain.residuals)).toBeLessThan(1e-3);
      expect(largestDifference(compiledForm.tone.gain, plain.tone.gain)).toBeLessThan(1e-4);
    });
  });
});

test('memory taken inside a borrow is given back', () => {
  const k = compiled();
  const [first, again] = [k.borrow(() => k.take(1e6)), k.borrow(() => k.take(8))];
  expect(again).toBe(first);
});
