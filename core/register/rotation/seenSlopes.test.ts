import { expect, test } from '@jest/globals';
import { type Matrix3, multiply, transposed } from '../../raster/matrix3';
import { pixelOf, rayOf, type SharedLens, turnAbout, turned } from './cameraModel';
import { seenSlopes, SLOPES } from './seenSlopes';

const PLAIN: SharedLens = { focalPx: 1400, k1: 0, width: 1500, height: 1000 };
const Ra = turnAbout(0.02, -0.1, 0.03);
const Rb = turnAbout(-0.04, 0.25, -0.02);

const seen = (lens: SharedLens, a: Matrix3, b: Matrix3, x: number, y: number): [number, number] => {
  const place = pixelOf(lens, ...turned(multiply(b, transposed(a)), rayOf(lens, x, y)));
  if (!place) throw new Error('behind the camera');
  return place;
};

test.each([0, 0.04, -0.06])('changes are those of small steps, distortion %d', (k1) => {
  const lens = { ...PLAIN, k1 };
  const step = 1e-6;
  const out = new Float64Array(SLOPES);
  for (const [x, y] of [
    [900, 500],
    [749.5, 499.5],
    [1400, 120],
    [300, 870],
  ]) {
    expect(seenSlopes(lens, multiply(Rb, transposed(Ra)), x, y, out)).toBe(true);
    const at = seen(lens, Ra, Rb, x, y);
    expect([out[0], out[1]]).toEqual([expect.closeTo(at[0], 8), expect.closeTo(at[1], 8)]);
    const small = [0, 1, 2].map((k) => turnAbout(k === 0 ? step : 0, k === 1 ? step : 0, k === 2 ? step : 0));
    const moved = [
      ...small.map((E) => seen(lens, multiply(E, Ra), Rb, x, y)),
      ...small.map((E) => seen(lens, Ra, multiply(E, Rb), x, y)),
      seen({ ...lens, focalPx: lens.focalPx * (1 + step) }, Ra, Rb, x, y),
      seen({ ...lens, k1: lens.k1 + step }, Ra, Rb, x, y),
    ];
    moved.forEach(([u, v], k) => {
      expect(Math.abs(out[2 + k] - (u - at[0]) / step)).toBeLessThan(0.02);
      expect(Math.abs(out[10 + k] - (v - at[1]) / step)).toBeLessThan(0.02);
    });
  }
});

test('what lies behind the camera is not seen', () => {
  const about = turnAbout(0, Math.PI * 0.9, 0);
  expect(seenSlopes(PLAIN, about, 750, 500, new Float64Array(SLOPES))).toBe(false);
});
