import { describe, expect, test } from '@jest/globals';
import { srgbToLinear } from '@/core/raster/srgb';
import { balancedCodes, castOf, neutralOf } from './neutralOf';

/** Codes after a patch was taken as neutral. */
function balanced(
  codes: readonly [number, number, number],
  patch: readonly [number, number, number],
): [number, number, number] {
  const neutral = neutralOf(5, 6, patch);
  if (!neutral) throw new Error('no neutral');
  return balancedCodes(codes, neutral);
}

describe('neutral', () => {
  test('a sampled patch reads equal in all channels, within one code of 255 (common practice), and keeps its luminance', () => {
    for (const codes of [
      [120, 100, 80],
      [60, 90, 110],
      [210, 200, 180],
    ] as const) {
      const after = balanced(codes, codes);
      expect(castOf(after)).toBeLessThan(1);
      const y = (c: readonly number[]): number =>
        [0.2126, 0.7152, 0.0722].reduce((s, k, i) => s + k * srgbToLinear(c[i] / 255), 0);
      expect(y(after)).toBeCloseTo(y(codes), 4);
    }
    expect(neutralOf(0, 0, [2, 2, 2])).toBeUndefined();
    expect(neutralOf(0, 0, [255, 255, 240])).toBeUndefined();
  });

  test('a bluer patch taken as neutral warms the picture, a warmer one cools it (common practice)', () => {
    const warm = balanced([128, 128, 128], [100, 110, 140]);
    expect(warm[0]).toBeGreaterThan(warm[2] + 5);
    const cool = balanced([128, 128, 128], [140, 110, 100]);
    expect(cool[2]).toBeGreaterThan(cool[0] + 5);
  });
});
