import { describe, expect, test } from '@jest/globals';
import { emptyImage, type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { enlargeImage, enlargeShares } from './enlargeMerged';

/** A slope in both directions, each colour by its own. */
function slope(width: number, height: number): EncodedImage {
  const image = emptyImage(width, height, 65535);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 3) {
      image.data[o] = 1000 + 100 * x;
      image.data[o + 1] = 2000 + 150 * y;
      image.data[o + 2] = 500 + 40 * x + 60 * y;
    }
  return image;
}

/** Where pixels of a picture halved `k` times lie in it. */
const halved = (k: number) => {
  const scale = 2 ** k;
  const off = -(scale - 1) / (2 * scale);
  return { scale, left: off, top: off };
};

describe('a small picture drawn large', () => {
  test.each([1, 2])('gives a slope back that was halved %d times, but for its border', (k) => {
    const [w, h] = [64, 48];
    const whole = slope(w, h);
    let small = whole;
    for (let i = 0; i < k; i++) small = halveImage(small);
    const back = enlargeImage(small, halved(k), { width: w, height: h });
    expect([back.width, back.height, back.white]).toEqual([w, h, 65535]);
    const rim = 2 ** k;
    for (let y = rim; y < h - rim; y++)
      for (let x = rim; x < w - rim; x++)
        for (let c = 0; c < 3; c++) {
          const i = 3 * (y * w + x) + c;
          expect(Math.abs(back.data[i] - whole.data[i])).toBeLessThanOrEqual(2);
        }
  });

  test('beyond its border the border goes on', () => {
    const small = slope(4, 4);
    const back = enlargeImage(small, { scale: 2, left: -3, top: 0 }, { width: 8, height: 8 });
    // the first six columns lie left of the small picture
    for (let x = 0; x < 6; x++) expect(back.data[3 * x]).toBe(small.data[0]);
  });

  test('one pixel fills everything', () => {
    const one = emptyImage(1, 1, 255);
    one.data.set([10, 20, 30]);
    const back = enlargeImage(one, halved(3), { width: 5, height: 3 });
    for (let i = 0; i < 15; i++) expect([...back.data.slice(3 * i, 3 * i + 3)]).toEqual([10, 20, 30]);
  });
});

describe('numbers of the half-size picture', () => {
  test('come from the nearest, for bytes and floats alike', () => {
    const small = { width: 8, height: 4 };
    const bytes = Uint8Array.from({ length: 8 }, (_, i) => 10 * i);
    const floats = Float32Array.from(bytes, (v) => v / 7);
    const large = { width: 16, height: 8 };
    const out = enlargeShares(bytes, small, halved(1), large);
    const same = enlargeShares(floats, small, halved(1), large);
    expect(out).toBeInstanceOf(Uint8Array);
    expect(same).toBeInstanceOf(Float32Array);
    expect(out).toHaveLength(8 * 4);
    out.forEach((v, i) => expect(same[i]).toBeCloseTo(v / 7, 5));
    // each cell stands for two in either direction, in order
    const row = [...out.subarray(0, 8)];
    expect(row).toEqual([...row].sort((a, b) => a - b));
    expect(new Set(row).size).toBe(4);
  });
});
