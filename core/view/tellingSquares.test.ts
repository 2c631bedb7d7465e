import { expect, test } from '@jest/globals';
import { tellingSquares } from './tellingSquares';

const [w, h] = [80, 40];
const even = (): Float32Array => new Float32Array(w * h).fill(0.5);
const FULL = { width: 640, height: 320 };

test('what is fine is looked at where a picture is steepest, in each cell, within the picture', () => {
  const plane = even();
  // an edge in the last cell of the first row, near its corner
  plane[1 * w + 78] = 1;
  const squares = tellingSquares({ width: w, height: h, plane }, 3, FULL);
  expect(squares).toHaveLength(16);
  for (const { x, y, width, height } of squares) {
    expect([width, height]).toEqual([64, 64]);
    expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
    expect([x + 64 <= 640, y + 64 <= 320]).toEqual([true, true]);
  }
  // the pixel (78, 1) of the small picture is (628, 12) of the full one
  const last = squares[3];
  expect([last.x, last.y]).toEqual([576, 0]);
});

test('where nothing is done nothing is looked at; of a small picture all', () => {
  const mask = new Float32Array(w * h);
  mask[30 * w + 5] = 1;
  const [square, ...others] = tellingSquares({ width: w, height: h, plane: even(), mask }, 3, FULL);
  expect(others).toEqual([]);
  expect([square.x, square.y]).toEqual([12, 212]);
  expect(
    tellingSquares({ width: w, height: h, plane: even(), mask: new Float32Array(w * h) }, 3, FULL),
  ).toEqual([]);
  const small = tellingSquares({ width: 8, height: 8, plane: even().subarray(0, 64) }, 0, {
    width: 8,
    height: 8,
  });
  expect(small.every((s) => s.x === 0 && s.y === 0 && s.width === 8 && s.height === 8)).toBe(true);
});
