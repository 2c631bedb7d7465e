import { describe, expect, test } from '@jest/globals';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb } from '@/core/raster/srgb';
import { paint } from '@/tests/paint';
import { proofFindings } from '../proofFindings';
import { bandStep } from './banding';
import { darkFloorShare } from './darkFloor';
import { strongEdges } from './edgeProfiles';
import { fringeOf } from './fringe';
import { haloOf } from './halo';
import { horizonOf } from './horizon';
import { lampsOf } from './lamps';
import { smoothPatches } from './smoothPatches';
import { spillOf } from './spill';

const [W, H] = [300, 200];
const plane = (of: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: W * H }, (_, i) => of(i % W, Math.floor(i / W)));
const soft = (d: number): number => 1 / (1 + Math.exp(-d / 0.7));

/** A dark building before a light sky, its edge leaning by `lean`, in stops. */
const skyline = (seed: number) => {
  const random = randomSource(seed);
  const [at, lean, high] = [80 + 140 * random(), 0.4 * (random() - 0.5), 2.5 + 2 * random()];
  const edge = (x: number, y: number): number => x - at - lean * (y - 100);
  return { edge, tone: (x: number, y: number): number => -3 + high * soft(edge(x, y)) };
};

const BIG = [900, 300] as const;
const wide = (of: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: BIG[0] * BIG[1] }, (_, i) => of(i % BIG[0], Math.floor(i / BIG[0])));

describe('halo', () => {
  const SEEDS = Array.from({ length: 20 }, (_, k) => k + 1);

  test('a planted glow of two thirds of a stop is found in at least 19 of 20 pictures, and none in clean ones', () => {
    let [found, clean] = [0, 0];
    for (const seed of SEEDS) {
      const { edge, tone } = skyline(seed);
      const scene = wide(tone);
      const edges = strongEdges(scene, BIG[0], BIG[1]);
      // pressed range, as a merge does it
      const pressed = wide((x, y) => 0.6 * tone(x, y));
      const glow = wide((x, y) => 0.6 * tone(x, y) + (edge(x, y) > 0 ? 0.7 * Math.exp(-edge(x, y) / 8) : 0));
      if (haloOf(glow, scene, ...BIG, edges).value > 0.3) found++;
      if (haloOf(pressed, scene, ...BIG, edges).value < 0.1) clean++;
    }
    expect([found, clean].every((n) => n >= 19)).toBe(true);
  });

  test('its place is the edge', () => {
    const { edge, tone } = skyline(3);
    const scene = wide(tone);
    const glow = wide((x, y) => tone(x, y) + (edge(x, y) < 0 ? -0.7 * Math.exp(edge(x, y) / 8) : 0));
    const { value, where } = haloOf(glow, scene, ...BIG, strongEdges(scene, ...BIG));
    expect(value).toBeGreaterThan(0.3);
    if (!where) throw new Error('no place');
    expect(Math.abs(edge(where.x + where.width / 2, where.y + where.height / 2))).toBeLessThan(30);
  });
});

describe('fringe', () => {
  const frameOf = (linear: readonly Float32Array[]): EncodedImage =>
    paint(W, H, (x, y) => {
      const i = y * W + x;
      return [linearToSrgb(linear[0][i]), linearToSrgb(linear[1][i]), linearToSrgb(linear[2][i])];
    });

  test('a planted line of colour is found in at least 19 of 20 pictures, and none in clean ones', () => {
    let [found, clean] = [0, 0];
    for (let seed = 1; seed <= 20; seed++) {
      const { edge, tone } = skyline(seed);
      const scene = plane(tone);
      const edges = strongEdges(scene, W, H);
      const linear = [1, 0.9, 0.75].map((k) => plane((x, y) => k * 0.18 * 2 ** (tone(x, y) - 0.5)));
      const frames = [{ image: frameOf(linear), matrix: IDENTITY, stops: 0 }];
      const fringed = [
        linear[0].map((v, i) => v * (1 + 0.9 * Math.exp(-(edge(i % W, Math.floor(i / W)) ** 2) / 3))),
        linear[1],
        linear[2],
      ];
      if (fringeOf(fringed, W, H, edges, frames).value > 8) found++;
      if (fringeOf(linear, W, H, edges, frames).value < 4) clean++;
    }
    expect([found, clean].every((n) => n >= 19)).toBe(true);
  });
});

describe('horizon', () => {
  const picture = (tilt: number, seed: number): Float32Array => {
    const normal = normalSource(randomSource(seed));
    const rise = Math.tan((tilt * Math.PI) / 180);
    return plane((x, y) => (y < 110 + rise * (x - W / 2) ? 0.8 : 0.35) + 0.01 * normal());
  };
  test.each([-4, -1.2, -0.4, 0, 0.5, 1.8, 5])('a line that leans by %d° is measured to 0.15°', (tilt) => {
    const found = horizonOf(picture(tilt, 5), W, H);
    expect(Math.abs((found?.tilt ?? 99) - tilt)).toBeLessThan(0.15);
  });
  test('texture without a long line has no horizon', () => {
    const normal = normalSource(randomSource(8));
    expect(
      horizonOf(
        plane(() => 0.5 + 0.2 * normal()),
        W,
        H,
      ),
    ).toBeUndefined();
  });
});

describe('clipping, darks, banding, spill', () => {
  test('small lamps may clip, a burnt sky may not', () => {
    const lamps = paint(W, H, (x, y) =>
      Math.hypot(x - 50, y - 50) < 2 || Math.hypot(x - 200, y - 90) < 2 ? [1, 1, 0.9] : [0.4, 0.4, 0.4],
    );
    expect(lampsOf(lamps, 0.0004)).toMatchObject({ count: 2, burnt: 0 });
    const sky = paint(W, H, (x, y) => (x > 100 && x < 160 && y < 30 ? [1, 1, 1] : [0.4, 0.4, 0.4]));
    const found = lampsOf(sky, 0.0004);
    expect(found.burnt).toBeCloseTo((59 * 30) / (W * H), 6);
    expect(found.where).toEqual({ x: 101, y: 0, width: 59, height: 30 });
  });

  test('darks under code 30 are counted within the region (common practice)', () => {
    const image = paint(100, 80, (x) =>
      x < 50 ? [20 / 255, 20 / 255, 20 / 255] : [60 / 255, 60 / 255, 60 / 255],
    );
    expect(darkFloorShare(image, { x: 0, y: 0, width: 100, height: 80 })).toBe(0.5);
    expect(darkFloorShare(image, { x: 50, y: 0, width: 40, height: 80 })).toBe(0);
    expect(darkFloorShare(image, { x: 25, y: 0, width: 50, height: 80 })).toBe(0.5);
  });

  const slope = (step: number, grain: number): Float32Array => {
    const normal = normalSource(randomSource(3));
    return Float32Array.from({ length: 48 * 48 }, (_, i) => {
      const v = 100 + 8 * ((i % 48) / 48) + grain * normal();
      return (step > 0 ? Math.round(v / step) * step : v) / 255;
    });
  };
  test.each([
    ['smooth 16 bit', 1 / 257, 0, 0.3],
    ['8 bit', 1, 0, 1.2],
  ])('%s: a smooth slope shows no step', (_, step, grain, most) =>
    expect(bandStep(slope(step, grain), 48)).toBeLessThan(most),
  );
  test('torn tones are found, and grain hides them', () => {
    expect(bandStep(slope(2.5, 0), 48)).toBeGreaterThan(2);
    expect(bandStep(slope(0, 3), 48)).toBeLessThan(1);
    expect(bandStep(new Float32Array(48 * 48).fill(0.5), 48)).toBe(0);
  });

  test('smooth places are found before busy ones', () => {
    const normal = normalSource(randomSource(3));
    const image = paint(W, H, (x) => {
      const v = x < 150 ? 0.5 + x / 2000 : 0.5 + 0.1 * normal();
      return [v, v, v];
    });
    const found = smoothPatches(image, 12);
    expect(found).toHaveLength(12);
    expect(found.every((p) => p.x < 150)).toBe(true);
  });

  test('a reveal that ends where pictures differ spills, one that ends where they agree does not', () => {
    const mask = plane((x) => soft(x - 150));
    const melting = plane((x) => soft((x - 150) / 40));
    const below = [0, 1, 2].map(() => plane(() => 0.3));
    const other = [0, 1, 2].map(() => plane(() => 0.6));
    const agreeing = [0, 1, 2].map(() => plane((x) => (x > 190 ? 0.6 : 0.3)));
    expect(spillOf(below, other, mask, W).value).toBeGreaterThan(20);
    expect(spillOf(below, agreeing, mask, W).value).toBeLessThan(1);
    expect(spillOf(below, other, melting, W).value).toBeLessThan(3);
  });
});

describe('the proof', () => {
  const crop = { x: 100, y: 50, width: 1200, height: 800 };
  const verdicts = (image: EncodedImage, print?: typeof crop) =>
    Object.fromEntries(proofFindings(image, crop, print, []).map((f) => [f.id, f]));

  test('a clean picture passes in everything', () => {
    const clean = paint(W, H, (x, y) => {
      const v = y < 100 ? 0.7 : 0.35 + 0.05 * Math.sin(x / 9);
      return [v, v * 0.95, v * 0.9];
    });
    for (const f of proofFindings(clean, crop, undefined, []))
      expect([f.id, f.verdict]).toEqual([f.id, 'pass']);
  });

  test('each planted fault is found, with its place in the whole picture', () => {
    const leaning = paint(W, H, (x, y) => (y < 100 + 0.03 * (x - 150) ? [0.7, 0.7, 0.7] : [0.3, 0.3, 0.3]));
    expect(verdicts(leaning)['proof.tilt']).toMatchObject({
      verdict: 'watch',
      value: expect.closeTo(1.7, 1),
    });
    const burnt = paint(W, H, (x, y) => (x >= 200 && x < 260 && y < 40 ? [1, 1, 1] : [0.4, 0.4, 0.4]));
    expect(verdicts(burnt)['proof.burnt']).toMatchObject({
      verdict: 'fail',
      where: { x: 900, y: 50, width: 240, height: 160 },
    });
    const red = paint(W, H, (x) => (x < 60 ? [1, 0.4, 0.2] : [0.4, 0.4, 0.4]));
    expect(verdicts(red)['proof.red'].verdict).toBe('fail');
    expect(verdicts(red)['proof.green'].verdict).toBe('pass');
    const dark = paint(W, H, (x) => (x < 150 ? [0.05, 0.05, 0.05] : [0.5, 0.5, 0.5]));
    expect(verdicts(dark)['proof.darkFloor'].verdict).toBe('watch');
    const light = { x: 800, y: 60, width: 300, height: 300 };
    expect(verdicts(dark, light)['proof.darkFloor'].verdict).toBe('pass');
    const where = { x: 1, y: 2, width: 48, height: 48 };
    const torn = proofFindings(dark, crop, undefined, [{ step: 3, where }]).find(
      (f) => f.id === 'proof.banding',
    );
    expect(torn).toMatchObject({ verdict: 'watch', where });
  });
});
