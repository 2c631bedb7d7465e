import { describe, expect, test } from '@jest/globals';
import { emptyImage } from '../../raster/encodedImage';
import { penCells } from '../../raster/penCells';
import { randomSource } from '../../raster/random';
import { type GridFrame } from '../frameOnGrid';
import { chooseMoments } from '../moments/chooseMoments';
import { momentScores } from '../moments/momentScores';
import { MOMENT_TASTES } from '../moments/momentTastes';
import { dabbedWeights } from '../swap/dabbedWeights';
import { expandLabels, type LabelCosts } from './expandLabels';
import { dabbedCells } from './frameDab';
import { seamCost } from './seamCost';
import { seamVisibility } from './seamVisibility';
import { takeNamed } from './takeNamed';
import { thingCells } from './thingCells';

const [W, H] = [96, 64];
const GRID = { width: W, height: H, level: 0 };
const NOBODY = new Int16Array(W * H).fill(-1);

/** A wall of soft texture; `paint` changes cells. */
function view(
  paint: (x: number, y: number, v: number) => number = (_x, _y, v) => v,
  seed = 3,
  [w, h] = [W, H],
): GridFrame {
  const random = randomSource(11);
  const grain = randomSource(seed);
  const planes = [0, 1, 2].map(() => new Float32Array(w * h));
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const v = paint(x, y, 0.4 + 0.05 * random()) + 0.004 * (grain() - 0.5);
      planes.forEach((p, c) => (p[i] = v * [1, 0.95, 0.9][c]));
    }
  return { planes, seen: new Float32Array(w * h).fill(1) };
}

/** A thing that stands at a place. */
const thing =
  (left: number, shade = 0.85) =>
  (x: number, y: number, v: number): number =>
    x >= left && x < left + 18 && y >= 14 && y < 52 ? shade : v;

const energy = ({ width: w, height: h, own, seams }: LabelCosts, label: ArrayLike<number>): number => {
  let sum = 0;
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      sum += own[label[i]][i];
      if (x + 1 < w) sum += seams.between(i, i + 1, label[i], label[i + 1]);
      if (y + 1 < h) sum += seams.between(i, i + w, label[i], label[i + w]);
    }
  return sum;
};

describe('expanding labels', () => {
  const [w, h] = [4, 3];
  const costs = (seed: number, labels: number): LabelCosts => {
    const random = randomSource(seed);
    const frames = Array.from({ length: labels }, (_, f) =>
      view((_x, _y, v) => v + 0.4 * random(), f + 1, [w, h]),
    );
    const own = frames.map(() => Float32Array.from({ length: w * h }, () => 0.6 * random()));
    return { width: w, height: h, own, seams: seamCost(frames, w) };
  };

  test.each([1, 2, 3, 4, 5, 6])('of two labels the least of all 4096 ways is found (%d)', (seed) => {
    const asked = costs(seed, 2);
    let least = Infinity;
    for (let k = 0; k < 2 ** (w * h); k++)
      least = Math.min(
        least,
        energy(
          asked,
          Array.from({ length: w * h }, (_, i) => (k >> i) & 1),
        ),
      );
    expect(energy(asked, expandLabels(asked, new Int16Array(w * h), [0, 1]))).toBeCloseTo(least, 4);
  });

  test.each([1, 2, 3, 4])(
    'of four labels nothing that one label could take is left, and it never gets dearer (%d)',
    (seed) => {
      const asked = costs(seed, 4);
      const start = new Int16Array(w * h);
      const label = expandLabels(asked, start, [0, 1, 2, 3]);
      const least = energy(asked, label);
      expect(least).toBeLessThanOrEqual(energy(asked, start) + 1e-4);
      for (let alpha = 0; alpha < 4; alpha++)
        for (let k = 0; k < 2 ** (w * h); k++) {
          const taken = label.map((l, i) => ((k >> i) & 1 ? alpha : l));
          if (energy(asked, taken) < least - 1e-3) throw new Error(`label ${alpha} could take ${k}`);
        }
    },
  );

  test('a seam is never cheaper by way of a third frame', () => {
    const random = randomSource(5);
    const frames = [1, 2, 3].map((f) => view((_x, _y, v) => v + 0.3 * random(), f, [w, h]));
    const { between } = seamCost(frames, w);
    for (let i = 0; i + 1 < w * h; i++)
      for (const [a, b, c] of [
        [0, 1, 2],
        [1, 2, 0],
        [2, 0, 1],
      ])
        expect(between(i, i + 1, a, b)).toBeLessThanOrEqual(
          between(i, i + 1, a, c) + between(i, i + 1, c, b) + 1e-6,
        );
  });
});

describe('what is pointed out in a frame', () => {
  test('comes from it whole, though only its middle was touched, and the rest stays', () => {
    const frames = [view(), view(thing(20), 4), view(thing(60, 0.1), 5)];
    const named = dabbedCells(
      [
        { frame: 1, size: 4 / W, points: [[29 / W, 32 / W]] },
        { frame: 2, size: 4 / W, points: [[69 / W, 32 / W]] },
      ],
      GRID,
      W,
    );
    const { made, planes, takes } = dabbedWeights(frames, 0, named, GRID);
    const wanted = (i: number): number => {
      const [x, y] = [i % W, Math.floor(i / W)];
      return thing(20)(x, y, 0) > 0 ? 1 : thing(60)(x, y, 0) > 0 ? 2 : -1;
    };
    made.forEach((l, i) => {
      if (wanted(i) >= 0) expect(l).toBe(wanted(i));
    });
    // and a rim about each
    expect(made.filter((l) => l !== 0).length).toBeLessThan(2 * 27 * 47);
    // they are laid in, and blended as what they are laid into
    expect(planes[0].every((v) => v === 1)).toBe(true);
    expect(takes?.planes[1]?.[32 * W + 29]).toBe(1);
    expect(takes?.planes[0]).toBeUndefined();
  });

  test('a thing is taken away by pointing at its place in a frame that has none', () => {
    const frames = [view(thing(20)), view(undefined, 4)];
    const named = dabbedCells([{ frame: 1, size: 3 / W, points: [[29 / W, 32 / W]] }], GRID, W);
    const { made } = dabbedWeights(frames, 0, named, GRID);
    for (let y = 14; y < 52; y++) for (let x = 20; x < 38; x++) expect(made[y * W + x]).toBe(1);
  });

  test('a thing stands out though light about it changed too; light that changed alone is no thing', () => {
    const lit = (x: number, _y: number, v: number): number => (x < 60 ? v + 0.08 : v);
    const both = (x: number, y: number, v: number): number => thing(20)(x, y, lit(x, y, v));
    const pointed = new Uint8Array(W * H);
    pointed[32 * W + 29] = 1;
    const found = thingCells(pointed, view(both, 4), [view()], GRID);
    expect(found?.[32 * W + 29]).toBe(1);
    expect(found?.[16 * W + 22]).toBe(1);
    expect(found?.[32 * W + 50]).toBe(0);
    expect(thingCells(pointed, view(lit, 4), [view()], GRID)).toBeUndefined();
  });

  test('a later dab covers an earlier one; what a frame does not show it cannot give', () => {
    const half = view(undefined, 4);
    half.seen.fill(0, 0, (W * H) / 2);
    const frames = [view(), half];
    const point = [50 / W, 50 / W] as const;
    const named = dabbedCells(
      [
        { frame: 1, size: 9 / W, points: [point] },
        { frame: 0, size: 3 / W, points: [point] },
        { frame: 1, size: 9 / W, points: [[20 / W, 10 / W]] },
      ],
      GRID,
      W,
    );
    expect(named[50 * W + 50]).toBe(0);
    expect(named[46 * W + 50]).toBe(1);
    const { made } = takeNamed(frames, new Int16Array(W * H), named, 0, GRID);
    expect(made[50 * W + 50]).toBe(0);
    expect(made[46 * W + 50]).toBe(1);
    expect(made[10 * W + 20]).toBe(0);
  });

  test('a dab outside the picture, or smaller than a cell, is no fault', () => {
    const outside = { frame: 1, size: 0, points: [[-2, 40] as const] };
    expect(dabbedCells([outside], GRID, W)).toEqual(NOBODY);
    const small = dabbedCells([{ frame: 1, size: 0, points: [[0.5, 0.2]] }], GRID, W);
    expect(small.filter((f) => f === 1).length).toBeGreaterThan(0);
    const cells: number[] = [];
    penCells({ size: 3, points: [[1, 0]] }, 4, 4, 1, (cell) => cells.push(cell));
    expect(cells).toEqual([0, 1, 2, 4, 5, 6]);
  });
});

describe('moments with cut joints', () => {
  const passing = [view(thing(20)), view(thing(64), 4), view(thing(70), 5)];
  const chosen = (named?: Int16Array) =>
    chooseMoments(passing, momentScores(passing, W, H), MOMENT_TASTES.calm, 0, GRID, named);

  test('no joint runs through what passes, and what is pointed out counts over what is looked for', () => {
    const { made: label } = chosen(NOBODY);
    const maker = label[32 * W + 29];
    expect(maker).not.toBe(0);
    for (let y = 15; y < 51; y++) for (let x = 21; x < 37; x++) expect(label[y * W + x]).not.toBe(0);
    const named = dabbedCells([{ frame: 0, size: 4 / W, points: [[29 / W, 32 / W]] }], GRID, W);
    const asked = chosen(named);
    for (let y = 15; y < 51; y++) for (let x = 21; x < 37; x++) expect(asked.made[y * W + x]).toBe(0);
  });

  test('sets of earlier versions choose each cell for itself', () => {
    const { made: label, planes } = chosen();
    expect(label).toHaveLength(W * H);
    expect(planes).toHaveLength(3);
    expect(label).not.toEqual(chosen(NOBODY).made);
  });
});

test('a seam adds what the frames themselves have not: nothing along an edge of their own, all of a step', () => {
  const edge = (x: number, _y: number, v: number): number => (x < W / 2 ? v : 0.8);
  const both = [view(edge), view(edge, 4)];
  const label = Int16Array.from({ length: W * H }, (_, i) => (i % W < W / 2 ? 0 : 1));
  const pictureOf = ([left, right]: readonly GridFrame[]) => {
    const image = emptyImage(W, H, 65535);
    for (let i = 0; i < W * H; i++)
      for (let c = 0; c < 3; c++)
        image.data[3 * i + c] = 65535 * (label[i] === 0 ? left : right).planes[c][i];
    return image;
  };
  const hidden = seamVisibility(label, both, [pictureOf(both)], GRID);
  expect(hidden?.across).toBeGreaterThan(20);
  expect(hidden?.added).toBeLessThan(1);
  const apart = [view(), view((_x, _y, v) => v + 0.2, 4)];
  const shown = seamVisibility(label, apart, [pictureOf(apart)], GRID);
  expect(shown?.added).toBeGreaterThan(10);
  expect(shown?.along).toBeLessThan(shown?.across ?? 0);
  expect(Math.abs((shown?.where?.x ?? 0) + 12 - W / 2)).toBeLessThan(25);
  expect(seamVisibility(new Int16Array(W * H), both, [pictureOf(both)], GRID)).toBeUndefined();
});
