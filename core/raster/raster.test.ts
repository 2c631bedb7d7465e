import { expect, test } from '@jest/globals';
import { orientImage } from '../codecs/read/orientImage';
import { emptyImage } from './encodedImage';
import { halveImage } from './halveImage';
import { reusedBytes } from './raster';

test('memory that is used over and over is black again, and no two share it at a time', () => {
  const begin = reusedBytes();
  const first = begin();
  const [a, b] = [first(64), first(64)];
  expect(a).not.toBe(b);
  new Uint8Array(a).fill(7);
  const second = begin();
  const again = [second(64), second(64), second(64), second(32)];
  expect(again[0]).toBe(a);
  expect(again[1]).toBe(b);
  expect(new Set(again).size).toBe(4);
  expect(new Uint8Array(again[0]).every((v) => v === 0)).toBe(true);
});

test('a picture may lie in memory of one worker alone, from the decoder to its halvings', () => {
  const allocate = reusedBytes()();
  const image = emptyImage(6, 4, 255, allocate);
  expect(image.data.buffer).toBeInstanceOf(ArrayBuffer);
  image.data.forEach((_, i) => (image.data[i] = i));
  // upright already: it is not copied, though it cannot be shared
  expect(orientImage(image.data, 6, 4, 3, 255, 1, allocate).data).toBe(image.data);
  expect(orientImage(image.data, 6, 4, 3, 255, 1).data).not.toBe(image.data);
  const half = halveImage(image, allocate);
  expect(half.data.buffer).toBeInstanceOf(ArrayBuffer);
  expect(half.data).toEqual(halveImage(image).data);
  // upside down it is
  expect([...orientImage(image.data, 6, 4, 3, 255, 3, allocate).data.subarray(0, 3)]).toEqual([69, 70, 71]);
});
