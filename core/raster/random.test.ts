import { expect, test } from '@jest/globals';
import { normalSource, tabledNormals, randomSource } from './random';

// moments of the standard normal distribution: 0, 1, 0, 3 (any statistics handbook)
test.each([
  ['exact', () => normalSource(randomSource(8))],
  ['tabled', () => tabledNormals(8)],
] as const)(
  '%s normal numbers have the moments of the normal distribution, and no neighbour in them',
  (_, make) => {
    const next = make();
    const count = 400_000;
    const moments = [0, 0, 0, 0];
    let before = 0;
    let beside = 0;
    for (let i = 0; i < count; i++) {
      const v = next();
      for (let k = 0; k < 4; k++) moments[k] += v ** (k + 1) / count;
      beside += (v * before) / count;
      before = v;
    }
    // four standard errors of each mean: √(1, 2, 15, 96) / √count
    const error = 4 / Math.sqrt(count);
    expect(Math.abs(moments[0])).toBeLessThan(error);
    expect(Math.abs(moments[1] - 1)).toBeLessThan(Math.SQRT2 * error);
    expect(Math.abs(moments[2])).toBeLessThan(Math.sqrt(15) * error);
    expect(Math.abs(moments[3] - 3)).toBeLessThan(Math.sqrt(96) * error);
    expect(Math.abs(beside)).toBeLessThan(error);
  },
);
