import { describe, expect, test } from '@jest/globals';
import { kernels } from '@/core/kernels/kernels';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { readSensor } from './readSensor';

const SENSOR = { fullWell: 6000, readNoise: 3 };

function even(width: number, height: number, value: number): Raster {
  const raster = emptyRaster(width, height);
  for (const plane of raster.planes) plane.fill(value);
  return raster;
}

/** From nothing to beyond the well, over more pixels than are read at a time. */
const [W, H] = [331, 211];
const ramp: Raster = {
  width: W,
  height: H,
  planes: [0, 1, 2].map((c) =>
    Float32Array.from({ length: W * H }, (_, i) => ((i % W) / W) ** 3 * (1.4 - 0.1 * c) - 0.001),
  ),
};
const reaches = Float32Array.from({ length: W * H }, (_, i) => 1 - (0.3 * i) / (W * H));

test('the compiled sensor reads what the plain one does', () => {
  expect(kernels()).toBeDefined();
  const on = { reaches, gains: [1.3, 1, 0.8] };
  const compiled = readSensor(ramp, SENSOR, 7, on);
  const plain = readSensor(ramp, SENSOR, 7, on, null);
  expect(compiled.clipped).toEqual(plain.clipped);
  compiled.signal.planes.forEach((plane, c) => {
    let apart = 0;
    for (let i = 0; i < plane.length; i++)
      apart = Math.max(apart, Math.abs(plane[i] - plain.signal.planes[c][i]));
    // single against double precision: two steps of a float near the largest signal
    expect(apart).toBeLessThanOrEqual(2 ** -22);
  });
  let codes = 0;
  compiled.image.data.forEach((v, i) => (codes = Math.max(codes, Math.abs(v - plain.image.data[i]))));
  expect(codes).toBeLessThanOrEqual(1);
});

describe('noise', () => {
  /** Mean and variance in electrons. */
  const moments = (plane: Float32Array): [mean: number, variance: number] => {
    const mean = plane.reduce((a, v) => a + v, 0) / plane.length;
    const variance = plane.reduce((a, v) => a + (v - mean) ** 2, 0) / plane.length;
    return [mean * SENSOR.fullWell, variance * SENSOR.fullWell ** 2];
  };

  // photon transfer (Janesick 2007): the variance in electrons is the mean and the read noise squared; a Poisson distribution's is its mean
  test.each([0, 0.4, 5, 19, 21, 300, 3000])('where %d electrons are expected', (electrons) => {
    const { signal } = readSensor(even(400, 300, electrons / SENSOR.fullWell), SENSOR, 3);
    const n = 400 * 300;
    for (const plane of signal.planes) {
      const [mean, variance] = moments(plane);
      const expected = electrons + SENSOR.readNoise ** 2;
      expect(Math.abs(mean - electrons)).toBeLessThan(4 * Math.sqrt(expected / n));
      expect(Math.abs(variance / expected - 1)).toBeLessThan(4 * Math.sqrt(2.2 / n));
    }
  });

  test('of one pixel says nothing of its neighbour, of another colour, or of the next frame', () => {
    const light = even(400, 300, 0.2);
    const [one, next] = [11, 12].map((seed) => readSensor(light, SENSOR, seed).signal.planes);
    const n = 400 * 300;
    const alike = (a: Float32Array, b: Float32Array, shift: number): number => {
      const [[ma, va], [mb, vb]] = [moments(a), moments(b)];
      let sum = 0;
      for (let i = 0; i < n - shift; i++)
        sum += (a[i] * SENSOR.fullWell - ma) * (b[i + shift] * SENSOR.fullWell - mb);
      return sum / n / Math.sqrt(va * vb);
    };
    for (const r of [
      alike(one[0], one[0], 1),
      alike(one[0], one[0], 400),
      alike(one[0], one[1], 0),
      alike(one[1], one[2], 0),
      alike(one[0], next[0], 0),
    ])
      expect(Math.abs(r)).toBeLessThan(4 / Math.sqrt(n));
  });

  test('is the same for the same seed', () =>
    expect(readSensor(ramp, SENSOR, 5).image.data).toEqual(readSensor(ramp, SENSOR, 5).image.data));
});

test('a full well is where it clips, before white balance', () => {
  const { signal, clipped } = readSensor(even(40, 30, 1.5), SENSOR, 1, { gains: [0.5, 1, 2] });
  expect(clipped.every((v) => v === 1)).toBe(true);
  for (const [c, at] of [0.5, 1, 2].entries())
    for (const v of signal.planes[c])
      expect(Math.abs(v / at - 1)).toBeLessThan((5 * SENSOR.readNoise) / SENSOR.fullWell);
});
