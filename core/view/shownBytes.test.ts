import { describe, expect, test } from '@jest/globals';
import { kernels } from '../kernels/kernels';
import { NO_ADJUST } from '../match/adjust';
import { normalSource, randomSource } from '../raster/random';
import { largestDifference, waves } from '@/tests/paint';
import { completed, type Unfinished } from './finishedPlanes';
import { opaqueBytes, shownBytes } from './shownBytes';

/** A picture of waves, a little over white and under black, whose rows are no multiple of four. */
function picture(width: number, height: number, change: Partial<Unfinished> = {}): Unfinished {
  const normal = normalSource(randomSource(width));
  const planes = [1, 2, 3].map((seed) => {
    const at = waves(seed, 8);
    return Float32Array.from(
      { length: width * height },
      (_, i) => 1.3 * at(i % width, Math.floor(i / width)) - 0.1 + 0.005 * normal(),
    );
  });
  return { planes, wide: { x: 10, y: 20, width, height }, adjust: NO_ADJUST, stops: 0, ...change };
}

const CHANGES: [string, Partial<Unfinished>][] = [
  ['as it is', {}],
  ['brighter', { stops: 0.7 }],
  ['darker', { stops: -1.4 }],
  ['more colour', { adjust: { ...NO_ADJUST, saturation: 1.4 } }],
  ['other tones', { adjust: { ...NO_ADJUST, zones: [{ at: -2, by: 0.8 }], saturation: 0.6 }, stops: 0.3 }],
  ['drawn towards another', { towards: { planes: picture(333, 207, {}).planes.toReversed(), share: 0.3 } }],
  ['sharpened', { sharpen: { radius: 0.8, amount: 1.5, edge: 0.2 }, stops: 0.2 }],
];

describe('bytes that are shown', () => {
  test.each(CHANGES)('compiled, they are what the plain form makes: %s', (_, change) => {
    expect(kernels()).toBeDefined();
    // large enough to be taken through the steps in several parts
    const made = picture(333, 207, change);
    for (const area of [made.wide, { x: 31, y: 44, width: 101, height: 77 }]) {
      const bytes = shownBytes(made, area);
      const plain = opaqueBytes(completed(made, area));
      expect(bytes).toHaveLength(plain.length);
      expect(largestDifference(bytes, plain)).toBeLessThanOrEqual(1);
      expect(bytes.filter((v, i) => v !== plain[i]).length).toBeLessThan(0.01 * plain.length);
      expect(bytes.every((v, i) => i % 4 !== 3 || v === 255)).toBe(true);
    }
  });

  test('the plain form is taken where there are no kernels', () => {
    const made = picture(40, 30, { stops: 0.5 });
    expect(shownBytes(made, made.wide, null)).toEqual(opaqueBytes(completed(made, made.wide)));
  });

  test('the planes stay as they are', () => {
    const made = picture(64, 48, { stops: 1, adjust: { ...NO_ADJUST, saturation: 2 } });
    const before = made.planes.map((p) => p.slice());
    shownBytes(made, made.wide);
    shownBytes(made, made.wide, null);
    made.planes.forEach((p, c) => expect(p).toEqual(before[c]));
  });

  test.each([1, 2, 3, 5])('pictures of a few pixels, width %d', (width) => {
    const made = picture(width, 3, { stops: 0.5 });
    const plain = opaqueBytes(completed(made, made.wide));
    expect(largestDifference(shownBytes(made, made.wide), plain)).toBeLessThanOrEqual(1);
  });
});
