import { describe, expect, test } from '@jest/globals';
import { Matrix, SVD } from 'ml-matrix';
import { type Matrix3, transform } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { type PointPair } from './matchFeatures';
import { robustHomography, throughPairs } from './robustHomography';

const [W, H] = [900, 600];
const TRUE_MAP: Matrix3 = [0.98, -0.06, 41, 0.05, 1.01, -23, 4e-5, -2e-5, 1];

/** Matched points of a map, off by normal errors, the last share of them anywhere. */
function matched(count: number, error: number, wrong = 0, seed = 3): PointPair[] {
  const random = randomSource(seed);
  const normal = normalSource(randomSource(seed + 1));
  return Array.from({ length: count }, (_, i) => {
    const [x, y] = [W * random(), H * random()];
    const [u, v] = i >= count * (1 - wrong) ? [W * random(), H * random()] : transform(TRUE_MAP, x, y);
    return { x, y, u: u + error * normal(), v: v + error * normal(), spread: Math.max(0.05, error) };
  });
}

/** How far two maps lead apart at most over a frame, pixels. */
function apart(a: Matrix3, b: Matrix3): number {
  let worst = 0;
  for (let y = 0; y <= H; y += 60)
    for (let x = 0; x <= W; x += 60) {
      const [p, q] = [transform(a, x, y), transform(b, x, y)];
      worst = Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1]));
    }
  return worst;
}

/** The direct linear transform by its smallest singular vector, on coordinates scaled to the frame (Hartley & Zisserman 2004, algorithm 4.1). */
function bySingularVector(pairs: readonly PointPair[]): Matrix3 {
  const s = 1 / W;
  const rows = pairs.flatMap(({ x, y, u, v }) => {
    const [a, b, c, d] = [x * s, y * s, u * s, v * s];
    return [
      [a, b, 1, 0, 0, 0, -c * a, -c * b, -c],
      [0, 0, 0, a, b, 1, -d * a, -d * b, -d],
    ];
  });
  const { rightSingularVectors } = new SVD(new Matrix(rows), { autoTranspose: true });
  const h = rightSingularVectors.getColumn(8).map((v) => v / rightSingularVectors.get(8, 8));
  return [h[0], h[1], h[2] / s, h[3], h[4], h[5] / s, h[6] * s, h[7] * s, 1];
}

describe('a homography through matched points', () => {
  test('is exact for exact points, four of them and many', () => {
    for (const count of [4, 40]) {
      const found = throughPairs(matched(count, 0));
      expect(found && apart(found, TRUE_MAP)).toBeLessThan(1e-6);
    }
  });

  test('agrees with the singular vector of a general library where points are off a little', () => {
    const pairs = matched(80, 0.3);
    const found = throughPairs(pairs);
    expect(found && apart(found, bySingularVector(pairs))).toBeLessThan(0.15);
  });

  test('is more exact the more points there are: by the root of their number', () => {
    const errorOf = (count: number): number => {
      const runs = [11, 22, 33, 44, 55].map((seed) => {
        const found = throughPairs(matched(count, 0.5, 0, seed));
        return found ? apart(found, TRUE_MAP) : Infinity;
      });
      return runs.reduce((s, v) => s + v / runs.length, 0);
    };
    const ratio = errorOf(40) / errorOf(640);
    expect(ratio).toBeGreaterThan(2.2);
    expect(ratio).toBeLessThan(7.5);
  });

  test('points of a larger error count less', () => {
    const good = matched(40, 0.1);
    const bad = matched(40, 4, 0, 8);
    const weighed = throughPairs([...good, ...bad]);
    const alike = throughPairs([...good, ...bad].map((p) => ({ ...p, spread: 1 })));
    expect(weighed && alike && apart(weighed, TRUE_MAP) < 0.3 * apart(alike, TRUE_MAP)).toBe(true);
  });
});

describe('among wrong pairs', () => {
  test.each([0.2, 0.5, 0.65])('%d of them wrong, the right ones are found', (wrong) => {
    const pairs = matched(300, 0.2, wrong);
    const found = robustHomography(pairs, 0.5);
    if (!found) throw new Error('none found');
    expect(apart(found.matrix, TRUE_MAP)).toBeLessThan(0.5);
    const right = pairs.slice(0, Math.ceil(300 * (1 - wrong)));
    expect(found.inliers.filter((p) => right.includes(p)).length).toBeGreaterThan(0.97 * right.length);
    // a wrong pair may lie right by chance, few do
    expect(found.inliers.filter((p) => !right.includes(p)).length).toBeLessThan(4);
  });

  test('the same pairs give the same map every time', () => {
    const pairs = matched(120, 0.3, 0.4);
    expect(robustHomography(pairs, 0.5)).toEqual(robustHomography(pairs, 0.5));
  });

  test('fewer than eight that agree are none', () => {
    expect(robustHomography(matched(7, 0), 0.5)).toBeUndefined();
    expect(robustHomography(matched(60, 0.2, 0.95), 0.2)).toBeUndefined();
  });
});
