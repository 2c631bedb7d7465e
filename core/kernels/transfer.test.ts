import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { type Kernels, kernels } from './kernels';

function compiled(): Kernels {
  const k = kernels();
  if (!k) throw new Error('no WebAssembly SIMD here');
  return k;
}

/** What a kernel makes of a plane. */
const through = (data: Float32Array, run: (k: Kernels, at: number) => void): Float32Array => {
  const k = compiled();
  return k.borrow(() => {
    const at = k.upload(data);
    run(k, at);
    return k.floats(at, data.length).slice();
  });
};

// IEC 61966-2-1: the transfer function of sRGB, continued as an odd function and beyond white
describe('the transfer function of sRGB', () => {
  const codes = Float32Array.from({ length: 4001 }, (_, i) => -0.25 + (2.5 * i) / 4000);

  test.each([1, 0.25, 3])('codes become light, times %d', (gain) => {
    const light = through(codes, (k, at) => k.decodePlane(at, codes.length, gain));
    codes.forEach((v, i) => {
      const truth = gain * srgbToLinear(v);
      expect(Math.abs(light[i] - truth)).toBeLessThan(2e-6 * Math.max(gain * 0.02, Math.abs(truth)));
    });
  });

  test('light becomes codes, clipped to black and white', () => {
    const light = Float32Array.from({ length: 3001 }, (_, i) => -0.1 + (1.3 * i) / 3000);
    const made = through(light, (k, at) => k.encodePlane(at, light.length));
    const truth = light.map((v) => linearToSrgb(Math.max(0, Math.min(1, v))));
    expect(largestDifference(made, truth)).toBeLessThan(2e-6);
  });

  test('and back again, for a count that is no multiple of four', () => {
    const inside = codes.filter((v) => v >= 0 && v <= 1).subarray(0, 1501);
    expect(inside.length % 4).toBe(1);
    const back = through(inside, (k, at) => {
      k.decodePlane(at, inside.length, 1);
      k.encodePlane(at, inside.length);
    });
    expect(largestDifference(back, inside)).toBeLessThan(2e-6);
  });

  test('light beyond what the polynomial is fitted for is decoded exactly too', () => {
    const bright = Float32Array.of(1.31, 4, 9.5, -6, 20, 0.5, 1, 0.04045);
    const light = through(bright, (k, at) => k.decodePlane(at, bright.length, 1));
    bright.forEach((v, i) => expect(light[i] / srgbToLinear(v)).toBeCloseTo(1, 5));
  });
});
