import { describe, expect, test } from '@jest/globals';
import { emptyLevels, levelSize } from './discField';
import { discReach, discRows, discStep, spreadDiscs } from './spreadDiscs';

describe('a disc in rows', () => {
  test.each([0.5, 1.25, 3, 7.75, 20])('of radius %d covers its area, evenly about its middle', (radius) => {
    const { first, from, fromRest, to, toRest, share } = discRows(discStep(radius));
    let [area, across, down] = [0, 0, 0];
    for (let row = 0; row < from.length; row++) {
      const [begins, ends] = [from[row] + fromRest[row], to[row] + toRest[row]];
      area += ends - begins;
      // a place reaches from its column to the next one: the middle of its own is at a half
      across += (ends - begins) * ((begins + ends) / 2 - 0.5);
      down += (ends - begins) * (first + row);
    }
    expect(area * share).toBeCloseTo(1, 9);
    expect(across).toBeCloseTo(0, 9);
    expect(down).toBeCloseTo(0, 9);
    // π r², but for the rows that a grid leaves out of a small one
    expect(Math.abs(area / (Math.PI * radius * radius) - 1)).toBeLessThan(0.3 / radius);
  });

  test('what is nearly sharp has no shape', () => {
    expect(discStep(0.2)).toBe(-1);
    expect(discStep(0.5)).toBe(16);
  });
});

describe('cells spread over their discs', () => {
  const spread = (cells: readonly { place: number; radius: number }[], width = 24, height = 16) => {
    const [level] = emptyLevels(width, height, 1);
    cells.forEach(({ place, radius }, k) => {
      level.cells.places[k] = place;
      level.cells.radii[k] = radius;
      level.cells.light.set([0.5, 0.25, 0.125, 1], 4 * k);
    });
    level.cells.count = cells.length;
    spreadDiscs(level.cells, level.sums);
    // summed up along the rows
    const out = Array.from({ length: height }, (_, y) => {
      const run = [0, 0, 0, 0];
      return Array.from({ length: width }, (_, x) =>
        run.map((_, c) => (run[c] += level.sums.data[4 * (y * width + x) + c])),
      );
    });
    return { level, out };
  };
  const total = (out: readonly number[][][], c: number): number =>
    out.flat().reduce((sum, v) => sum + v[c], 0);

  test('their light and opacity stay whole, in the middle and at the border', () => {
    const middle = spread([{ place: 8 * 24 + 12, radius: 3.5 }]);
    expect(total(middle.out, 3)).toBeCloseTo(1, 4);
    expect(total(middle.out, 0)).toBeCloseTo(0.5, 4);
    expect(total(middle.out, 2)).toBeCloseTo(0.125, 4);
    const { left, top, right, bottom } = discReach(middle.level.cells, middle.level.sums);
    middle.out.forEach((row, y) =>
      row.forEach((v, x) => {
        if (x < left || x >= right || y < top || y >= bottom) expect(Math.abs(v[3])).toBeLessThan(1e-6);
      }),
    );
    // above the picture it stays on the first row
    const edge = spread([{ place: 12, radius: 3.5 }]);
    expect(total(edge.out, 3)).toBeCloseTo(1, 4);
    expect(edge.out[0][12][3]).toBeGreaterThan(middle.out[8][12][3]);
  });

  test('a cell that is nearly sharp keeps to its place', () => {
    const { out } = spread([{ place: 5 * 24 + 7, radius: 0.1 }]);
    expect(out[5][7]).toEqual([0.5, 0.25, 0.125, 1]);
    expect(out[5][8][3]).toBe(0);
    expect(out[4][7][3]).toBe(0);
  });

  test('overlapping discs add up', () => {
    const cells = [8, 9].map((y) => ({ place: y * 24 + 12, radius: 2.5 }));
    expect(total(spread(cells).out, 3)).toBeCloseTo(2, 4);
  });

  test('levels halve until their squares cover the picture', () =>
    expect([0, 1, 2, 3].map((l) => levelSize(101, 67, l))).toEqual([
      { width: 101, height: 67 },
      { width: 51, height: 34 },
      { width: 26, height: 17 },
      { width: 13, height: 9 },
    ]));
});
