import { describe, expect, test } from '@jest/globals';
import { emptyImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, multiply, transform, translation } from '@/core/raster/matrix3';
import { linearToSrgb } from '@/core/raster/srgb';
import { flat, paint } from '@/tests/paint';
import { commonRectangle, type CropFrame, sharedByAll } from './commonRectangle';
import { layPixels } from '@/core/view/layPixels';
import { ratioValue } from './cropRatio';
import { finishFindings } from './finishFindings';
import { toneShares } from './toneShares';

const size = { width: 300, height: 200 };
const frame = (matrix: Matrix3): CropFrame => ({ ...size, matrix });
const turned = (degrees: number): Matrix3 => {
  const a = (degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(a), Math.sin(a)];
  return multiply(
    translation(149.5, 99.5),
    multiply([c, -s, 0, s, c, 0, 0, 0, 1], translation(-149.5, -99.5)),
  );
};

/** Every corner pixel of the rectangle lies on every frame. */
function covered(
  frames: readonly CropFrame[],
  r: { x: number; y: number; width: number; height: number },
): boolean {
  return frames.every((f) =>
    [
      [r.x, r.y],
      [r.x + r.width - 1, r.y],
      [r.x, r.y + r.height - 1],
      [r.x + r.width - 1, r.y + r.height - 1],
    ].every(([x, y]) => {
      const [u, v] = transform(f.matrix, x, y);
      return u >= -1e-6 && v >= -1e-6 && u <= f.width - 1 + 1e-6 && v <= f.height - 1 + 1e-6;
    }),
  );
}

describe('the rectangle that every frame covers', () => {
  test('is the whole reference for frames that lie on it', () =>
    expect(commonRectangle(size, [frame(IDENTITY)], 'free')).toEqual({
      x: 0,
      y: 0,
      width: 300,
      height: 200,
    }));

  test('of two shifted frames is their overlap to the pixel', () => {
    const frames = [frame(translation(12, -7)), frame(translation(-5, 3))];
    expect(commonRectangle(size, frames, 'free')).toEqual({ x: 5, y: 7, width: 283, height: 190 });
  });

  test.each(['free', 3 / 2, 5 / 4, 1, 2, 2 / 3] as const)(
    'ratio %s of turned frames is covered, and one pixel more is not',
    (ratio) => {
      const frames = [frame(turned(1.2)), frame(multiply(turned(-0.7), translation(6, 4)))];
      const found = commonRectangle(size, frames, ratio);
      if (!found) throw new Error('no rectangle');
      expect(covered([frame(IDENTITY), ...frames], found)).toBe(true);
      const grown = { x: found.x - 2, y: found.y - 2, width: found.width + 4, height: found.height + 4 };
      expect(covered([frame(IDENTITY), ...frames], grown)).toBe(false);
      if (ratio !== 'free') expect(Math.abs(found.width / found.height - ratio)).toBeLessThan(0.01);
    },
  );

  test('of a fixed ratio is as large as a search by hand finds, within 1 %', () => {
    const frames = [frame(turned(2)), frame(translation(9, 9))];
    const found = commonRectangle(size, frames, 1.5);
    let best = 0;
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 60; x++)
        for (let h = best + 1; h <= 200; h++) {
          const w = Math.round(h * 1.5);
          if (!covered([frame(IDENTITY), ...frames], { x, y, width: w, height: h })) break;
          best = h;
        }
    expect(found?.height).toBeGreaterThanOrEqual(best * 0.99);
  });

  test('frames that share nothing give none', () =>
    expect(commonRectangle(size, [frame(translation(400, 0))], 'free')).toBeUndefined());

  test('the share seen by all is measured', () => {
    const whole = { x: 0, y: 0, ...size };
    expect(sharedByAll(whole, [frame(translation(30, 0))])).toBeCloseTo(0.9, 1);
    expect(sharedByAll(whole, [frame(IDENTITY)])).toBe(1);
  });
});

describe('codes and ratios', () => {
  test('light beyond white is clipped in codes, and kept in floats', () => {
    const plane = Float32Array.of(0.25, 1.4, -0.1);
    const codes = emptyImage(3, 1, 65535);
    layPixels([plane, plane, plane], codes, 0);
    expect([...codes.data].filter((_, i) => i % 3 === 0)).toEqual([Math.round(0.25 * 65535), 65535, 0]);
    const floats = emptyImage(3, 1, 1);
    layPixels([plane, plane, plane], floats, 0);
    expect([...floats.data].filter((_, i) => i % 3 === 1)).toEqual([...plane]);
  });

  test('every 8-bit code comes out as it went in', () => {
    const codes = Float32Array.from({ length: 256 }, (_, i) => i / 255);
    const out = emptyImage(256, 1, 255);
    layPixels([codes, codes, codes], out, 0);
    for (let i = 0; i < 256; i++) expect(out.data[i * 3]).toBe(i);
  });

  test('ratios lie, or stand when asked', () => {
    expect(ratioValue({ ratio: '2:3', upright: false })).toBe(1.5);
    expect(ratioValue({ ratio: '2:3', upright: true })).toBeCloseTo(2 / 3, 9);
    expect(ratioValue({ ratio: 'free', upright: true })).toBe('free');
  });
});

describe('tones and findings of the finish', () => {
  test('middle grey 0.18 lies at zero stops, a stop is three steps', () => {
    const { first, shares } = toneShares(flat(20, 20, linearToSrgb(0.18), 65535));
    expect(shares[-first * 3]).toBe(1);
    const brighter = toneShares(flat(20, 20, linearToSrgb(0.36), 65535));
    expect(brighter.shares[-first * 3 + 3]).toBe(1);
  });

  test('a burnt corner is found at its place in the whole picture; a clean one passes', () => {
    const crop = { x: 100, y: 50, width: 1200, height: 900 };
    const reference = { width: 1400, height: 1000 };
    const frames = [{ ...reference, matrix: IDENTITY }];
    const clean = finishFindings(flat(120, 90, 0.4), crop, reference, frames);
    expect(clean.every((f) => f.verdict === 'pass')).toBe(true);
    const image = paint(120, 90, (x, y) => (x >= 110 && y >= 80 ? [1, 1, 1] : [0.4, 0.4, 0.4]));
    const burnt = finishFindings(image, crop, reference, frames).find((f) => f.id === 'finish.burnt');
    expect(burnt).toMatchObject({ verdict: 'watch', where: { x: 1200, y: 850, width: 100, height: 100 } });
  });

  test('blank edges are found', () => {
    const crop = { x: 0, y: 0, width: 300, height: 200 };
    const findings = finishFindings(emptyImage(30, 20, 255), crop, size, [frame(translation(60, 0))]);
    expect(findings.find((f) => f.id === 'finish.uncovered')?.verdict).toBe('fail');
  });
});
