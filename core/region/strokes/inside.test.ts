import { describe, expect, test } from '@jest/globals';
import { packStroke } from '@/core/mask/packStroke';
import { placesAlong } from '@/core/mask/inside/placesAlong';
import { type Stroke } from '@/core/mask/stroke';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { normalSource, randomSource } from '@/core/raster/random';
import { plateOver } from '@/tests/knownCutout';
import { paint } from '@/tests/paint';
import { regionOf, regionOver } from '@/tests/regionPlane';

const [W, H] = [320, 200];

type Points = readonly (readonly [x: number, y: number])[];

/** A stroke through pixels of a picture. */
const strokeOf = (points: Points, radius: number, inside: boolean, width: number): Stroke => ({
  ...{ action: 'reveal', size: (2 * radius) / width, softness: 0.3, flow: 1, ...(inside ? { inside } : {}) },
  points: points.map(([x, y]) => [(x + 0.5) / width, (y + 0.5) / width, 1] as const),
});

/** What strokes cover of a picture, by tiles where they are given. */
function covered(image: EncodedImage, strokes: readonly Stroke[], level = 0, tiles?: readonly Rectangle[]) {
  const [width, height] = [image.width, image.height].map((v) => Math.ceil(v / 2 ** level));
  const region = regionOf({ kind: 'strokes', settings: { strokes } });
  const out = new Float32Array(width * height);
  for (const area of tiles ?? [{ x: 0, y: 0, width, height }]) {
    const plane = regionOver(region, image, { level, area });
    for (let y = 0; y < area.height; y++)
      out.set(plane.subarray(y * area.width, (y + 1) * area.width), (y + area.y) * width + area.x);
  }
  return out;
}

/** A picture of two colours beside each other, with noise; the left one may be shaded downwards. */
function halves(shade: number): EncodedImage {
  const normal = normalSource(randomSource(4));
  return paint(W, H, (x, y) => {
    const left = 0.35 + (shade * y) / H;
    const colour = x < W / 2 ? [left, left * 0.9, left * 0.7] : [0.5, 0.62, 0.75];
    return colour.map((v) => v + 0.012 * normal()) as [number, number, number];
  });
}

const line = (from: readonly [number, number], to: readonly [number, number], steps = 20): Points =>
  Array.from(
    { length: steps + 1 },
    (_, k) => [0, 1].map((c) => from[c] + (k / steps) * (to[c] - from[c])) as [number, number],
  );

/** A line within a thing, some pixels from where each row of it begins. */
function alongLeft(alpha: Float32Array, width: number, within: number): Points {
  const path: [number, number][] = [];
  for (let y = 0; y < alpha.length / width; y += 3) {
    const row = alpha.subarray(y * width, (y + 1) * width);
    const x = row.findIndex((v) => v > 0.9);
    // where a row begins far from the last one the thing has another part
    const last = path.at(-1);
    const isNext = !last || Math.abs(x + within - last[0]) < 9;
    if (x >= 0 && isNext && row.subarray(x, x + 2 * within).every((v) => v > 0.9)) path.push([x + within, y]);
  }
  return path;
}

const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;
const where = (plane: Float32Array, of: (x: number, y: number) => boolean, width = W): number[] =>
  [...plane].filter((_, i) => of(i % width, Math.floor(i / width)));

describe('a brush that stays on what it started on', () => {
  test('covers its own side of an edge as any brush does, and nothing of the other', () => {
    const path = line([W / 2 - 8, 30], [W / 2 - 8, 170]);
    const image = halves(0);
    const [plain, own] = [false, true].map((i) => covered(image, [strokeOf(path, 20, i, W)]));
    const left = (p: Float32Array): number => mean(where(p, (x) => x < W / 2 - 1));
    expect(left(own) / left(plain)).toBeGreaterThan(0.99);
    expect(Math.max(...where(plain, (x) => x > W / 2 + 1))).toBe(1);
    expect(Math.max(...where(own, (x) => x > W / 2 + 1))).toBe(0);
  });

  test('follows what goes over slowly into another colour', () => {
    const image = halves(0.5);
    const path = line([W / 2 - 24, 10], [W / 2 - 24, 190]);
    const [plain, own] = [false, true].map((i) => covered(image, [strokeOf(path, 20, i, W)]));
    // 0.35 to 0.85 of white: no one colour is like both ends
    expect(mean([...own]) / mean([...plain])).toBeGreaterThan(0.98);
  });

  test('a hand that slips over the edge takes nothing along', () => {
    const path = [
      ...line([W / 2 - 14, 20], [W / 2 - 14, 80], 12),
      ...line([W / 2 + 25, 95], [W / 2 + 25, 120], 5),
      ...line([W / 2 - 14, 140], [W / 2 - 14, 180], 8),
    ];
    const own = covered(halves(0), [strokeOf(path, 16, true, W)]);
    expect(Math.max(...where(own, (x) => x > W / 2 + 2))).toBe(0);
    expect(
      Math.min(...where(own, (x, y) => Math.abs(x - (W / 2 - 14)) < 4 && y > 150 && y < 170)),
    ).toBeGreaterThan(0.9);
  });

  test('hides as it reveals', () => {
    const image = halves(0);
    const whole = strokeOf(line([0, H / 2], [W, H / 2]), 200, false, W);
    const taken: Stroke = {
      ...strokeOf(line([W / 2 + 8, 30], [W / 2 + 8, 170]), 20, true, W),
      action: 'hide',
    };
    const left = covered(image, [whole, taken]);
    expect(Math.min(...where(left, (x, y) => x < W / 2 - 2 && y > 20 && y < 180))).toBe(1);
    expect(
      Math.max(...where(left, (x, y) => x > W / 2 + 3 && x < W / 2 + 16 && y > 50 && y < 150)),
    ).toBeLessThan(0.1);
  });

  // real environments of the package @pmndrs/assets, plates of the demo over them; the hand draws along their left side
  test('over photographs it is never worse than a plain brush, and in the mean far better', () => {
    const cases = [
      ['heron', 'park', { x: 110, y: 20, height: 270 }, 14],
      ['boat', 'city', { x: 40, y: 90, height: 150 }, 18],
      ['walker', 'forest', { x: 150, y: 10, height: 300 }, 16],
      ['heron', 'lobby', { x: 200, y: 30, height: 260 }, 14],
    ] as const;
    const [width, height] = [480, 320];
    const shares = cases.map(([plate, map, at, radius]) => {
      const known = plateOver(plate, map, [width, height], at);
      const path = alongLeft(known.alpha, width, radius / 2);
      const [plain, own] = [false, true].map((inside) =>
        covered(known.image, [strokeOf(path, radius, inside, width)]),
      );
      let [wrong, before] = [0, 0];
      plain.forEach((v, i) => {
        wrong += Math.abs(own[i] - v * known.alpha[i]);
        before += v - v * known.alpha[i];
      });
      return wrong / before;
    });
    expect(Math.max(...shares)).toBeLessThan(1.01);
    expect(mean(shares)).toBeLessThan(0.75);
  });

  test('is the same by tiles as in one piece', () => {
    const image = halves(0.2);
    const strokes = [
      strokeOf(line([W / 2 - 8, 30], [W / 2 - 12, 170]), 20, true, W),
      strokeOf(line([20, 60], [120, 90]), 12, false, W),
      strokeOf(line([W / 2 + 9, 150], [W / 2 + 60, 60]), 18, true, W),
    ];
    const whole = covered(image, strokes);
    const tiles = [0, 1, 2, 3].map((k) => ({ x: (k % 2) * 160, y: (k >> 1) * 100, width: 160, height: 100 }));
    const tiled = covered(image, strokes, 0, tiles);
    expect(Math.max(...tiled.map((v, i) => Math.abs(v - whole[i])))).toBeLessThan(1e-3);
  });

  test('a large picture is told apart at one size, whatever it is looked at', () => {
    const normal = normalSource(randomSource(4));
    const [width, height] = [3300, 160];
    const image = paint(width, height, (x) => {
      const colour = x < width / 2 ? [0.4, 0.36, 0.3] : [0.5, 0.62, 0.75];
      return colour.map((v) => v + 0.012 * normal()) as [number, number, number];
    });
    const strokes = [strokeOf(line([width / 2 - 40, 20], [width / 2 - 30, 140]), 90, true, width)];
    const [full, half] = [0, 1].map((level) => covered(image, strokes, level));
    const w = width / 2;
    const off = [...half].map((v, i) => {
      const at = 2 * Math.floor(i / w) * width + 2 * (i % w);
      return Math.abs(v - (full[at] + full[at + 1] + full[at + width] + full[at + width + 1]) / 4);
    });
    expect(full.includes(1)).toBe(true);
    expect(mean(off)).toBeLessThan(1 / 255);
  });

  test('a stroke that grows keeps the places where its colours were taken', () => {
    const path = line([10, 10], [300, 180], 200);
    const long = placesAlong(packStroke(strokeOf(path, 30, true, W))).places;
    const short = placesAlong(packStroke(strokeOf(path.slice(0, 140), 30, true, W))).places;
    expect(short.length).toBeGreaterThan(15);
    expect(long.slice(0, short.length)).toEqual(short);
    // and a very long one does not take more and more
    const endless = Array.from({ length: 4000 }, (_, k): [number, number] => [k % 300, (k * 7) % 190]);
    expect(placesAlong(packStroke(strokeOf(endless, 12, true, W))).places.length).toBeLessThanOrEqual(192);
  });
});
