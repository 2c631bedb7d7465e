import { describe, expect, test } from '@jest/globals';
import { type Matrix3, multiply, transposed } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { type PointPair } from '../features/matchFeatures';
import { adjustBundle, type Link, linkResiduals } from './adjustBundle';
import { pixelOf, rayOf, type SharedLens, turnAbout, turned } from './cameraModel';

const LENS: SharedLens = { focalPx: 1200, k1: -0.04, width: 1000, height: 800 };
const TURNS = [-24, -8, 9, 25].map((yaw, i): Matrix3 => {
  const y = (yaw * Math.PI) / 180;
  return multiply(turnAbout(0.01 * (i - 1), 0, 0.008 * (2 - i)), turnAbout(0, -y, 0));
});

/** Points that neighbours both see, off by normal errors; the last share of them is displaced. */
function linksOf(lens: SharedLens, error: number, displaced = 0): Link[] {
  const random = randomSource(17);
  const normal = normalSource(randomSource(18));
  return [0, 1, 2].map((a) => {
    const M = multiply(TURNS[a + 1], transposed(TURNS[a]));
    const pairs: PointPair[] = [];
    while (pairs.length < 150) {
      const [x, y] = [lens.width * random(), lens.height * random()];
      const seen = pixelOf(lens, ...turned(M, rayOf(lens, x, y)));
      if (!seen || seen[0] < 0 || seen[1] < 0 || seen[0] > lens.width || seen[1] > lens.height) continue;
      const off = pairs.length >= 150 * (1 - displaced) ? 25 : 0;
      pairs.push({ x, y, u: seen[0] + off + error * normal(), v: seen[1] + error * normal(), spread: 0.15 });
    }
    return { a, b: a + 1, pairs };
  });
}

/** Degrees by which the turns between neighbours are off at most. */
const worstTurn = (rotations: readonly Matrix3[]): number =>
  Math.max(
    ...[0, 1, 2].map((a) => {
      const found = multiply(rotations[a + 1], transposed(rotations[a]));
      const truth = multiply(TURNS[a + 1], transposed(TURNS[a]));
      const d = multiply(found, transposed(truth));
      return (Math.acos(Math.min(1, (d[0] + d[4] + d[8] - 1) / 2)) * 180) / Math.PI;
    }),
  );

/** Where the search begins: a focal length and turns that are off. */
const rough = (lens: SharedLens) => ({
  lens: { ...lens, focalPx: 1.12 * lens.focalPx, k1: 0 },
  rotations: TURNS.map((R, i) => multiply(turnAbout(0.03 * (i % 2), 0.04 * (i - 1), -0.02), R)),
});

describe('the adjustment of all frames', () => {
  test('finds turns, focal length and distortion exactly from exact points', () => {
    const bundle = adjustBundle(rough(LENS), linksOf(LENS, 0), { distortion: true });
    expect(bundle.lens.focalPx / LENS.focalPx).toBeCloseTo(1, 4);
    expect(bundle.lens.k1).toBeCloseTo(LENS.k1, 4);
    expect(worstTurn(bundle.rotations)).toBeLessThan(0.001);
    expect(bundle.cost).toBeLessThan(1e-4);
  });

  test('with errors of 0.15 px, the mean squared residual is what two coordinates in standard errors give', () => {
    const plain = { ...LENS, k1: 0 };
    const links = linksOf(plain, 0.15);
    const bundle = adjustBundle(rough(plain), links, { distortion: false });
    // χ² of two degrees of freedom has mean 2; a Huber cost beyond three deviations hardly changes it
    expect(bundle.cost).toBeGreaterThan(1.7);
    expect(bundle.cost).toBeLessThan(2.2);
    expect(Math.abs(bundle.lens.focalPx / plain.focalPx - 1)).toBeLessThan(0.001);
    expect(worstTurn(bundle.rotations)).toBeLessThan(0.01);
    const off = links.flatMap((link) => linkResiduals(bundle, link)).sort((a, b) => a - b);
    // the median of a Rayleigh distribution is 1.1774 σ
    expect(off[off.length >> 1]).toBeCloseTo(1.1774 * 0.15, 1);
  });

  test('the first linked frame stays where it was', () => {
    const start = rough(LENS);
    const bundle = adjustBundle(start, linksOf(LENS, 0), { distortion: true });
    bundle.rotations[0].forEach((v, i) => expect(v).toBeCloseTo(start.rotations[0][i], 6));
  });

  test('one pair in eight displaced by 25 px moves the focal length by less than half a percent', () => {
    const plain = { ...LENS, k1: 0 };
    const bundle = adjustBundle(rough(plain), linksOf(plain, 0.1, 0.125), { distortion: false });
    expect(Math.abs(bundle.lens.focalPx / plain.focalPx - 1)).toBeLessThan(0.005);
    expect(worstTurn(bundle.rotations)).toBeLessThan(0.1);
  });

  test('distortion stays nought unless it is asked for', () => {
    const bundle = adjustBundle(rough(LENS), linksOf(LENS, 0), { distortion: false });
    expect(bundle.lens.k1).toBe(0);
    // and what it would explain is left in the residual
    expect(bundle.cost).toBeGreaterThan(10);
  });
});
