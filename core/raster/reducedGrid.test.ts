import { describe, expect, test } from '@jest/globals';
import { gridRow, reducedGrid } from './reducedGrid';

describe('a plane of cells over a picture', () => {
  test('has its size rounded up', () => {
    expect(reducedGrid(640, 480, 3)).toEqual({ width: 80, height: 60, level: 3 });
    expect(reducedGrid(641, 1, 3)).toEqual({ width: 81, height: 1, level: 3 });
    expect(reducedGrid(7, 5, 0)).toEqual({ width: 7, height: 5, level: 0 });
  });

  test('gives a slope back between the middles of its cells', () => {
    const grid = reducedGrid(64, 64, 2);
    // the value of a cell is that of the slope at its middle: pixel 4k + 1.5
    const plane = Float32Array.from({ length: 256 }, (_, i) => 10 + 4 * (i % 16) + 1.5 + 100 * (i >> 4));
    const row = new Float32Array(64);
    expect(gridRow(row, plane, grid, 0, 33)).toBe(true);
    const down = 100 * ((33 + 0.5) / 4 - 0.5);
    for (let x = 2; x < 62; x++) expect(row[x]).toBeCloseTo(10 + x + down, 3);
    // before the first middle and after the last one it is level
    expect(row[0]).toBeCloseTo(row[1], 6);
    expect(row[63]).toBeCloseTo(row[62], 6);
  });

  test('a part of a row is that part of the whole', () => {
    const grid = reducedGrid(48, 32, 2);
    const plane = Float32Array.from({ length: grid.width * grid.height }, (_, i) => (i * 37) % 11);
    const [whole, part] = [new Float32Array(48), new Float32Array(10)];
    gridRow(whole, plane, grid, 0, 17);
    gridRow(part, plane, grid, 23, 17);
    expect([...part]).toEqual([...whole.subarray(23, 33)]);
  });

  test('an empty row says so and leaves what was there', () => {
    const grid = reducedGrid(40, 40, 2);
    const plane = new Float32Array(100);
    plane[5 * 10 + 3] = 1;
    const row = new Float32Array(40).fill(7);
    expect(gridRow(row, plane, grid, 0, 4)).toBe(false);
    expect(row.every((v) => v === 7)).toBe(true);
    expect(gridRow(row, plane, grid, 0, 22)).toBe(true);
    expect(row.some((v) => v > 0.5)).toBe(true);
  });
});
