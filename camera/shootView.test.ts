import { describe, expect, test } from '@jest/globals';
import { kernels } from '@/core/kernels/kernels';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { srgbToLinear } from '@/core/raster/srgb';
import { defocus } from './defocus';
import {
  circleOfConfusion,
  diffractionSigma,
  fieldOfView,
  focalPixels,
  hyperfocal,
  PLAIN_LENS,
  vignetteAt,
} from './lens';
import { lookThrough } from './lookThrough';
import { type SceneView, wholeLight } from './sceneView';
import { sensorAt, shootView, type ViewShot } from './shootView';
import { FIRST_WISH, planStandIn, planWarnings } from './standIn';
import { FERROW_SKY, nightSky } from './nightSky';
import { type Plate, withPlate } from './placePlate';
import { waterMask, withRipples } from './water';
import { linearCodes } from './developSignal';
import { encodeTiff } from '@/core/codecs/write/encodeTiff';
import { decodeImage } from '@/core/codecs/decodeImage';
import { nodePlatform } from '@/engine/nodePlatform';

const STILL = { yaw: 0, pitch: 0, roll: 0 };

function even(width: number, height: number, value: number): Raster {
  const raster = emptyRaster(width, height);
  raster.planes.forEach((p) => p.fill(value));
  return raster;
}

const flat = (light: Raster, distance?: Float32Array): SceneView => ({
  light,
  field: { kind: 'flat', across: 60 },
  ...(distance ? { distance } : {}),
});

const shot: ViewShot = {
  width: 120,
  height: 80,
  lens: PLAIN_LENS,
  stand: STILL,
  seconds: 0.1,
  iso: 100,
  seed: 3,
};

const largest = (plane: Float32Array): number => plane.reduce((a, b) => Math.max(a, b), -Infinity);

const mean = (plane: Float32Array): number => plane.reduce((a, b) => a + b, 0) / plane.length;

describe('exposure', () => {
  test('twice the time, or one stop wider, is twice the linear value', () => {
    const scene = flat(even(240, 160, 0.5));
    const base = mean(shootView(scene, shot).signal.planes[1]);
    expect(mean(shootView(scene, { ...shot, seconds: 0.2 }).signal.planes[1]) / base).toBeCloseTo(2, 1);
    const wider = { ...shot, lens: { ...PLAIN_LENS, aperture: 8 / Math.SQRT2 } };
    expect(mean(shootView(scene, wider).signal.planes[1]) / base).toBeCloseTo(2, 1);
  });

  // photon transfer (Janesick 2007): variance in electrons is the mean plus the read noise squared
  test('noise follows shot and read noise at every speed', () => {
    const scene = flat(even(240, 160, 0.5));
    for (const iso of [100, 1600]) {
      const { fullWell, readNoise } = sensorAt(iso);
      const { signal } = shootView(scene, { ...shot, iso, seconds: 0.1 * (100 / iso) });
      const [plane] = signal.planes;
      const m = mean(plane) * fullWell;
      const variance = plane.reduce((s, v) => s + (v * fullWell - m) ** 2, 0) / plane.length;
      expect(variance / (m + readNoise ** 2)).toBeGreaterThan(0.93);
      expect(variance / (m + readNoise ** 2)).toBeLessThan(1.07);
    }
  });

  test('what is too bright clips, and the truth says where', () => {
    const light = even(240, 160, 0.5);
    light.planes.forEach((p) => p.fill(1000, 0, 240 * 80));
    const { truth, image } = shootView(flat(light), shot);
    expect(truth.clipped[120 * 10 + 60]).toBe(1);
    expect(truth.clipped[120 * 70 + 60]).toBe(0);
    expect(image.data[(120 * 10 + 60) * 3]).toBe(255);
  });

  test('white balance moves red and blue against green', () => {
    const scene = flat(even(240, 160, 0.5));
    const { planes } = shootView(scene, { ...shot, balance: [0.5, -0.5] }).signal;
    expect(Math.log2(mean(planes[0]) / mean(planes[1]))).toBeCloseTo(0.5, 1);
    expect(Math.log2(mean(planes[2]) / mean(planes[1]))).toBeCloseTo(-0.5, 1);
  });
});

describe('the lens', () => {
  test('field of view: 36 mm behind 35 mm see 54.4° (2·atan(18/35), any optics handbook)', () => {
    expect(fieldOfView(35, 36)).toBeCloseTo(54.43, 2);
    // a point 20° to the right lands where the focal length puts it
    const light = even(1201, 601, 0);
    const focal = 1201 / 2 / Math.tan((30 * Math.PI) / 180);
    const u = Math.round(600 + focal * Math.tan((20 * Math.PI) / 180));
    light.planes.forEach((p) => (p[300 * 1201 + u] = 100));
    const seen = lookThrough(flat(light), PLAIN_LENS, STILL, 361, 181).light.planes[0];
    const peak = seen.indexOf(largest(seen)) % 361;
    const expected = 180 + focalPixels(PLAIN_LENS, 361) * Math.tan((20 * Math.PI) / 180);
    expect(Math.abs(peak - expected)).toBeLessThan(0.8);
  });

  test('the disc of a point out of focus has the diameter of the thin-lens formula', () => {
    const lens = { ...PLAIN_LENS, focalLength: 50, aperture: 2.8, focus: 2 };
    // A·|d − s|/d · f/(s − f): 17.857 mm · 8/10 · 50/1950
    expect(circleOfConfusion(lens, 10)).toBeCloseTo(0.3663, 3);
    const width = 721;
    const light = even(width, 481, 0);
    light.planes.forEach((p) => (p[240 * width + 360] = 4000));
    const distance = new Float32Array(width * 481).fill(10);
    const scene: SceneView = { light, distance, field: { kind: 'flat', across: fieldOfView(50, 36) } };
    const [plane] = lookThrough(scene, lens, STILL, width, 481).light.planes;
    const most = largest(plane);
    const lit = plane.reduce((n, v) => n + (v > most / 2 ? 1 : 0), 0);
    const diameter = 2 * Math.sqrt(lit / Math.PI);
    expect(diameter / ((0.3663 * width) / 36)).toBeGreaterThan(0.9);
    expect(diameter / ((0.3663 * width) / 36)).toBeLessThan(1.12);
  });

  test('at f/14 and 35 mm everything from 1.5 m to the horizon is sharp, and nothing nearer (H = f²/(N·c) + f)', () => {
    const lens = { ...PLAIN_LENS, aperture: 14 };
    const h = hyperfocal(lens, 0.03);
    expect(h).toBeCloseTo(2.952, 2);
    const focused = { ...lens, focus: h };
    expect(Math.abs(circleOfConfusion(focused, 1e6))).toBeLessThan(0.0301);
    expect(Math.abs(circleOfConfusion(focused, h / 2))).toBeLessThan(0.0304);
    expect(Math.abs(circleOfConfusion(focused, h / 2.4))).toBeGreaterThan(0.04);
  });

  test('diffraction at f/22 is wider than at f/8, and the corners are darker wide open', () => {
    expect(diffractionSigma({ ...PLAIN_LENS, aperture: 22 }, 3600)).toBeCloseTo(0.508, 2);
    expect(diffractionSigma(PLAIN_LENS, 3600)).toBeLessThan(0.2);
    const lens = { ...PLAIN_LENS, vignette: 1 };
    expect(Math.log2(vignetteAt({ ...lens, aperture: 2.8 }, 1))).toBeCloseTo(-1, 6);
    expect(vignetteAt({ ...lens, aperture: 11 }, 1)).toBeGreaterThan(0.8);
  });

  test('focusing near enlarges the picture by the breathing', () =>
    expect(focalPixels({ ...PLAIN_LENS, breathing: 0.1, focus: 0.15 }, 360)).toBeCloseTo(385, 6));

  test('dust shows small and dark at f/22 and is washed out at f/2.8', () => {
    const scene = flat(even(480, 320, 0.5));
    const depth = (aperture: number): number => {
      const lens = { ...PLAIN_LENS, aperture };
      const own: ViewShot = {
        ...shot,
        lens,
        dust: 12,
        width: 480,
        height: 320,
        seconds: 0.1 * (aperture / 8) ** 2,
      };
      const [plane] = shootView(scene, own).signal.planes;
      const clean = mean(plane);
      return 1 - -largest(plane.map((v) => -v)) / clean;
    };
    expect(depth(22)).toBeGreaterThan(3 * depth(2.8));
  });

  test('a sharp edge before a blurred ground stays sharp', () => {
    const [w, h] = [80, 40];
    const sharp = emptyRaster(w, h);
    const radii = new Float32Array(w * h);
    for (let i = 0; i < w * h; i++) {
      const near = i % w < 40;
      sharp.planes.forEach((p) => (p[i] = near ? 0.8 : 0.1));
      radii[i] = near ? 0 : 9;
    }
    const [plane] = defocus(sharp, radii).planes;
    expect(plane[20 * w + 39]).toBeCloseTo(0.8, 3);
    expect(plane[20 * w + 41]).toBeLessThan(0.2);
    // energy is kept: nothing gets lighter than both sides
    expect(largest(plane)).toBeLessThan(0.801);
  });
});

describe('parallax', () => {
  test('a camera that slides sees near things shift by focal · slide / distance', () => {
    const width = 601;
    const light = even(width, 401, 0.1);
    const distance = new Float32Array(width * 401).fill(2);
    light.planes.forEach((p) => (p[200 * width + 300] = 50));
    const scene: SceneView = { light, distance, field: { kind: 'flat', across: fieldOfView(35, 36) } };
    const peakOf = (shift: readonly [number, number, number]): number => {
      const [p] = lookThrough(scene, PLAIN_LENS, { ...STILL, shift }, width, 401).light.planes;
      return p.indexOf(largest(p)) % width;
    };
    const moved = peakOf([0, 0, 0]) - peakOf([0.05, 0, 0]);
    expect(Math.abs(moved - (focalPixels(PLAIN_LENS, width) * 0.05) / 2)).toBeLessThan(1);
  });
});

describe('the stand-in camera plans', () => {
  test('a bracket in even steps, a panorama with the overlap that was asked for', () => {
    const bracket = planStandIn({ ...FIRST_WISH, frames: 3, spacing: 2 });
    expect(bracket.map((s) => Math.log2(s.shot.seconds / bracket[1].shot.seconds))).toEqual([-2, 0, 2]);
    const row = planStandIn({ ...FIRST_WISH, plan: 'panorama', frames: 4, overlap: 0.4, shake: 0 });
    const step = row[1].shot.stand.yaw - row[0].shot.stand.yaw;
    expect(step / fieldOfView(35, 36)).toBeCloseTo(0.6, 6);
    expect(row[0].facts.camera).toContain('simulation');
  });
  test('a panorama whose views are bracketed: the exposures of a view look the same way', () => {
    const wish = { ...FIRST_WISH, plan: 'panorama', frames: 2, exposures: 3, spacing: 2, shake: 0 } as const;
    const shots = planStandIn(wish);
    expect(shots).toHaveLength(6);
    const yaws = shots.map((s) => s.shot.stand.yaw);
    expect(yaws.slice(0, 3)).toEqual([yaws[0], yaws[0], yaws[0]]);
    expect(yaws[3]).toBeGreaterThan(yaws[0]);
    const stops = shots.map((s) => Math.log2(s.shot.seconds / shots[1].shot.seconds));
    expect(stops).toEqual([-2, 0, 2, -2, 0, 2]);
    expect(planWarnings({ ...wish, spacing: 4 }).join(' ')).toMatch(/4 EV apart/);
  });
  test.each([
    [{ spacing: 5 }, /5 EV apart/],
    [{ plan: 'panorama', overlap: 0.1 }, /10 % overlap/],
    [{ plan: 'panorama', view: 'marsh', frames: 3, slide: 0.05 }, /slides by 5 cm/],
    [{ plan: 'focus', frames: 2, aperture: 2.8, focalLength: 85 }, /focus steps are wide/],
    [{ fault: 'balance' }, /another white balance on purpose/],
  ] as const)('says what goes wrong with %j', (change, says) =>
    expect(planWarnings({ ...FIRST_WISH, ...change }).join(' ')).toMatch(says),
  );
  test('lets the warden walk on before the mill, and nowhere else', () => {
    const walks = planStandIn({ ...FIRST_WISH, moving: true }).map((s) => s.motion?.warden);
    const xs = walks.map((w) => w?.placing.x ?? NaN);
    // 0.9 m/s for 0.7 s at 83.6 px a metre
    expect(xs[1] - xs[0]).toBeCloseTo(52.7, 1);
    expect(xs[2] - xs[1]).toBeCloseTo(52.7, 1);
    const [short, , long] = walks.map((w) => w?.placing.moves ?? NaN);
    expect(long / short).toBeCloseTo(16, 6);
    expect(planStandIn({ ...FIRST_WISH, moving: true, view: 'table' })[0].motion).toBeUndefined();
    expect(planStandIn(FIRST_WISH)[0].motion).toBeUndefined();
    expect(planWarnings({ ...FIRST_WISH, moving: true }).join(' ')).toMatch(/warden walks on/);
  });
  test('says nothing of a sound plan', () => expect(planWarnings(FIRST_WISH)).toEqual([]));
});

test('the same sky is seen by every frame that looks at it', () => {
  const frame = { width: 200, height: 150, dx: 0, dy: 0, turn: 0, trail: 0 };
  const here = nightSky(FERROW_SKY, frame).planes[1];
  const there = nightSky(FERROW_SKY, { ...frame, dx: 12, dy: -5 }).planes[1];
  const brightest = here.indexOf(largest(here));
  const [x, y] = [brightest % 200, Math.floor(brightest / 200)];
  if (x + 12 < 195 && y - 5 > 5) expect(there[(y - 5) * 200 + x + 12]).toBeCloseTo(here[brightest], 1);
  const trailed = nightSky(FERROW_SKY, { ...frame, trail: 30 }).planes[1];
  expect(largest(trailed)).toBeLessThan(0.5 * largest(here));
});

describe('a plate in the scene', () => {
  // a board 0.4 m wide and 1 m tall at 100 pixels a metre, half of its light in its colour
  const board: Plate = {
    light: even(60, 120, 0.5),
    alpha: new Float32Array(60 * 120).map((_, i) => (i % 60 >= 10 && i % 60 < 50 && i / 60 >= 10 ? 1 : 0)),
    perMetre: 100,
    foot: [30, 110],
  };
  board.light.planes.forEach((p) => p.forEach((_, i) => (p[i] *= board.alpha[i])));
  const near = new Float32Array(400 * 300).fill(50);

  test('covers what is behind it, at its distance and size, and hides behind what is nearer', () => {
    const distance = near.slice();
    for (let y = 0; y < 300; y++) distance.fill(1, y * 400 + 205, y * 400 + 400);
    const scene = flat(even(400, 300, 0.3), distance);
    const seen = withPlate(scene, board, { x: 200, y: 260, distance: 3 });
    const [, green] = wholeLight(seen).planes;
    // 346 pixels of focal length at 3 m: 115 pixels a metre
    const column = (x: number): number => green[200 * 400 + Math.round(x)];
    expect(column(200)).toBeCloseTo(0.5, 5);
    expect(seen.distance?.[200 * 400 + 200]).toBe(3);
    expect(column(200 - 0.5 * 0.4 * 115.5 - 3)).toBeCloseTo(0.3, 5);
    expect(column(200 - 0.5 * 0.4 * 115.5 + 3)).toBeCloseTo(0.5, 5);
    expect(column(208)).toBeCloseTo(0.3, 5);
  });

  test('blurs by the way it goes while the shutter is open, and keeps its light', () => {
    const scene = flat(even(400, 300, 0), near.slice());
    const place = { x: 200, y: 260, distance: 3 };
    const [, still] = wholeLight(withPlate(scene, board, place)).planes;
    const [, moved] = wholeLight(withPlate(scene, board, { ...place, moves: 0.8 })).planes;
    const wide = (p: Float32Array): number =>
      p.slice(200 * 400, 201 * 400).reduce((n, v) => n + (v > 0.001 ? 1 : 0), 0);
    expect(wide(moved) - wide(still)).toBeGreaterThan(0.8 * 115.5 - 4);
    expect(wide(moved) - wide(still)).toBeLessThan(0.8 * 115.5 + 4);
    expect(mean(moved) / mean(still)).toBeCloseTo(1, 2);
  });
});

describe('water', () => {
  const POOL = { below: 1.2, tilt: 0 };
  const width = 360;
  const height = 240;
  const focal = width / 2 / Math.tan(Math.PI / 6);
  const distance = new Float32Array(width * height).fill(Infinity);
  const light = even(width, height, 0.4);
  for (let y = 150, i = y * width; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [u, v] = [(x - (width - 1) / 2) / focal, (y - (height - 1) / 2) / focal];
      distance[i] = (1.2 * Math.hypot(u, v, 1)) / v;
      for (const plane of light.planes) plane[i] = 0.2 + 0.15 * Math.sin(y * 0.9);
    }
  const scene = flat(light, distance);
  const differs = (a: SceneView, b: SceneView): number => {
    const [p, q] = [a, b].map((seen) => wholeLight(seen).planes[1]);
    return Math.sqrt(p.reduce((s, v, i) => s + (v - q[i]) ** 2, 0) / p.length);
  };

  const mask = waterMask(scene, POOL);

  test('is where the depth puts its surface', () => {
    expect(mask[100 * width + 50]).toBe(0);
    expect(mask[200 * width + 50]).toBe(1);
    expect(mask.reduce((n, v) => n + v, 0)).toBe(90 * width);
  });

  test.each([0.02, 0.9, 6])('is moved by the kernel as by its plain form, %d s', (seconds) => {
    expect(kernels()).toBeDefined();
    const [compiled, plain] = [kernels() ?? null, null].map(
      (k) => wholeLight(withRipples(scene, mask, 3.7, seconds, k)).planes,
    );
    let [others, apart] = [0, 0];
    compiled.forEach((plane, c) =>
      plane.forEach((v, i) => {
        const d = Math.abs(v - plain[c][i]);
        if (d > 1e-6) others++;
        apart += d / plane.length;
      }),
    );
    // where a wave's swing lies on the border of two pixels, rounding decides which of them is seen
    expect(others / (3 * mask.length)).toBeLessThan(0.01);
    expect(apart).toBeLessThan(1e-4);
  });

  test('is another in the next frame, and draws smooth with time', () => {
    const short = [0, 1, 2].map((from) => withRipples(scene, mask, from, 0.02));
    const long = [0, 20, 40].map((from) => withRipples(scene, mask, from, 6));
    expect(differs(short[0], short[1])).toBeGreaterThan(0.01);
    expect(differs(long[0], long[1])).toBeLessThan(0.5 * differs(short[0], short[1]));
    expect(wholeLight(short[0]).planes[1].subarray(0, 150 * width)).toEqual(
      light.planes[1].subarray(0, 150 * width),
    );
  });
});

test('a 16-bit linear file opens as the light that the sensor saw', async () => {
  const { signal } = shootView(flat(even(240, 160, 0.5)), shot);
  const file = encodeTiff(linearCodes(signal), { disclosed: false }, 'linear');
  const { image, depth } = await decodeImage('frame.tif', file, nodePlatform());
  expect(depth).toBe(16);
  // the middle of the frame, encoded and back, against the signal
  const at = 40 * shot.width + 60;
  const light = srgbToLinear(image.data[3 * at + 1] / image.white);
  expect(light).toBeCloseTo(signal.planes[1][at], 3);
});
