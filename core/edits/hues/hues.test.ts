import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import { linearToSrgb } from '@/core/raster/srgb';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { hueStep, still } from './hueMove';
import { hues } from './hues';
import { huesOfPicture } from './huesOfPicture';
import { hueWeights } from './hueWeights';

const toRgb = converter('lrgb');
const toLch = converter('oklch');

/** A picture of colours of Oklch, as many pixels of each as are given. */
function pictureOf(colours: readonly { l: number; c: number; h: number; count: number }[]): EncodedImage {
  const data = colours.flatMap(({ l, c, h, count }) => {
    const { r, g, b } = toRgb({ mode: 'oklch', l, c, h });
    const codes = [r, g, b].map((v) => Math.round(65535 * linearToSrgb(Math.min(1, Math.max(0, v)))));
    return Array.from({ length: count }, () => codes).flat();
  });
  return { width: data.length / 3, height: 1, white: 65535, data: Uint16Array.from(data) };
}

/** What the edit makes of a colour of Oklch. */
function changed(list: Parameters<typeof hues.says>[0]['hues'], colour: { l: number; c: number; h: number }) {
  const { r, g, b } = toRgb({ mode: 'oklch', ...colour });
  const planes = [r, g, b].map((v) => Float32Array.of(v));
  const at = { level: 0, area: { x: 0, y: 0, width: 1, height: 1 }, kernel: 'lanczos' } as const;
  const [op] = hues.operators;
  const out = op.run?.([{ is: 'light', encoded: false, planes }], { hues: list }, at);
  if (out?.is !== 'light') throw new Error('no light');
  const [R, G, B] = out.planes.map((p) => p[0]);
  return toLch({ mode: 'lrgb', r: R, g: G, b: B });
}

describe('weights of hues', () => {
  test('are whole at their own place and add up to one between neighbours', () => {
    const places = [10, 60, 110];
    places.forEach((at, i) =>
      expect(hueWeights(places, at)).toEqual(places.map((_, k) => (k === i ? 1 : expect.closeTo(0, 9)))),
    );
    for (let hue = 10; hue <= 110; hue += 3)
      expect(hueWeights(places, hue).reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  });

  test('leave alone what is far from every hue', () => {
    expect(hueWeights([10, 60], 200)).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)]);
    expect(hueWeights([350], 50)[0]).toBeCloseTo(0, 9);
    expect(hueWeights([350], 20)[0]).toBeCloseTo(0.5, 9);
  });
});

describe('a hue that is moved', () => {
  test('is turned, strengthened and lightened as culori’s Oklch says, and its neighbour stays', () => {
    const moved = { at: 140, turn: 20, chroma: 0.5, light: 0 };
    const leaf = changed([still(50), moved], { l: 0.6, c: 0.12, h: 140 });
    expect(leaf.l).toBeCloseTo(0.6, 4);
    expect(leaf.c).toBeCloseTo(0.06, 4);
    expect(leaf.h).toBeCloseTo(160, 1);
    const brick = changed([still(50), moved], { l: 0.6, c: 0.12, h: 50 });
    expect([brick.l, brick.c]).toEqual([expect.closeTo(0.6, 4), expect.closeTo(0.12, 4)]);
    expect(brick.h).toBeCloseTo(50, 2);
  });

  test('a stop lighter is twice the light in every channel', () => {
    const before = { l: 0.5, c: 0.08, h: 262 };
    const { r, g, b } = toRgb({ mode: 'oklch', ...before });
    const after = toRgb(changed([{ at: 262, turn: 0, chroma: 1, light: 1 }], before));
    expect([after.r, after.g, after.b]).toEqual([r, g, b].map((v) => expect.closeTo(2 * v, 4)));
  });

  test('greys have no hue and stay as they are', () => {
    for (const l of [0.2, 0.5, 0.9]) {
      const grey = changed([{ at: 90, turn: 60, chroma: 3, light: 2 }], { l, c: 0.01 * l, h: 90 });
      expect(grey.l).toBeCloseTo(l, 5);
      expect(grey.c).toBeCloseTo(0.01 * l, 5);
    }
  });
});

describe('the hues of a picture', () => {
  test('are found where its colours lie, each with its share of the colour', () => {
    const found = huesOfPicture(
      pictureOf([
        { l: 0.6, c: 0.1, h: 40, count: 300 },
        { l: 0.5, c: 0.1, h: 145, count: 600 },
        { l: 0.7, c: 0.05, h: 250, count: 600 },
        { l: 0.5, c: 0, h: 0, count: 5000 },
      ]),
    );
    expect(found.peaks).toHaveLength(3);
    [40, 145, 250].forEach((hue, i) =>
      expect(Math.abs(hueStep(found.peaks[i].at, hue))).toBeLessThanOrEqual(2),
    );
    // by chroma: 30, 60 and 30 parts of 120
    [0.25, 0.5, 0.25].forEach((share, i) => expect(found.peaks[i].share).toBeCloseTo(share, 2));
    expect(found.shares.reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  });

  test('shades of one thing are one hue, also across 0°', () => {
    const found = huesOfPicture(
      pictureOf(Array.from({ length: 30 }, (_, i) => ({ l: 0.6, c: 0.08, h: (350 + i) % 360, count: 20 }))),
    );
    expect(found.peaks).toHaveLength(1);
    expect(Math.abs(hueStep(found.peaks[0].at, 4.5))).toBeLessThanOrEqual(3);
  });

  test('a picture in greys has none', () => {
    const found = huesOfPicture(pictureOf([{ l: 0.4, c: 0, h: 0, count: 50 }]));
    expect(found.peaks).toEqual([]);
    expect(Math.max(...found.shares)).toBe(0);
  });
});

test('two moves of one hue are refused', () => {
  const two = { hues: [still(0), still(360)] };
  expect(() => void hues.schema.validateSync(two, { strict: true })).toThrow(/different hues/);
});
