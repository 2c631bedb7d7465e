import { describe, expect, test } from '@jest/globals';
import { largestDifference, waves } from '@/tests/paint';
import {
  addExpanded,
  collapseInPlace,
  gaussianPyramid,
  laplacianInPlace,
  levelSize,
  pyramidDepth,
  reduce,
} from './pyramid';

const plane = (width: number, height: number, value: (x: number, y: number) => number) => ({
  width,
  height,
  data: Float32Array.from({ length: width * height }, (_, i) => value(i % width, Math.floor(i / width))),
});

describe('pyramid of Burt & Adelson 1983', () => {
  test.each([
    [64, 64],
    [65, 37],
    [17, 128],
    [5, 3],
  ])('a Laplacian pyramid of %i × %i collapses to what it was made from', (width, height) => {
    const source = plane(width, height, waves(4));
    const levels = gaussianPyramid({ ...source, data: source.data.slice() }, pyramidDepth(width, height));
    laplacianInPlace(levels);
    expect(largestDifference(collapseInPlace(levels).data, source.data)).toBeLessThan(1e-6);
  });

  test('an impulse spreads by [1 4 6 4 1]/16 in both directions, every second sample kept', () => {
    const impulse = plane(9, 9, (x, y) => (x === 4 && y === 4 ? 256 : 0));
    const { data } = reduce(impulse);
    // centre 36/256, neighbours two away 6/256, corners 1/256
    expect([data[2 * 5 + 2], data[2 * 5 + 1], data[1 * 5 + 2], data[1 * 5 + 1]]).toEqual([36, 6, 6, 1]);
  });

  test('borders mirror without repeating the edge sample (reflect-101)', () => {
    const ramp = reduce(plane(9, 1, (x) => x));
    // row 0: (6·0 + 4·(1 + 1) + 1·(2 + 2)) / 16
    expect(ramp.data[0]).toBeCloseTo(12 / 16, 6);
  });

  test.each([
    [8, 3],
    [9, 4],
    [31, 31],
  ])('an even picture of %i × %i stays even through reduce and expand', (width, height) => {
    const fine = plane(width, height, () => 0);
    addExpanded(fine, reduce(plane(width, height, () => 0.7)), 1);
    for (const v of fine.data) expect(v).toBeCloseTo(0.7, 6);
  });

  test('depth and sizes follow Mertens et al. 2007: down to one or two pixels', () => {
    expect(pyramidDepth(1980, 1320)).toBe(10);
    expect(pyramidDepth(1, 100)).toBe(0);
    expect([0, 1, 2, 3].map((l) => levelSize(101, l))).toEqual([101, 51, 26, 13]);
  });
});
