import { beforeAll, describe, expect, test } from '@jest/globals';
import { fitError } from '@/tests/fitError';
import { paint } from '@/tests/paint';
import { type EncodedImage } from '../raster/encodedImage';
import { IDENTITY, type Matrix3, transform } from '../raster/matrix3';
import { randomSource } from '../raster/random';
import { linearToSrgb } from '../raster/srgb';
import { equalSoftness } from './equalSoftness';
import { logFloor, logLuminance } from './logLuminance';
import { luminance } from './luminance';
import { registerPair } from './registerPair';

const [WIDTH, HEIGHT] = [420, 280];
/** radius of the widest blur, pixels */
const WIDEST = 7;

/** Dark and bright stones of several sizes: linear light of a place, edges hard. */
function stones(): (x: number, y: number) => number {
  const random = randomSource(5);
  const cells = Array.from({ length: 3 }, () => Float32Array.from({ length: 64 * 64 }, random));
  const at = (grid: Float32Array, x: number, y: number): number => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [f, g] = [x - i, y - j];
    const of = (a: number, b: number): number => grid[((b & 63) << 6) | (a & 63)];
    return (
      (1 - g) * ((1 - f) * of(i, j) + f * of(i + 1, j)) + g * ((1 - f) * of(i, j + 1) + f * of(i + 1, j + 1))
    );
  };
  return (x, y) => {
    const form = at(cells[0], x / 23, y / 23) + 0.6 * at(cells[1], x / 11, y / 11);
    return (form > 0.85 ? 0.7 : 0.03) * (0.6 + 0.8 * at(cells[2], x / 4, y / 4));
  };
}

/** Places of a disc of radius 1, evenly spread (Vogel 1979). */
const DISC = Array.from({ length: 61 }, (_, k) => {
  const [r, a] = [Math.sqrt((k + 0.5) / 61), k * Math.PI * (3 - Math.sqrt(5))];
  return [r * Math.cos(a), r * Math.sin(a)] as const;
});

/** A frame of the stones, blurred in linear light by a disc. @param radius of the disc at a place of the scene, pixels */
function shot(
  scene: (x: number, y: number) => number,
  map: Matrix3,
  radius: (x: number) => number,
): EncodedImage {
  return paint(WIDTH, HEIGHT, (u, v) => {
    const [x, y] = transform(map, u, v);
    const r = radius(x);
    const light = DISC.reduce((sum, [dx, dy]) => sum + scene(x + r * dx, y + r * dy), 0) / DISC.length;
    const code = linearToSrgb(Math.min(1, light));
    return [code, code, code];
  });
}

/** frame pixel → reference pixel: a little larger, as a lens breathes, and moved by hand */
const BACK: Matrix3 = [1 / 1.008, 0, -1.7, 0, 1 / 1.008, 0.9, 0, 0, 1];
const FORTH: Matrix3 = [1.008, 0, 1.008 * 1.7, 0, 1.008, -1.008 * 0.9, 0, 0, 1];

describe('two frames, one sharp at the left and one at the right', () => {
  let left: EncodedImage;
  let right: EncodedImage;
  beforeAll(() => {
    const scene = stones();
    left = shot(scene, IDENTITY, (x) => (WIDEST * x) / WIDTH);
    right = shot(scene, BACK, (x) => WIDEST * (1 - x / WIDTH));
  });

  test('are fitted as their places are, not as their dark sides', () => {
    const errorOf = (softness?: 'differs'): number => {
      const fit = registerPair(left, right, { stops: 0, motion: 'similarity', softness });
      return fit.fitted ? fitError(fit.matrix, FORTH, WIDTH, HEIGHT).worst : Infinity;
    };
    const even = errorOf('differs');
    expect(even).toBeLessThan(0.1);
    expect(even).toBeLessThan(0.5 * errorOf());
  });

  test('are equally sharp afterwards, and softer nowhere than the softer one was', () => {
    const floor = logFloor(0);
    const [a, b] = [left, right].map((image) => luminance(image, 0, 'all'));
    const even = equalSoftness(a, b, FORTH, floor);
    const [plainA, plainB] = [a, b].map((light) => logLuminance(light, floor));
    /** mean squared gradient of a third of the width */
    const sharpness = ({ value }: { readonly value: Float32Array }, third: number): number => {
      let sum = 0;
      for (let y = 20; y < HEIGHT - 20; y++)
        for (let x = 20 + third * 127; x < 20 + (third + 1) * 127; x++) {
          const i = y * WIDTH + x;
          sum += (value[i + 1] - value[i - 1]) ** 2 + (value[i + WIDTH] - value[i - WIDTH]) ** 2;
        }
      return sum;
    };
    for (const third of [0, 1, 2]) {
      const [soft, sharp] = [sharpness(plainA, third), sharpness(plainB, third)].sort((p, q) => p - q);
      const ratio = sharpness(even.reference, third) / sharpness(even.frame, third);
      expect(Math.abs(Math.log(ratio))).toBeLessThan(Math.log(1.35));
      expect(sharpness(even.reference, third)).toBeGreaterThan(0.8 * soft);
      if (third !== 1) expect(sharp).toBeGreaterThan(2 * soft);
    }
  });

  test('a picture beside itself stays as it is', () => {
    const light = luminance(left, 0, 'all');
    const even = equalSoftness(light, light, IDENTITY, logFloor(0));
    expect(even.reference.value).toEqual(even.frame.value);
    expect(even.reference.value).toEqual(logLuminance(light, logFloor(0)).value);
  });
});
