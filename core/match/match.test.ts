import { describe, expect, test } from '@jest/globals';
import { kernels } from '@/core/kernels/kernels';
import { randomSource } from '@/core/raster/random';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { adjusts, NO_ADJUST, type ZoneMove } from './adjust';
import { adjustCodes, adjustPlanes } from './adjustPlanes';
import { castOf, neutralOf } from './neutralOf';
import { zoneCurve } from './zoneCurve';

const grey = (stops: number): [number, number, number] => {
  const v = 255 * linearToSrgb(0.18 * 2 ** stops);
  return [v, v, v];
};
const stopsOf = ([r]: readonly number[]): number => Math.log2(srgbToLinear(r / 255) / 0.18);

describe('zones', () => {
  test('no move is no change, at every tone', () => {
    const curve = zoneCurve([{ at: 0, by: 0 }]);
    for (let s = -9; s <= 3; s += 0.37) expect(curve(s)).toBe(s);
  });

  test('the curve goes through every moved zone and runs on beside them', () => {
    const zones: ZoneMove[] = [
      { at: -6, by: 0.5 },
      { at: -3, by: 1 },
      { at: 0, by: 0 },
      { at: 2.4, by: -0.4 },
    ];
    const curve = zoneCurve(zones);
    for (const { at, by } of zones) expect(curve(at)).toBeCloseTo(at + by, 9);
    expect(curve(-9)).toBeCloseTo(-8.5, 9);
    expect(curve(4)).toBeCloseTo(3.6, 9);
  });

  test('tones never turn over, however zones are pulled', () => {
    const curve = zoneCurve([
      { at: -6, by: 4 },
      { at: -3, by: -2 },
      { at: 0, by: 3 },
      { at: 1.5, by: -3 },
      { at: 2.4, by: 2 },
    ]);
    for (let s = -10; s < 4; s += 0.05) expect(curve(s + 0.05)).toBeGreaterThanOrEqual(curve(s) - 1e-9);
  });
});

describe('adjustments', () => {
  test('a zone moved by a stop moves that tone by a stop, and its hue not at all', () => {
    const adjust = { ...NO_ADJUST, zones: [{ at: -3, by: 1 }] };
    expect(stopsOf(adjustCodes(grey(-3), adjust))).toBeCloseTo(-2, 2);
    const [r, g, b] = adjustCodes([90, 60, 40], adjust).map((v) => srgbToLinear(v / 255));
    const [r0, g0, b0] = [90, 60, 40].map((v) => srgbToLinear(v / 255));
    expect(r / g).toBeCloseTo(r0 / g0, 3);
    expect(b / g).toBeCloseTo(b0 / g0, 3);
  });

  test('a sampled patch reads equal in all channels, within one code of 255 (common practice), and keeps its luminance', () => {
    for (const codes of [
      [120, 100, 80],
      [60, 90, 110],
      [210, 200, 180],
    ] as const) {
      const neutral = neutralOf(5, 6, codes);
      if (!neutral) throw new Error('no neutral');
      const after = adjustCodes(codes, { ...NO_ADJUST, neutral });
      expect(castOf(after)).toBeLessThan(1);
      const y = (c: readonly number[]): number =>
        [0.2126, 0.7152, 0.0722].reduce((s, k, i) => s + k * srgbToLinear(c[i] / 255), 0);
      expect(y(after)).toBeCloseTo(y(codes), 4);
    }
    expect(neutralOf(0, 0, [2, 2, 2])).toBeUndefined();
    expect(neutralOf(0, 0, [255, 255, 240])).toBeUndefined();
  });

  test('a bluer patch taken as neutral warms the picture, a warmer one cools it (common practice)', () => {
    const warm = adjustCodes([128, 128, 128], { ...NO_ADJUST, neutral: neutralOf(0, 0, [100, 110, 140]) });
    expect(warm[0]).toBeGreaterThan(warm[2] + 5);
    const cool = adjustCodes([128, 128, 128], { ...NO_ADJUST, neutral: neutralOf(0, 0, [140, 110, 100]) });
    expect(cool[2]).toBeGreaterThan(cool[0] + 5);
  });

  test('no saturation leaves grey of the same lightness; double doubles the chroma of Oklab', () => {
    const [r, g, b] = adjustCodes([180, 90, 60], { ...NO_ADJUST, saturation: 0 });
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(0.2);
    expect(adjustCodes([128, 128, 128], { ...NO_ADJUST, saturation: 2 })[0]).toBeCloseTo(128, 1);
  });

  test('nothing set changes no value', () => {
    const planes = [0.1, 0.5, 0.9].map((v) => Float32Array.of(v));
    adjustPlanes(planes, NO_ADJUST);
    expect(planes.map((p) => p[0])).toEqual([0.1, 0.5, 0.9].map(Math.fround));
    expect(adjusts(NO_ADJUST)).toBe(false);
  });
});

// the kernel takes four pixels at a time and its roots from logarithms
test.each([
  ['neutral', { ...NO_ADJUST, neutral: { x: 0, y: 0, before: [90, 100, 110], gains: [1.2, 1, 0.8] } }],
  [
    'zones',
    {
      ...NO_ADJUST,
      zones: [
        { at: -3, by: 0.7 },
        { at: 0, by: -0.2 },
        { at: 2, by: 0.4 },
      ],
    },
  ],
  ['saturation', { ...NO_ADJUST, saturation: 1.6 }],
  ['none of the colour', { ...NO_ADJUST, saturation: 0 }],
] as const)(
  'the kernel changes what the plain form does, darker than black and lighter than white too: %s',
  (_, adjust) => {
    expect(kernels()).toBeDefined();
    const make = (): Float32Array[] => {
      const next = randomSource(12);
      return [0, 1, 2].map(() => Float32Array.from({ length: 70_003 }, () => 1.5 * next() - 0.2));
    };
    const [compiled, plain] = [make(), make()];
    adjustPlanes(compiled, adjust);
    adjustPlanes(plain, adjust, null);
    compiled.forEach((plane, c) => {
      let apart = 0;
      for (let i = 0; i < plane.length; i++) apart = Math.max(apart, Math.abs(plane[i] - plain[c][i]));
      // a fortieth of a code of 255
      expect(apart).toBeLessThan(1e-4);
    });
  },
);
