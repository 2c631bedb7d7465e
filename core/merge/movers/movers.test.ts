import { describe, expect, test } from '@jest/globals';
import { exposureFusion } from '@/core/merge/exposureFusion';
import { encodedGain } from '@/core/raster/encodedGain';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, transform, translation } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb } from '@/core/raster/srgb';
import { paint, waves } from '@/tests/paint';
import { type FrameLight } from './consistency';
import { applyChoices, findMovers, moversOf } from './findMovers';
import { moverTakes } from './takeMovers';

const [W, H] = [600, 400];
const [ground, cloth] = [waves(51, 30), waves(52, 30)];
const STOPS = [0, -2, 2];

interface ShotOptions {
  readonly stops: number;
  /** where the walker stands; none when absent */
  readonly walker?: number;
  readonly map?: Matrix3;
  readonly seed: number;
}

const SIZE = { width: 40, height: 90 };

/** A textured wall with a dark walker before it, shot and read noise, 8 bit. */
function shot({ stops, walker, map = IDENTITY, seed }: ShotOptions): EncodedImage {
  const brighten = encodedGain(stops);
  const normal = normalSource(randomSource(seed));
  return paint(W, H, (x, y) => {
    const [u, v] = transform(map, x, y);
    const inside =
      walker !== undefined && Math.abs(u - walker) < SIZE.width / 2 && Math.abs(v - 220) < SIZE.height / 2;
    const e = inside ? 0.1 + 0.22 * cloth(u - (walker ?? 0), v) : 0.3 + 0.3 * ground(u, v);
    const n = 0.006 * normal();
    return [brighten(e) + n, brighten(e * 0.96) + n, brighten(e * 0.9) + n];
  });
}

const SHIFTED = translation(3, -2);
/** a walker at another place in every frame; the third frame also shifted */
const walking = (places: readonly (number | undefined)[]) =>
  STOPS.map((stops, k) => ({
    image: shot({ stops, walker: places[k], seed: 10 + k, map: k === 2 ? SHIFTED : IDENTITY }),
    matrix: k === 2 ? translation(-3, 2) : IDENTITY,
    stops,
  }));

describe('movers', () => {
  test('nothing is found where nothing moved, at ±2 EV, shifted, with noise', () => {
    const still = findMovers(walking([undefined, undefined, undefined]), 0, W, H);
    expect(still.list).toEqual([]);
    expect(moverTakes(still, STOPS)).toBeUndefined();
  });

  test('a walker is found at each of his places, and taken from the reference', () => {
    const { list } = findMovers(walking([150, 300, 450]), 0, W, H);
    expect(list).toHaveLength(3);
    for (const x of [150, 300, 450]) {
      const found = list.find(({ box }) => box.x < x && box.x + box.width > x);
      expect(found).toBeDefined();
      expect(found?.frame).toBe(0);
      expect(found?.stops).toBeGreaterThan(0.5);
      // the whole figure lies inside
      expect(found?.box.x).toBeLessThanOrEqual(x - SIZE.width / 2 + 2);
      expect((found?.box.x ?? 0) + (found?.box.width ?? 0)).toBeGreaterThanOrEqual(x + SIZE.width / 2 - 2);
    }
  });

  test('the merge shows him once and leaves no ghost: each place looks as one still set does', () => {
    const frames = walking([150, 300, 450]);
    const movers = findMovers(frames, 0, W, H);
    const merged = exposureFusion(frames, W, H, undefined, moverTakes(movers, STOPS)).image;
    // what the reference shows, with nobody at the other two places
    const truth = exposureFusion(walking([150, 150, 150]), W, H).image;
    const ghosts = exposureFusion(frames, W, H).image;
    const worst = (image: EncodedImage, x0: number): number => {
      let most = 0;
      for (let y = 190; y < 250; y += 3)
        for (let x = x0 - 14; x < x0 + 14; x += 3) {
          // means of 3 × 3, so that the frames' own noise does not count
          let sum = 0;
          for (let j = -1; j <= 1; j++)
            for (let i = -1; i <= 1; i++) {
              const at = ((y + j) * W + x + i) * 3 + 1;
              sum += image.data[at] - truth.data[at];
            }
          most = Math.max(most, Math.abs(sum / 9 / 257));
        }
      return most;
    };
    // the light frame's walker is the ghost that shows
    expect(worst(ghosts, 450)).toBeGreaterThan(12);
    for (const x of [150, 300, 450]) expect(worst(merged, x)).toBeLessThan(5);
  });

  test('a frame chosen at a place makes it; blending all takes the place out', () => {
    const frames = walking([150, 300, 450]);
    const movers = findMovers(frames, 0, W, H);
    const at = (x: number, m: typeof movers) => {
      const scale = 2 ** m.level;
      return m.regions[Math.floor(220 / scale) * m.width + Math.floor(x / scale)];
    };
    const chosen = applyChoices(movers, [{ x: 300, y: 220, frame: 1 }]);
    expect(chosen.list[at(300, chosen) - 1].frame).toBe(1);
    expect(at(300, applyChoices(movers, [{ x: 300, y: 220 }]))).toBe(0);
    // the latest word counts, and one beside every mover changes nothing
    const again = applyChoices(movers, [
      { x: 300, y: 220 },
      { x: 300, y: 220, frame: 2 },
      { x: 20, y: 20, frame: 1 },
    ]);
    expect(again.list[at(300, again) - 1].frame).toBe(2);
  });

  test('a place that the reference holds no light of comes from a frame that does', () => {
    // a bright sky, white in the reference; a gull before it in the darkest frame only
    const frames = [0, -2, -4].map((stops, k) => ({
      image: paint(W, H, (x, y) => {
        const gull = k === 2 && Math.abs(x - 300) < 30 && Math.abs(y - 100) < 15;
        const light = gull ? 0.5 : y < 200 ? 1.6 : 0.15 + 0.1 * ground(x, y);
        const v = linearToSrgb(Math.min(1, light * 2 ** stops));
        return [v, v, v];
      }),
      matrix: IDENTITY,
      stops,
    }));
    const { list } = findMovers(frames, 0, W, H);
    expect(list).toHaveLength(1);
    expect(list[0].frame).not.toBe(0);
    expect(list[0].box.x).toBeLessThan(300);
    expect(list[0].box.x + list[0].box.width).toBeGreaterThan(300);
  });
});

test('a lamp that burns out in one frame and is elsewhere in another is found and taken whole from the reference', () => {
  const lamp = (stops: number, at: number, seed: number): EncodedImage => {
    const brighten = encodedGain(stops);
    const normal = normalSource(randomSource(seed));
    return paint(W, H, (x, y) => {
      const e = Math.hypot(x - at, y - 200) < 14 ? linearToSrgb(6) : 0.3 + 0.1 * ground(x, y);
      return [0, 1, 2].map(() => brighten(e) + 0.004 * normal()) as [number, number, number];
    });
  };
  const frames = STOPS.map((stops, k) => ({
    image: lamp(stops, 150 + 120 * k, 60 + k),
    matrix: IDENTITY,
    stops,
  }));
  const { list } = findMovers(frames, 0, W, H);
  for (const x of [150, 270, 390])
    expect(
      list.some(({ box }) => x > box.x && x < box.x + box.width && 200 > box.y && 200 < box.y + box.height),
    ).toBe(true);
  // what is the same lamp in every frame is no mover, burnt out or not
  const still = STOPS.map((stops, k) => ({ image: lamp(stops, 200, 70 + k), matrix: IDENTITY, stops }));
  expect(findMovers(still, 0, W, H).list).toEqual([]);
});

test('a figure as dark as its ground is found by its colour, and its parts are one mover', () => {
  // a green coat before a red wall of the same luminance, dark cap above it, a small lantern beside it
  const figure = (stops: number, at: number, seed: number): EncodedImage => {
    const brighten = encodedGain(stops);
    const normal = normalSource(randomSource(seed));
    return paint(W, H, (x, y) => {
      const [u, v] = [x - at, y - 200];
      const wall = 0.28 + 0.05 * ground(x, y);
      let light: [number, number, number] = [wall + 0.05, wall - 0.025, wall - 0.06];
      if (Math.abs(u) < 16 && Math.abs(v) < 40) light = [wall - 0.09, wall + 0.03, wall + 0.02];
      if (Math.abs(u) < 9 && v < -44 && v > -56) light = [0.1, 0.1, 0.1];
      if (Math.abs(u - 30) < 6 && Math.abs(v - 20) < 6) light = [0.98, 0.9, 0.8];
      return light.map((e) => brighten(e) + 0.004 * normal()) as [number, number, number];
    });
  };
  const frames = STOPS.map((stops, k) => ({
    image: figure(stops, 130 + 150 * k, 80 + k),
    matrix: IDENTITY,
    stops,
  }));
  const { list } = findMovers(frames, 0, W, H);
  expect(list).toHaveLength(3);
  for (const x of [130, 280, 430]) {
    const found = list.find(({ box }) => box.x < x && x < box.x + box.width);
    // coat, cap and lantern lie in one box, and the reference makes them all
    expect(found?.frame).toBe(0);
    expect(found?.box.y).toBeLessThan(200 - 50);
    expect((found?.box.y ?? 0) + (found?.box.height ?? 0)).toBeGreaterThan(200 + 36);
    expect((found?.box.x ?? 0) + (found?.box.width ?? 0)).toBeGreaterThan(x + 32);
  }
  const still = STOPS.map((stops, k) => ({ image: figure(stops, 300, 90 + k), matrix: IDENTITY, stops }));
  expect(findMovers(still, 0, W, H).list).toEqual([]);
});

test('a dark frame says how much light there can have been: what is black in one and light in another has moved', () => {
  const post = (stops: number, at: number | undefined, seed: number): EncodedImage => {
    const brighten = encodedGain(stops);
    const normal = normalSource(randomSource(seed));
    return paint(W, H, (x, y) => {
      const e = at !== undefined && Math.abs(x - at) < 14 ? 0.004 : 0.22 + 0.05 * ground(x, y);
      return [0, 1, 2].map(() => Math.max(0, brighten(e) + 0.003 * normal())) as [number, number, number];
    });
  };
  const frames = STOPS.map((stops, k) => ({
    image: post(stops, k === 0 ? 300 : undefined, 95 + k),
    matrix: IDENTITY,
    stops,
  }));
  const { list } = findMovers(frames, 0, W, H);
  expect(list).toHaveLength(1);
  expect(list[0].frame).toBe(0);
  expect(list[0].box.x).toBeLessThan(300 - 12);
});

test('legs that their ground hides in part belong to the walker; what differs as little far from him does not', () => {
  const [w, h] = [60, 90];
  const rows = (from: number, to: number, stops: number) => ({ from, to, stops });
  const light = (parts: readonly ReturnType<typeof rows>[]): FrameLight => {
    const even = (value: number): Float32Array => new Float32Array(w * h).fill(value);
    const log = even(0);
    for (const { from, to, stops } of parts)
      for (let y = from; y < to; y++) log.fill(stops, y * w + 25, y * w + 33);
    const none = even(NaN);
    return {
      ...{ width: w, height: h, level: 0, log, spread: even(0.02) },
      ...{ tint: even(0), tintSpread: even(0.02), least: none, most: none },
    };
  };
  // a coat that is surely another, 3 rows that show no difference, shoes that differ by a fifth of a stop, and as much far below
  const still = light([]);
  const walker = light([rows(10, 26, 1), rows(29, 36, 0.2), rows(66, 72, 0.2)]);
  const { list, regions } = moversOf([still, walker], 0, w, h);
  expect(list).toHaveLength(1);
  const at = (y: number): number => regions[y * w + 29];
  expect([at(15), at(32), at(69)]).toEqual([1, 1, 0]);
});
