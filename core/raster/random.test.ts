import { expect, test } from '@jest/globals';
import { normalQuantile, normalSource, randomSource } from './random';

// moments of the standard normal distribution: 0, 1, 0, 3 (any statistics handbook)
test('normal numbers have the moments of the normal distribution, and no neighbour in them', () => {
  const next = normalSource(randomSource(8));
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
});

// quantiles of the standard normal distribution: NIST/SEMATECH e-handbook of statistical methods, table 1.3.6.7.1, and Wichura's own checks
test.each([
  [0.5, 0, 12],
  [0.975, 1.959963984540054, 12],
  [0.9, 1.2815515655446004, 12],
  [0.25, -0.6744897501960817, 12],
  [0.001, -3.090232306167813, 12],
  [1e-20, -9.262340089798408, 10],
])('below the normal quantile of %d lies that share', (share, z, digits) =>
  expect(normalQuantile(share)).toBeCloseTo(z, digits),
);
