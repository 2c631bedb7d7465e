import { describe, expect, test } from '@jest/globals';
import { linearOfOklab } from '@/core/colour/oklab';
import { linearToSrgb } from '@/core/raster/srgb';
import { paint } from '@/tests/paint';
import { regionOf, regionOver } from '@/tests/regionPlane';
import { same, type SameSettings } from './same';

const [W, H, BAND] = [200, 60, 40];

type Lab = readonly [number, number, number];

/** What looks like the middle of the first of five bands of even colour, in the middle of each band. */
function alikeIn(bands: readonly Lab[], change: Partial<SameSettings>): number[] {
  const image = paint(
    W,
    H,
    (x) =>
      linearOfOklab(...bands[Math.min(bands.length - 1, Math.floor(x / BAND))]).map(linearToSrgb) as [
        number,
        number,
        number,
      ],
    65535,
  );
  const settings = { ...same.plain, x: BAND / 2 / W, y: H / 2 / W, size: 0.05, ...change };
  const area = { x: 0, y: 0, width: W, height: H };
  const plane = regionOver(regionOf({ kind: 'same', settings }), image, { level: 0, area });
  return bands.map((_, k) => plane[(H / 2) * W + k * BAND + BAND / 2]);
}

const smooth = (t: number): number => {
  const s = Math.min(1, Math.max(0, t));
  return 3 * s * s - 2 * s * s * s;
};

describe('like a place', () => {
  test('an even place spreads by what noise does, and each colour counts by how many spreads it is off', () => {
    const start: Lab = [0.6, 0.02, -0.05];
    const steps: Lab[] = [
      [0, 0, 0],
      [0.05, 0, 0],
      [0, 0.03, 0],
      [0, 0, -0.045],
      [0.06, 0.02, 0.03],
    ];
    const bands = steps.map((d) => start.map((v, c) => v + d[c]) as unknown as Lab);
    const got = alikeIn(bands, { within: 3 });
    steps.forEach(([L, a, b], k) => {
      const distance = Math.hypot(L / 0.02, a / 0.009, b / 0.009);
      expect(got[k]).toBeCloseTo(smooth((4.5 - distance) / 1.5), 2);
    });
    // something of each: wholly alike, fading, not at all
    expect(got[0]).toBe(1);
    expect(got.some((v) => v > 0.05 && v < 0.95)).toBe(true);
    expect(got[3]).toBe(0);
  });

  test('in any light the same thing is found in shadow, and another colour is not', () => {
    const start: Lab = [0.7, 0.03, 0.06];
    // light k times as strong makes all of Oklab ∛k times as large (Ottosson 2020)
    const shaded = [1, 0.5, 0.15].map((k) => start.map((v) => v * Math.cbrt(k)) as unknown as Lab);
    const bands: Lab[] = [...shaded, [0.7, -0.06, 0.03], [0.7, 0.03, 0.06]];
    expect(alikeIn(bands, { within: 4 })).toEqual([1, 0, 0, 0, 1]);
    expect(alikeIn(bands, { within: 4, anyLight: true })).toEqual([1, 1, 1, 0, 1]);
  });

  test('counts for nothing until a place is pressed', () => {
    expect(() => alikeIn([[0.5, 0, 0]], { x: -1 })).toThrow('everywhere');
    expect(same.says(same.plain)).toContain('still to be pressed');
  });
});
