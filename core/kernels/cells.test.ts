import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { blockMeans } from '@/core/merge/focus/blockMeans';
import { randomSource } from '@/core/raster/random';
import { gridRow } from '@/core/raster/reducedGrid';
import { codeBytes, type Kernels, kernels, planeBytes } from './kernels';

function compiled(): Kernels {
  const k = kernels();
  if (!k) throw new Error('no WebAssembly SIMD here');
  return k;
}

const plane = (w: number, h: number): Float32Array => {
  const random = randomSource(w + 17 * h);
  return Float32Array.from({ length: w * h }, () => random());
};

describe('cells and pixels', () => {
  test.each([
    [40, 24],
    [37, 23],
    [5, 2],
    [3, 9],
  ])('means of blocks of %i × %i cells', (w, h) => {
    const k = compiled();
    const data = plane(w, h);
    const truth = blockMeans(data, w, h);
    k.borrow(() => {
      const [src, dst] = [k.upload(data), k.take(4 * truth.length)];
      k.blockMeans(src, w, h, dst);
      expect(largestDifference(k.floats(dst, truth.length), truth)).toBeLessThan(1e-6);
    });
  });

  test.each([
    [0, 30, 20, 0],
    [1, 61, 41, 7],
    [2, 121, 79, 33],
    [3, 240, 160, 90],
  ])('rows of pixels out of cells of level %i, %i × %i pixels from row %i on', (level, width, rows, y0) => {
    const k = compiled();
    const [w, h] = [Math.ceil((width + 40) / 2 ** level), Math.ceil((rows + y0) / 2 ** level)];
    const cells = plane(w, h);
    const grid = { width: w, height: h, level };
    const truth = new Float32Array(width);
    k.borrow(() => {
      const out = k.take(4 * width * rows);
      k.spreadCellRows(
        ...[k.upload(cells), w, h, 0, 2 ** level, 11, y0, width, rows, 0],
        ...[k.take(4 * w + 16), out],
      );
      for (let y = 0; y < rows; y++) {
        gridRow(truth, cells, grid, 11, y0 + y);
        expect(largestDifference(k.floats(out + 4 * y * width, width), truth)).toBeLessThan(1e-5);
      }
    });
  });
});

describe('the memory of the kernels', () => {
  test('a plane has the slack that vector loads want, and the next begins on a line of the cache', () => {
    for (const count of [1, 12, 13, 16, 1000, 1_500_000]) {
      expect(planeBytes(count) - 4 * count).toBeGreaterThanOrEqual(16);
      expect(planeBytes(count) % 64).toBe(0);
    }
  });

  test.each([
    [255, Uint8Array.of(1, 200, 255)],
    [65535, Uint16Array.of(1, 20_000, 65_535)],
    [1, Float32Array.of(0.5, -2, 7)],
  ] as const)('codes of white %d lie there as they are', (white, codes) => {
    const k = compiled();
    k.borrow(() => {
      const at = k.uploadCodes(codes);
      const size = codeBytes(white);
      const seen = size === 1 ? k.bytes(at, 3) : size === 2 ? k.words(at, 3) : k.floats(at, 3);
      expect([...seen]).toEqual([...codes]);
    });
    // a part of a larger picture, too
    const part = codes.subarray(1);
    k.borrow(() => {
      const at = k.uploadCodes(part);
      expect([...k.bytes(at, part.byteLength)]).toEqual([
        ...new Uint8Array(part.buffer, part.byteOffset, part.byteLength),
      ]);
    });
  });

  test('a list of addresses is read by four bytes each', () => {
    const k = compiled();
    k.borrow(() => {
      const [a, b] = [k.upload(Float32Array.of(1, 2)), k.upload(Float32Array.of(3, 4))];
      const list = k.addresses([a, b]);
      expect([...new Uint32Array(k.bytes(list, 8).buffer, list, 2)]).toEqual([a, b]);
    });
  });
});
