import { describe, expect, test } from '@jest/globals';
import { transform, turnAndScale } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { type Star } from './findStars';
import { matchStars } from './matchStars';

const [W, H] = [1200, 800];

/** A made-up sky: bright and faint stars anywhere on a picture, brightest first. */
function sky(count: number, seed = 5): Star[] {
  const random = randomSource(seed);
  return Array.from({ length: count }, () => ({
    x: W * random(),
    y: H * random(),
    flux: random() ** -0.8,
    width: 2.4,
  })).sort((a, b) => b.flux - a.flux);
}

/** The same sky turned by degrees about the middle and shifted, its places off by normal errors. */
function turnedSky(stars: readonly Star[], degrees: number, shift: [number, number], error = 0): Star[] {
  const normal = normalSource(randomSource(77));
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return stars.map((star) => {
    const [x, y] = [star.x - W / 2, star.y - H / 2];
    return {
      ...star,
      x: W / 2 + c * x - s * y + shift[0] + error * normal(),
      y: H / 2 + s * x + c * y + shift[1] + error * normal(),
    };
  });
}

describe('a star field is laid over another', () => {
  test.each([0.5, 12, 95, 178])('turned by %d°', (degrees) => {
    const stars = sky(60);
    const found = matchStars(stars, turnedSky(stars, degrees, [14, -9]));
    if (!found) throw new Error('not matched');
    const { turnDegrees, scale } = turnAndScale(found.matrix, W / 2, H / 2);
    expect(Math.abs(Math.abs(turnDegrees) - degrees)).toBeLessThan(0.001);
    expect(scale).toBeCloseTo(1, 5);
    const [u, v] = transform(found.matrix, W / 2, H / 2);
    expect(u).toBeCloseTo(W / 2 + 14, 2);
    expect(v).toBeCloseTo(H / 2 - 9, 2);
    expect(found.residual).toBeLessThan(0.01);
  });

  test('with errors of a fifth of a pixel, the map is finer than one star’s place', () => {
    const stars = sky(80);
    const found = matchStars(stars, turnedSky(stars, 7, [3, 5], 0.2));
    if (!found) throw new Error('not matched');
    // of two coordinates
    expect(found.residual).toBeGreaterThan(0.15);
    expect(found.residual).toBeLessThan(0.4);
    const exact = turnedSky(stars, 7, [3, 5]);
    const off = stars.map((s, i) => {
      const [u, v] = transform(found.matrix, s.x, s.y);
      return Math.hypot(u - exact[i].x, v - exact[i].y);
    });
    expect(off.reduce((a, b) => a + b, 0) / off.length).toBeLessThan(0.15);
  });

  test('stars that only one of the two shows do not matter', () => {
    const stars = sky(70);
    const seen = turnedSky(stars, 20, [0, 0]).filter((_, i) => i % 5 !== 0);
    const strangers = sky(8, 99);
    const found = matchStars(stars, [...seen.slice(0, 20), ...strangers, ...seen.slice(20)]);
    if (!found) throw new Error('not matched');
    expect(Math.abs(turnAndScale(found.matrix, 600, 400).turnDegrees)).toBeCloseTo(20, 2);
    expect(found.pairs.length).toBeGreaterThan(45);
  });

  test('two different skies are not matched, nor are few stars', () => {
    expect(matchStars(sky(60, 1), sky(60, 2))).toBeUndefined();
    const few = sky(5);
    expect(matchStars(few, few)).toBeUndefined();
  });
});
