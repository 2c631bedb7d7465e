import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import { encodedGain } from './encodedGain';
import { emptyImage } from './encodedImage';
import { halveImage } from './halveImage';
import { normalSource, randomSource } from './random';
import { decodePlane, encodeClipped, linearTable, linearToSrgb, srgbToLinear } from './srgb';

describe('sRGB transfer (IEC 61966-2-1)', () => {
  // the standard's constants: 0.04045, 12.92, 0.055, 2.4; middle grey 0.18 is code 117.6 of 255 (from memory)
  test.each([
    [0, 0],
    [0.04045, 0.0031308],
    [0.5, 0.21404114],
    [1, 1],
  ])('code %f is light %f', (code, light) => {
    expect(srgbToLinear(code)).toBeCloseTo(light, 6);
    expect(linearToSrgb(light)).toBeCloseTo(code, 5);
  });

  test('agrees with an independent library over all codes (culori)', () => {
    const toLinear = converter('lrgb');
    const table = linearTable(255);
    for (let i = 0; i < 256; i++) {
      const other = toLinear({ mode: 'rgb', r: i / 255, g: 0, b: 0 });
      expect(Math.abs(table[i] - other.r)).toBeLessThan(1e-6);
    }
  });

  test('the tables agree with the formula', () => {
    const codes = Float32Array.from({ length: 5000 }, (_, i) => i / 4500);
    const light = codes.slice();
    decodePlane(light);
    codes.forEach((c, i) => expect(Math.abs(light[i] - srgbToLinear(c))).toBeLessThan(1e-6));
    for (let i = 0; i <= 1000; i++)
      expect(Math.abs(encodeClipped(i / 1000) - linearToSrgb(i / 1000))).toBeLessThan(1e-4);
    expect([encodeClipped(-1), encodeClipped(2), encodeClipped(NaN)]).toEqual([0, 1, 0]);
  });

  test.each([-3, -0.5, 0, 1.7])('brightening by %f EV multiplies the light and clips', (stops) => {
    const brighten = encodedGain(stops);
    for (let v = 0; v <= 1.0001; v += 0.01) {
      const expected = Math.min(1, linearToSrgb(srgbToLinear(Math.min(1, v)) * 2 ** stops));
      expect(Math.abs(brighten(v) - expected)).toBeLessThan(2e-4);
    }
    expect(brighten(-0.2)).toBe(0);
  });
});

describe('encoded images', () => {
  test('half the size is the mean of each block, odd last row and column dropped', () => {
    const image = emptyImage(5, 3, 255);
    image.data.set([10, 0, 0, 20, 0, 0, 30, 0, 0, 40, 0, 0, 99, 0, 0], 0);
    image.data.set([14, 0, 0, 24, 0, 0, 30, 0, 0, 44, 0, 0, 99, 0, 0], 15);
    const half = halveImage(image);
    expect([half.width, half.height]).toEqual([2, 1]);
    expect([half.data[0], half.data[3]]).toEqual([17, 36]);
  });
});

describe('seeded randomness', () => {
  test('the same seed gives the same numbers, another seed others', () => {
    const a = randomSource(5);
    const b = randomSource(5);
    const c = randomSource(6);
    const first = [a(), a(), a()];
    expect(first).toEqual([b(), b(), b()]);
    expect(first).not.toEqual([c(), c(), c()]);
  });

  test('normal numbers have mean 0 and variance 1', () => {
    const normal = normalSource(randomSource(1));
    const values = Array.from({ length: 20000 }, normal);
    const mean = values.reduce((s, v) => s + v, 0) / values.length;
    const variance = values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(Math.abs(variance - 1)).toBeLessThan(0.05);
  });
});
