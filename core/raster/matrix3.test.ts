import { describe, expect, test } from '@jest/globals';
import {
  fromLevel,
  IDENTITY,
  invert,
  type Matrix3,
  multiply,
  normalise,
  toLevel,
  transform,
  translation,
  turnAndScale,
} from './matrix3';

const close = (a: Matrix3, b: Matrix3, digits = 9): void =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i], digits));

const tilted: Matrix3 = [1.02, 0.03, 14, -0.02, 0.98, -9, 2e-5, -1e-5, 1];

describe('projective matrices', () => {
  test('a matrix times its inverse is the identity', () =>
    close(normalise(multiply(tilted, invert(tilted))), IDENTITY));

  test('a product transforms as one after the other', () => {
    const both = multiply(tilted, translation(5, -7));
    const [x, y] = transform(translation(5, -7), 100, 200);
    const [u, v] = transform(tilted, x, y);
    const [p, q] = transform(both, 100, 200);
    expect(p).toBeCloseTo(u, 9);
    expect(q).toBeCloseTo(v, 9);
  });

  test('a map seen at a level and back is the same map', () =>
    close(fromLevel(toLevel(tilted, 3), 3), tilted, 8));

  test('a level holds the same points: centre k of a half lies at 2k + ½ of the whole', () => {
    const [u, v] = transform(toLevel(tilted, 1), 40, 60);
    const [p, q] = transform(tilted, 80.5, 120.5);
    expect(u * 2 + 0.5).toBeCloseTo(p, 8);
    expect(v * 2 + 0.5).toBeCloseTo(q, 8);
  });

  test.each([
    [0.7, 1.01],
    [-12, 0.5],
  ])('turn of %f° and scale %f are read back anywhere on a similarity', (degrees, scale) => {
    const a = (degrees * Math.PI) / 180;
    const c = scale * Math.cos(a);
    const s = scale * Math.sin(a);
    const found = turnAndScale([c, -s, 8, s, c, 3, 0, 0, 1], 321, 45);
    expect(found.turnDegrees).toBeCloseTo(degrees, 9);
    expect(found.scale).toBeCloseTo(scale, 9);
  });
});
