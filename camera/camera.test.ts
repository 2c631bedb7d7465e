import { describe, expect, test } from '@jest/globals';
import { IDENTITY, invert, multiply, normalise, transform } from '@/core/raster/matrix3';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { srgbToLinear } from '@/core/raster/srgb';
import { bracketShots } from './bracketShots';
import { DEMO_BRACKET } from './demoPlan';
import { exposeFrame, sensorLight, SENSOR } from './exposeFrame';
import { frameToScene, rotation } from './pose';
import { shootFrame } from './shootBracket';

function even(width: number, height: number, value: number): Raster {
  const scene = emptyRaster(width, height);
  scene.planes.forEach((p) => p.fill(value));
  return scene;
}

const exposure = { width: 160, height: 120, frameToScene: IDENTITY, gain: 1, sensor: SENSOR, seed: 4 };

describe('light on the sensor', () => {
  test('twice the time is twice the signal', () => {
    const scene = even(160, 120, 0.2);
    const once = sensorLight(scene, exposure).planes[0][5000];
    expect(sensorLight(scene, { ...exposure, gain: 2 }).planes[0][5000]).toBeCloseTo(2 * once, 6);
    expect(once).toBeCloseTo(0.2, 6);
  });

  test('the lens spreads a point by the stated Gaussian: FWHM = 2.3548 σ', () => {
    const scene = even(161, 121, 0);
    scene.planes.forEach((p) => (p[60 * 161 + 80] = 1));
    // frame pixels twice as large as scene pixels: σ = 0.45 frame pixels = 0.9 scene pixels
    const [plane] = sensorLight(scene, {
      ...exposure,
      width: 80,
      height: 60,
      frameToScene: [2, 0, 0, 0, 2, 0, 0, 0, 1],
    }).planes;
    const row = Array.from({ length: 80 }, (_, x) => plane[30 * 80 + x]);
    // samples of a Gaussian fall off by exp(−1 / 2σ²) from the peak to its neighbour
    const peak = row.indexOf(Math.max(...row));
    expect(row[peak + 1] / row[peak]).toBeCloseTo(Math.exp(-1 / (2 * 0.45 ** 2)), 2);
    expect(row[peak - 1]).toBeCloseTo(row[peak + 1], 6);
  });
});

describe('noise', () => {
  // shot + read: variance of the signal in electrons is N + r² (photon transfer, Janesick 2007)
  test.each([0.02, 0.1, 0.5])('at %f of full well follows shot and read noise', (level) => {
    const image = exposeFrame(even(160, 120, level), exposure);
    const electrons = Array.from(
      { length: 160 * 120 },
      (_, i) => srgbToLinear(image.data[i * 3 + 1] / 255) * SENSOR.fullWell,
    );
    const mean = electrons.reduce((a, b) => a + b, 0) / electrons.length;
    const variance = electrons.reduce((s, v) => s + (v - mean) ** 2, 0) / electrons.length;
    // one code of 8 bits is this many electrons here; rounding adds a twelfth of its square
    const encoded = image.data[1];
    const step =
      (srgbToLinear((encoded + 0.5) / 255) - srgbToLinear((encoded - 0.5) / 255)) * SENSOR.fullWell;
    const expected = level * SENSOR.fullWell + SENSOR.readNoise ** 2 + step ** 2 / 12;
    expect(mean / (level * SENSOR.fullWell)).toBeCloseTo(1, 1);
    expect(variance / expected).toBeGreaterThan(0.85);
    expect(variance / expected).toBeLessThan(1.15);
  });

  test('clips at full well, and the same seed gives the same frame', () => {
    expect(exposeFrame(even(160, 120, 3), exposure).data.every((v) => v >= 254)).toBe(true);
    const dim = even(160, 120, 0.1);
    expect(exposeFrame(dim, exposure).data).toEqual(exposeFrame(dim, exposure).data);
    expect(exposeFrame(dim, { ...exposure, seed: 5 }).data).not.toEqual(exposeFrame(dim, exposure).data);
  });
});

describe('pose', () => {
  const view = { width: 301, height: 201, focalPx: 250 };

  test('yaw to the right moves the picture’s middle to the right of the scene by f·tan', () => {
    const [x, y] = transform(frameToScene(view, view, { yaw: 2, pitch: 0, roll: 0 }), 150, 100);
    expect(x - 150).toBeCloseTo(250 * Math.tan((2 * Math.PI) / 180), 6);
    expect(y).toBeCloseTo(100, 6);
  });

  test('pitch upwards looks higher in the scene, roll turns about the middle', () => {
    expect(transform(frameToScene(view, view, { yaw: 0, pitch: 3, roll: 0 }), 150, 100)[1]).toBeLessThan(100);
    const [x, y] = transform(frameToScene(view, view, { yaw: 0, pitch: 0, roll: 90 }), 250, 100);
    expect(Math.hypot(x - 150, y - 200)).toBeLessThan(1e-6);
  });

  test('a rotation is one: its transpose is its inverse', () => {
    const R = rotation({ yaw: 11, pitch: -7, roll: 4 });
    const T = [R[0], R[3], R[6], R[1], R[4], R[7], R[2], R[5], R[8]] as const;
    multiply(R, T).forEach((v, i) => expect(v).toBeCloseTo(IDENTITY[i], 9));
  });

  test('field of view: the focal length of 63° across 2100 px', () => {
    const shot = { file: 'a.jpg', pose: { yaw: 0, pitch: 0, roll: 0 }, stops: 0, facts: {} };
    const { toScene } = shootFrame(even(210, 140, 0.2), shot, 0, {
      width: 105,
      height: 70,
      sceneField: 63,
      gain: 1,
      seed: 1,
      focalPx: 210 / 4 / Math.tan((63 * Math.PI) / 360),
    });
    // half the pixels over the same field
    const [x0] = transform(toScene, 0, 35);
    const [x1] = transform(toScene, 104, 35);
    expect((x1 - x0) / 104).toBeCloseTo(2, 1);
    expect(normalise(multiply(toScene, invert(toScene)))[0]).toBeCloseTo(1, 9);
  });
});

describe('the bracket plan', () => {
  test('doubles the time a stop, drifts after the first frame, and is the same every time', () => {
    const shots = bracketShots(DEMO_BRACKET);
    expect(shots.map((s) => Math.log2((s.facts.seconds ?? 0) * 60))).toEqual(
      [0, -2, 2, -4, 4].map((v) => expect.closeTo(v, 9)),
    );
    expect(shots[0].pose).toEqual({ yaw: 0, pitch: 0, roll: 0 });
    expect(shots.slice(1).every((s) => s.pose.yaw !== 0)).toBe(true);
    expect(bracketShots(DEMO_BRACKET)).toEqual(shots);
    expect(shots[1].facts.taken).toBe('2026-10-03T18:52:07.820');
  });
});
