import { describe, expect, test } from '@jest/globals';
import { flat, largestDifference, paint, waves } from '@/tests/paint';
import { IDENTITY, translation, transform, type Matrix3 } from './matrix3';
import { randomSource } from './random';
import { coverage, warpImage } from './warp';

const whole = { x: 0, y: 0, width: 96, height: 64 };
const texture = waves(8);
const picture = paint(96, 64, (x, y) => [texture(x, y), texture(y, x), texture(x + 30, y)], 65535);

describe('warpImage', () => {
  test.each(['lanczos', 'bilinear'] as const)('%s: the identity copies code values', (kernel) => {
    const planes = warpImage(picture, IDENTITY, whole, kernel);
    const exact = Float32Array.from({ length: 96 * 64 }, (_, i) => picture.data[i * 3 + 1] / 65535);
    expect(largestDifference(planes[1], exact)).toBeLessThan(1e-6);
  });

  test('whole shifts move samples without change, edges continued', () => {
    const [R] = warpImage(picture, translation(5, -3), whole, 'lanczos');
    expect(R[10 * 96 + 20]).toBeCloseTo(picture.data[(7 * 96 + 25) * 3] / 65535, 6);
    expect(R[0]).toBeCloseTo(picture.data[5 * 3] / 65535, 6);
  });

  test('a part of the grid is the same as the whole, cut', () => {
    const m: Matrix3 = [0.999, 0.01, 1.3, -0.01, 0.999, 2.7, 1e-6, 0, 1];
    const all = warpImage(picture, m, whole, 'lanczos');
    const part = warpImage(picture, m, { x: 11, y: 17, width: 20, height: 9 }, 'lanczos');
    for (let y = 0; y < 9; y++)
      for (let x = 0; x < 20; x++) expect(part[2][y * 20 + x]).toBe(all[2][(y + 17) * 96 + x + 11]);
  });

  test('Lanczos-3 (Duchon 1979) follows a wave of 8 pixels between samples to 0.3 %', () => {
    const wave = (x: number): number => 0.5 + 0.4 * Math.sin((2 * Math.PI * x) / 8);
    const source = paint(96, 64, (x) => [wave(x), wave(x), wave(x)], 65535);
    const [R] = warpImage(source, translation(0.37, 0.5), whole, 'lanczos');
    for (let x = 8; x < 88; x++) expect(Math.abs(R[32 * 96 + x] - wave(x + 0.37))).toBeLessThan(0.003);
  });

  test('an even picture stays even under any map', () => {
    const m: Matrix3 = [0.9, 0.2, -12, -0.1, 1.1, 7, 1e-4, 2e-4, 1];
    const [R] = warpImage(flat(96, 64, 0.6, 65535), m, whole, 'lanczos');
    for (const v of R) expect(v).toBeCloseTo(0.6, 4);
  });
});

describe('coverage', () => {
  test('is, row by row, what each pixel by itself says, under any map', () => {
    const random = randomSource(11);
    const [width, height] = [96, 64];
    for (let k = 0; k < 80; k++) {
      const between = (a: number, b: number): number => a + (b - a) * random();
      const turn = between(-3.2, 3.2);
      const size = between(0.3, 2.5);
      // some with the border exactly on a pixel, some seen from behind
      const shift = k % 5 === 0 ? [Math.round(between(-60, 60)), 0] : [between(-60, 90), between(-60, 90)];
      const map: Matrix3 =
        k % 5 === 0
          ? translation(shift[0], shift[1])
          : [
              ...([size * Math.cos(turn), -size * Math.sin(turn), shift[0]] as const),
              ...([size * Math.sin(turn), size * Math.cos(turn), shift[1]] as const),
              ...([between(-0.02, 0.02), between(-0.02, 0.02), 1] as const),
            ];
      const area = {
        x: Math.round(between(-20, 40)),
        y: Math.round(between(-20, 30)),
        width: 70,
        height: 50,
      };
      const plane = coverage({ width, height }, map, area, 0);
      const alone = Float32Array.from(plane, (_, i) => {
        const [x, y] = [area.x + (i % 70), area.y + Math.floor(i / 70)];
        const d = 1 / (map[6] * x + map[7] * y + map[8]);
        const [u, v] = [(map[0] * x + map[1] * y + map[2]) * d, (map[3] * x + map[4] * y + map[5]) * d];
        return d > 0 && Math.min(u, width - 1 - u, v, height - 1 - v) >= -1e-6 ? 1 : 0;
      });
      expect(plane.filter((v, i) => v !== alone[i])).toHaveLength(0);
    }
  });

  test('is one exactly where the pixel centre falls on the source', () => {
    const m = translation(10.5, -4);
    const plane = coverage({ width: 96, height: 64 }, m, whole, 0);
    for (let y = 0; y < 64; y += 7)
      for (let x = 0; x < 96; x += 5) {
        const [u, v] = transform(m, x, y);
        expect(plane[y * 96 + x]).toBe(u >= 0 && v >= 0 && u <= 95 && v <= 63 ? 1 : 0);
      }
  });

  test('rises over the feather from the border inwards', () => {
    const plane = coverage({ width: 96, height: 64 }, IDENTITY, whole, 10);
    const row = Array.from(plane.subarray(32 * 96, 32 * 96 + 12));
    expect(row[0]).toBeCloseTo(0.05, 6);
    expect(row[10]).toBe(1);
    expect(row.every((v, i) => i === 0 || v >= row[i - 1])).toBe(true);
  });
});
