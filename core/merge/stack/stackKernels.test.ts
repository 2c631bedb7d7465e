import { describe, expect, test } from '@jest/globals';
import { largestDifference, paint, waves } from '@/tests/paint';
import { kernels } from '../../kernels/kernels';
import { emptyImage } from '../../raster/encodedImage';
import { IDENTITY, type Matrix3, translation } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { srgbToLinear } from '../../raster/srgb';
import { sortingNetwork } from './sortingNetwork';
import { type StackBuffers, type StackFrame, type StackMethod } from './stackMethod';
import { stackBand, stackBandPlain } from './stackBand';

describe('sorting network', () => {
  // the zero-one principle: what sorts every row of noughts and ones sorts everything (Knuth, TAOCP 3, theorem 5.3.4Z)
  test.each(Array.from({ length: 11 }, (_, i) => i + 1))('of %i numbers', (n) => {
    const network = sortingNetwork(n);
    for (let bits = 0; bits < 2 ** n; bits++) {
      const row = Array.from({ length: n }, (_, i) => (bits >> i) & 1);
      for (const [a, b] of network) if (row[a] > row[b]) [row[a], row[b]] = [row[b], row[a]];
      expect(row.every((v, i) => i === 0 || row[i - 1] <= v)).toBe(true);
    }
  });

  test('needs as many exchanges as Batcher’s merge exchange: 19 for 8 numbers, 63 for 16', () => {
    // Knuth, TAOCP 3, section 5.3.4, table of the odd-even merge
    expect(sortingNetwork(8)).toHaveLength(19);
    expect(sortingNetwork(16)).toHaveLength(63);
  });
});

const [W, H] = [83, 61];
const [red, green] = [waves(71, 24), waves(72, 24)];

function noisyFrames(count: number): StackFrame[] {
  return Array.from({ length: count }, (_, f) => {
    const normal = normalSource(randomSource(f + 1));
    const streak = (x: number, y: number): boolean => f === 1 && Math.abs(x - y) < 2;
    const image = paint(
      W,
      H,
      (x, y) =>
        streak(x, y)
          ? [1, 1, 1]
          : ([red(x, y), green(x, y), 0.3].map((v) => v + 0.02 * normal()) as [number, number, number]),
      f % 2 === 0 ? 255 : 65535,
    );
    const matrix: Matrix3 =
      f === 0
        ? IDENTITY
        : f % 3 === 0
          ? translation(4.3 * f, -2.1)
          : [1, 0.01 * f, -0.3, -0.01 * f, 1, 0.8, 0, 0, 1];
    return { image, matrix, stops: f === 2 ? 0.3 : 0, weight: 1 + 0.2 * (f % 4) };
  });
}

function buffersFor(count: number): StackBuffers {
  const half = ((W + 1) >> 1) * ((H + 1) >> 1);
  return {
    image: emptyImage(W, H, 65535),
    shares: Array.from({ length: count }, () => new Uint8Array(half)),
    rejected: new Float32Array(H),
  };
}

describe('stacking by the kernels agrees with the plain form', () => {
  const cases = (['mean', 'median', 'clip', 'max', 'min'] as const).flatMap((method) =>
    [1, 2, 3, 7, 16].map((count): [StackMethod, number] => [method, count]),
  );
  test.each(cases)('%s of %i', (method, count) => {
    expect(kernels()).toBeDefined();
    const frames = noisyFrames(count);
    const [a, b] = [buffersFor(count), buffersFor(count)];
    for (const band of [
      { top: 0, rows: 32 },
      { top: 32, rows: H - 32 },
    ]) {
      stackBand(frames, method, W, band, a);
      stackBandPlain(frames, method, W, band, b);
    }
    // an 8-bit source is weighed in whole numbers by the kernel; a sample at the edge of the clip may fall on either side
    const off = Array.from(a.image.data, (v, i) =>
      Math.abs(srgbToLinear(v / 65535) - srgbToLinear(b.image.data[i] / 65535)),
    );
    const beyond = off.filter((d) => d > 4e-4).length / off.length;
    expect(beyond).toBeLessThan(method === 'clip' ? 0.004 : 1e-9);
    const turned = (s: StackBuffers): number => s.rejected.reduce((p, q) => p + q, 0);
    expect(Math.abs(turned(a) - turned(b))).toBeLessThanOrEqual(0.01 * turned(b));
    if (method === 'clip' && count >= 7) expect(turned(b)).toBeGreaterThan(300);
    a.shares.forEach((plane, f) => {
      const unlike = plane.filter((v, i) => Math.abs(v - b.shares[f][i]) > 1).length;
      // two frames that tie for the middle or the extreme may change places
      expect(unlike / plane.length).toBeLessThan(0.02);
    });
  });

  test('a place that no frame reaches is black', () => {
    const frames = noisyFrames(3).map((f) => ({ ...f, matrix: translation(-20, 0) }));
    const [a, b] = [buffersFor(3), buffersFor(3)];
    stackBand(frames, 'clip', W, { top: 0, rows: H }, a);
    stackBandPlain(frames, 'clip', W, { top: 0, rows: H }, b);
    expect(largestDifference(a.image.data.subarray(0, 60), new Uint16Array(60))).toBe(0);
    expect(largestDifference(a.image.data, b.image.data)).toBeLessThan(65535);
    expect(a.image.data[3 * 30]).toBeGreaterThan(0);
  });
});
