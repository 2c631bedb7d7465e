import { expect, test } from '@jest/globals';
import { arctangent } from './arctangent';

test('the table agrees with the language’s own function all round', () => {
  for (let i = 0; i <= 20_000; i++) {
    const turn = -Math.PI + (2 * Math.PI * i) / 20_000;
    const [x, y] = [3 * Math.cos(turn), 3 * Math.sin(turn)];
    expect(Math.abs(arctangent(y, x) - Math.atan2(y, x))).toBeLessThan(1e-8);
  }
  for (const [y, x] of [
    [0, 1],
    [0, 0],
    [1, 0],
    [-1, 0],
    [2, 2],
    [-2, -2],
  ])
    expect(arctangent(y, x)).toBeCloseTo(Math.atan2(y, x), 8);
});
