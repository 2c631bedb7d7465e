import { describe, expect, test } from '@jest/globals';
import { paint, waves } from '@/tests/paint';
import { boxMean } from '@/core/raster/boxMean';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';
import { invert, type Matrix3, multiply, transform } from '@/core/raster/matrix3';
import { registerPair } from '../registerPair';

const [W, H] = [660, 440];

/** Pixels of the reference that the wall reaches beyond it, and how fine it is known. */
const AROUND = 420;
const FINE = 2;
const [WW, WH] = [FINE * (W + 2 * AROUND), FINE * (H + 2 * AROUND)];

/** A wall of patches and grain, encoded 0…1, twice as fine as the reference shows it. */
const WALL = ((): Float32Array => {
  const random = randomSource(71);
  const noise = Float32Array.from({ length: WW * WH }, () => random() - 0.5);
  const grain = [2, 5, 12].map((r) => boxMean(boxMean(noise, WW, WH, r), WW, WH, r));
  return noise.map((_, k) => {
    const [x, y] = [(k % WW) + 160 * grain[2][k] * 12, Math.floor(k / WW) + 150 * grain[2][k] * 12];
    const patch = (((Math.floor(x / 74) * 73856093) ^ (Math.floor(y / 58) * 19349663)) >>> 3) % 97;
    return 0.22 + 0.3 * (patch / 97) + 0.5 * grain[0][k] + 0.9 * grain[1][k] + 2 * grain[2][k];
  });
})();

/** What lies at a place of the wall, pixels of the reference. */
function wall(x: number, y: number): number {
  const u = Math.min(WW - 2, Math.max(0, FINE * (x + AROUND)));
  const v = Math.min(WH - 2, Math.max(0, FINE * (y + AROUND)));
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const [f, g, at] = [u - i, v - j, j * WW + i];
  const top = WALL[at] + f * (WALL[at + 1] - WALL[at]);
  const bottom = WALL[at + WW] + f * (WALL[at + WW + 1] - WALL[at + WW]);
  return top + g * (bottom - top);
}

/** The wall as a frame sees it. @param map wall (the reference's pixels) → frame pixels */
function seen(map: Matrix3, stops = 0, [width, height] = [W, H]): EncodedImage {
  const back = invert(map);
  const brighten = encodedGain(stops);
  return paint(width, height, (x, y) => {
    let sum = 0;
    for (const [du, dv] of [
      [-0.25, -0.25],
      [0.25, -0.25],
      [-0.25, 0.25],
      [0.25, 0.25],
    ])
      sum += wall(...transform(back, x + du, y + dv));
    const v = brighten(sum / 4);
    return [v, v * 0.97, v * 0.93];
  });
}

/** Turned and enlarged about the middle, then shifted. */
function moved(degrees: number, scale: number, dx = 0, dy = 0): Matrix3 {
  const a = (degrees * Math.PI) / 180;
  const [c, s] = [scale * Math.cos(a), scale * Math.sin(a)];
  const [cx, cy] = [(W - 1) / 2, (H - 1) / 2];
  return [c, -s, cx - c * cx + s * cy + dx, s, c, cy - s * cx - c * cy + dy, 0, 0, 1];
}

/** A wall turned away by so many degrees about the upright through its middle. */
function oblique(degrees: number): Matrix3 {
  const a = (degrees * Math.PI) / 180;
  const [cx, cy, f] = [(W - 1) / 2, (H - 1) / 2, 1.2 * W];
  const turned: Matrix3 = [Math.cos(a), 0, 0, 0, 1, 0, Math.sin(a) / f, 0, 1];
  return multiply([1, 0, cx, 0, 1, cy, 0, 0, 1], multiply(turned, [1, 0, -cx, 0, 1, -cy, 0, 0, 1]));
}

/** Root mean square distance between two maps where the frame sees the reference, pixels. */
function distance(a: Matrix3, b: Matrix3, [width, height] = [W, H]): number {
  let [sum, count] = [0, 0];
  for (let j = 0; j < 7; j++)
    for (let i = 0; i < 9; i++) {
      const [x, y] = [((i + 0.5) * W) / 9, ((j + 0.5) * H) / 7];
      const [p, q] = [transform(a, x, y), transform(b, x, y)];
      if (p[0] < 0 || p[1] < 0 || p[0] >= width || p[1] >= height) continue;
      sum += (p[0] - q[0]) ** 2 + (p[1] - q[1]) ** 2;
      count++;
    }
  return Math.sqrt(sum / count);
}

const reference = seen(moved(0, 1));
const fitted = (frame: EncodedImage, stops = 0) => registerPair(reference, frame, { stops, motion: 'auto' });

describe('a frame far from its reference', () => {
  test.each([
    ['turned by 24°', moved(24, 1), 0, 'similarity'],
    ['upside down', moved(183, 1), 0, 'similarity'],
    ['0.62 times as large', moved(2, 0.62), 0, 'similarity'],
    ['1.6 times as large', moved(-3, 1.6, 30, -20), 0, 'similarity'],
    ['shifted by half its width', moved(2, 1.04, 0.5 * W, 20), 0, 'similarity'],
    ['seen 40° obliquely', oblique(40), 0, 'perspective'],
    ['turned by 9° and two stops lighter', moved(9, 0.95, -25, 12), 2, 'similarity'],
  ] as const)('%s is laid on it to a twentieth of a pixel, by the simplest model', (_, map, stops, model) => {
    const fit = fitted(seen(map, stops), stops);
    expect(fit).toMatchObject({ fitted: true, why: '', model });
    expect(distance(map, fit.matrix)).toBeLessThan(0.05);
    expect(fit.bound).toBeLessThan(0.2);
  });

  test('a crop of another size and scale is laid on it', () => {
    const size: [number, number] = [400, 300];
    const map = multiply([0.8, 0, -70, 0, 0.8, -30, 0, 0, 1], moved(0.5, 1));
    const fit = fitted(seen(map, 0, size));
    expect(fit.fitted).toBe(true);
    expect(distance(map, fit.matrix, size)).toBeLessThan(0.05);
  });

  test('another wall is refused, upright and turned', () => {
    const [other, grain] = [waves(91, 40), waves(92, 120)];
    for (const turn of [0, 20]) {
      const back = invert(moved(turn, 1));
      const frame = paint(W, H, (x, y) => {
        const [u, v] = transform(back, x, y);
        const tone = 0.2 + 0.4 * other(u, v) + 0.2 * grain(u, v);
        return [tone, tone, tone];
      });
      expect(fitted(frame).fitted).toBe(false);
    }
  });

  test('a known start leads a frame that shares too little to be found', () => {
    const map = moved(12, 1.1, 40, -10);
    const start = moved(12.2, 1.098, 41.5, -9);
    const fit = registerPair(reference, seen(map), { stops: 0, motion: 'auto', start });
    expect(fit.fitted).toBe(true);
    expect(distance(map, fit.matrix)).toBeLessThan(0.05);
  });
});
