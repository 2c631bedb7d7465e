import { describe, expect, test } from '@jest/globals';
import { differenceCiede2000, type Rgb } from 'culori';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, translation } from '@/core/raster/matrix3';
import { warpImage } from '@/core/raster/warp';
import { fuseWithOpenCv, opencv } from '@/tests/opencv';
import { flat, largestDifference, paint, waves } from '@/tests/paint';
import { exposureFusion } from './exposureFusion';
import { mergeFindings } from './mergeFindings';
import { mertensWeight, PAPER_MEASURES } from './mertensWeight';
import { collapseBand } from './collapseBand';
import { fusionBuffers, planFusion } from './fusionPlan';
import { rimStep } from './rimStep';

const [W, H] = [330, 230];
const [red, green, blue] = [waves(1), waves(2), waves(3)];

/** A scene of ten stops: a bright half and a dark half, each with texture. */
function exposed(stops: number, map: Matrix3 = IDENTITY): EncodedImage {
  const brighten = encodedGain(stops);
  return paint(W, H, (x, y) => {
    const [u, v] = [map[0] * x + map[1] * y + map[2], map[3] * x + map[4] * y + map[5]];
    const base = u > W / 2 ? 0.62 : 0.16;
    return [
      brighten(base + 0.22 * red(u, v)),
      brighten(base + 0.2 * green(u, v)),
      brighten(base + 0.17 * blue(u, v)),
    ];
  });
}

const stay = (frames: readonly EncodedImage[]) => frames.map((image) => ({ image, matrix: IDENTITY }));

function meanDifference(image: EncodedImage, other: Float32Array, border: number): number {
  const difference = differenceCiede2000();
  const colour = (r: number, g: number, b: number): Rgb => ({ mode: 'rgb', r, g, b });
  let sum = 0;
  let n = 0;
  for (let y = border; y < image.height - border; y += 2)
    for (let x = border; x < image.width - border; x += 2, n++) {
      const i = (y * image.width + x) * 3;
      const [a, b] = [image.data, other].map((d, k) => {
        const s = k === 0 ? 1 / image.white : 1;
        const clip = (v: number): number => Math.min(1, Math.max(0, v * s));
        return colour(clip(d[i]), clip(d[i + 1]), clip(d[i + 2]));
      });
      sum += difference(a, b);
    }
  return sum / n;
}

describe('exposure fusion (Mertens, Kautz & Van Reeth 2007)', () => {
  const bracket = [-2, 0, 2].map((s) => exposed(s));

  test('agrees with OpenCV 5.0 (wasm) on the same frames: mean ΔE2000 at most 2 away from borders', async () => {
    const cv = await opencv();
    const { image } = exposureFusion(stay(bracket), W, H);
    const difference = meanDifference(image, fuseWithOpenCv(cv, bracket), 12);
    expect(difference).toBeLessThan(2);
    // and it is no accident of grey pictures: the frames themselves are far apart
    expect(
      meanDifference(
        bracket[0],
        Float32Array.from(bracket[2].data, (v) => v / 255),
        12,
      ),
    ).toBeGreaterThan(15);
  }, 60_000);

  test('one frame alone comes back as it was', () => {
    const { image, shares } = exposureFusion(stay([bracket[1]]), W, H);
    for (let i = 0; i < image.data.length; i += 41)
      expect(Math.abs(image.data[i] / 257 - bracket[1].data[i])).toBeLessThan(0.02);
    expect(shares[0].every((s) => s === 255)).toBe(true);
  });

  test('equal frames merge to themselves, each with the same share', () => {
    const { image, shares } = exposureFusion(stay([bracket[1], bracket[1]]), W, H);
    for (let i = 0; i < image.data.length; i += 41)
      expect(Math.abs(image.data[i] / 257 - bracket[1].data[i])).toBeLessThan(0.02);
    expect(largestDifference(shares[0], new Float32Array(shares[0].length).fill(127.5))).toBeLessThan(1);
  });

  test('shares of all frames add up to one everywhere', () => {
    const { shares } = exposureFusion(stay(bracket), W, H);
    const sums = Float32Array.from(shares[0], (_, i) => shares.reduce((s, plane) => s + plane[i], 0));
    expect(largestDifference(sums, new Float32Array(sums.length).fill(255))).toBeLessThanOrEqual(2);
  });

  test('the dark half comes mostly from the light frame and the bright half from the dark one', () => {
    const { shares } = exposureFusion(stay(bracket), W, H);
    const half = (W + 1) >> 1;
    const mean = (frame: number, from: number, to: number): number => {
      let sum = 0;
      let n = 0;
      for (let y = 20; y < H / 2 - 20; y++)
        for (let x = from; x < to; x++, n++) sum += shares[frame][y * half + x];
      return sum / n;
    };
    expect(mean(2, 10, 70)).toBeGreaterThan(mean(0, 10, 70) * 2);
    expect(mean(0, 95, 155)).toBeGreaterThan(mean(2, 95, 155) * 2);
  });

  test('a picture cut into bands is the same as a picture of one band', () => {
    const tall = (stops: number) =>
      paint(1400, 1100, (x, y) => [
        0.5 + 0.1 * stops * Math.sin(x / 9),
        0.5 + 0.2 * Math.cos(y / 7 + stops),
        0.4,
      ]);
    const frames = stay([tall(-1), tall(1)]);
    expect(planFusion(1400, 1100).bands.length).toBeGreaterThan(1);
    const { image } = exposureFusion(frames, 1400, 1100);
    // the seam between two bands is no different from any other row
    const seam = planFusion(1400, 1100).bands[1].top;
    const step = (row: number): number => {
      let sum = 0;
      for (let x = 0; x < 1400; x += 7)
        sum += Math.abs(image.data[(row * 1400 + x) * 3] - image.data[((row - 1) * 1400 + x) * 3]);
      return sum / 200;
    };
    expect(step(seam)).toBeLessThan((1.5 * (step(seam - 1) + step(seam + 1))) / 2 + 20);
  });

  test.each([
    [17, 16],
    [16, 200],
    [33, 65],
  ])('sizes as odd as %i × %i work', (width, height) => {
    const frames = stay([flat(width, height, 0.3), flat(width, height, 0.6)]);
    const { image } = exposureFusion(frames, width, height);
    // two even greys: no contrast, no colour, so both count alike up to their exposedness
    expect([...image.data].reduce((a, b) => Math.min(a, b)) / 65535).toBeGreaterThan(0.29);
    expect([...image.data].reduce((a, b) => Math.max(a, b)) / 65535).toBeLessThan(0.61);
  });

  test('a measure switched off no longer matters', () => {
    const one = warpImage(bracket[1], IDENTITY, { x: 0, y: 0, width: W, height: H }, 'bilinear');
    const weight = mertensWeight(one, W, H, { contrast: 0, saturation: 0, exposedness: 0 });
    expect(largestDifference(weight, new Float32Array(W * H).fill(1))).toBeLessThan(1e-6);
  });

  test('a pixel that the blend lifts beyond white keeps its hue', () => {
    const plan = planFusion(64, 48);
    const buffers = fusionBuffers(plan, 1);
    buffers.base.forEach((plane, c) => plane.fill([1.3, 0.91, 0.39][c]));
    const image = emptyImage(64, 48, 65535);
    for (const band of plan.bands) collapseBand(plan, buffers, band, image);
    const [r, g, b] = [...image.data.subarray(3000, 3003)].map((v) => v / 65535);
    expect(r).toBeCloseTo(1, 3);
    expect(g).toBeCloseTo(0.7, 3);
    expect(b).toBeCloseTo(0.3, 3);
  });

  test('weights of a pixel follow the paper’s formula', () => {
    // 3 × 3, grey 0.5 all round a centre of (0.7, 0.5, 0.3)
    const plane = (centre: number) => Float32Array.from({ length: 9 }, (_, i) => (i === 4 ? centre : 0.5));
    const weight = mertensWeight([plane(0.7), plane(0.5), plane(0.3)], 3, 3, PAPER_MEASURES)[4];
    const grey = 0.299 * 0.7 + 0.587 * 0.5 + 0.114 * 0.3;
    const contrast = Math.abs(4 * 0.5 - 4 * grey);
    const saturation = Math.sqrt(0.2 ** 2 + 0.2 ** 2);
    const exposedness = Math.exp(-0.5 * ((0.2 / 0.2) ** 2 + (0.2 / 0.2) ** 2));
    expect(weight).toBeCloseTo(contrast * saturation * exposedness, 6);
  });
});

describe('borders of frames inside the picture', () => {
  const moved = [
    { image: exposed(-1), matrix: IDENTITY },
    { image: exposed(1, translation(14, 9)), matrix: translation(-14, -9) },
  ];

  test('leave neither a dark nor a light rim', () => {
    const { image } = exposureFusion(moved, W, H);
    const { step } = rimStep(
      image,
      moved.map(({ matrix }) => ({ width: W, height: H, matrix })),
    );
    expect(step).toBeLessThan(1.5);
  });

  test('a rim that is planted is found, with its place', () => {
    const { image } = exposureFusion(moved, W, H);
    // brighten what lies beyond the second frame's left border by four codes of 255
    for (let y = 0; y < H; y++)
      for (let x = 0; x < 14; x++) for (let c = 0; c < 3; c++) image.data[(y * W + x) * 3 + c] += 4 * 257;
    const { step, where } = rimStep(image, [{ width: W, height: H, matrix: translation(-14, 0) }]);
    expect(step).toBeGreaterThan(2.5);
    expect(Math.abs((where?.x ?? 0) + 60 - 14)).toBeLessThan(3);
  });
});

describe('findings of a merge', () => {
  const size = { width: 160, height: 120, matrix: IDENTITY };
  const merged = (image: EncodedImage, shares: number[]) => ({
    image,
    shares: shares.map((s) => new Uint8Array(4800).fill(s)),
  });

  test('plain white is found with its place, a clean picture gives none', () => {
    const image = emptyImage(160, 120, 65535);
    image.data.fill(30000);
    const frames = [
      { ...size, name: 'a.jpg' },
      { ...size, name: 'b.jpg' },
    ];
    const clean = mergeFindings(merged(image, [128, 127]), frames);
    expect(clean.every((f) => f.verdict === 'pass')).toBe(true);
    for (let y = 0; y < 40; y++)
      for (let x = 0; x < 40; x++) image.data.fill(65535, (y * 160 + x) * 3, (y * 160 + x) * 3 + 3);
    const burnt = mergeFindings(merged(image, [128, 127]), frames).find((f) => f.id === 'merge.burnt');
    expect(burnt).toMatchObject({ verdict: 'fail', where: { x: 0, y: 0 } });
  });

  test('a frame that adds nothing is named', () => {
    const image = emptyImage(160, 120, 65535);
    image.data.fill(30000);
    const frames = [
      { ...size, name: 'a.jpg' },
      { ...size, name: 'idle.jpg' },
    ];
    const finding = mergeFindings(merged(image, [254, 1]), frames).find((f) => f.id === 'merge.leastShare');
    expect(finding).toMatchObject({ verdict: 'watch' });
    expect(finding?.why).toContain('idle.jpg');
  });
});
