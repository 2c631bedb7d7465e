import { describe, expect, test } from '@jest/globals';
import { converter, differenceCiede2000 } from 'culori';
import { deltaE2000, type Lab, labOf } from './deltaE';
import { linearOfOklab, oklabOf } from './oklab';

// Sharma, Wu & Dalal (2005), table 1: the pairs that take every branch of the formula (L a b, L a b, ΔE00)
const SHARMA: readonly (readonly [Lab, Lab, number])[] = [
  [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
  [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615],
  [[50, 2.8361, -74.02], [50, 0, -82.7485], 3.4412],
  [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1],
  [[50, -1.1848, -84.8006], [50, 0, -82.7485], 1],
  [[50, -0.9009, -85.5211], [50, 0, -82.7485], 1],
  [[50, 0, 0], [50, -1, 2], 2.3669],
  [[50, -1, 2], [50, 0, 0], 2.3669],
  [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
  [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
  [[50, -0.001, 2.49], [50, 0.0009, -2.49], 4.8045],
  [[50, -0.001, 2.49], [50, 0.0011, -2.49], 4.7461],
  [[50, 2.5, 0], [50, 0, -2.5], 4.3065],
  [[50, 2.5, 0], [73, 25, -18], 27.1492],
  [[50, 2.5, 0], [61, -5, 29], 22.8977],
  [[50, 2.5, 0], [56, -27, -3], 31.903],
  [[50, 2.5, 0], [58, 24, 15], 19.4535],
  [[50, 2.5, 0], [50, 3.1736, 0.5854], 1],
  [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
  [[63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.263],
  [[61.2901, 3.7196, -5.3901], [61.4292, 2.248, -4.962], 1.8731],
  [[35.0831, -44.1164, 3.7933], [35.0232, -40.0716, 1.5901], 1.8645],
  [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
  [[90.8027, -2.0831, 1.441], [91.1528, -1.6435, 0.0447], 1.4441],
  [[6.7747, -0.2908, -2.4247], [5.8714, -0.0985, -2.2286], 0.6377],
  [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
];

describe('CIEDE2000', () => {
  test.each(SHARMA)('%j to %j is %d (Sharma, Wu & Dalal 2005)', (a, b, expected) =>
    expect(deltaE2000(a, b)).toBeCloseTo(expected, 4),
  );

  test('agrees with an independent library on colours of sRGB (culori)', () => {
    const difference = differenceCiede2000();
    const lab = converter('lab65');
    const colours = [0.02, 0.2, 0.5, 0.9].flatMap((r) =>
      [0.05, 0.4, 0.8].flatMap((g) => [0, 0.3, 1].map((b) => [r, g, b] as const)),
    );
    colours.forEach(([r, g, b], i) => {
      const own = labOf(r, g, b);
      const theirs = lab({ mode: 'lrgb', r, g, b });
      expect(
        Math.abs(own[0] - theirs.l) + Math.abs(own[1] - theirs.a) + Math.abs(own[2] - theirs.b),
      ).toBeLessThan(0.02);
      const [r2, g2, b2] = colours[(i + 5) % colours.length];
      const expected = difference({ mode: 'lrgb', r, g, b }, { mode: 'lrgb', r: r2, g: g2, b: b2 });
      expect(Math.abs(deltaE2000(own, labOf(r2, g2, b2)) - expected)).toBeLessThan(0.02);
    });
  });
});

describe('Oklab', () => {
  test('agrees with an independent library and comes back (culori)', () => {
    const oklab = converter('oklab');
    for (const [r, g, b] of [
      [0.1, 0.5, 0.9],
      [0.8, 0.02, 0.3],
      [1, 1, 1],
      [0, 0, 0],
    ]) {
      const own = oklabOf(r, g, b);
      const theirs = oklab({ mode: 'lrgb', r, g, b });
      [theirs.l, theirs.a, theirs.b].forEach((v, i) => expect(own[i]).toBeCloseTo(v, 4));
      linearOfOklab(...own).forEach((v, i) => expect(v).toBeCloseTo([r, g, b][i], 5));
    }
  });
});
