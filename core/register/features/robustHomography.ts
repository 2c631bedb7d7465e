import { Matrix, solve } from 'ml-matrix';
import { invert, type Matrix3, multiply, normalise, transform } from '../../raster/matrix3';
import { randomSource } from '../../raster/random';
import { type PointPair } from './matchFeatures';
import { length2 } from '../../raster/length';

/** A homography and the pairs that obey it. */
export interface RobustFit {
  /** (x, y) → (u, v) */
  readonly matrix: Matrix3;
  readonly inliers: readonly PointPair[];
}

/** pairs farther off than this many of their own standard errors are outliers (χ² of two at 99 %) */
const GATE = 3;
const MOST_TRIES = 1500;

/**
 * Homography through matched points by MSAC (Torr & Zisserman 2000) on four-point samples, then least squares on normalised coordinates
 * (Hartley & Zisserman 2004, ch. 4), re-weighted twice.
 * @param slack error in pixels that all pairs may have besides their own, for parallax and distortion
 * @returns undefined with fewer than eight pairs that agree
 */
export function robustHomography(
  pairs: readonly PointPair[],
  slack: number,
  seed = 1,
): RobustFit | undefined {
  if (pairs.length < 8) return undefined;
  const random = randomSource(seed);
  const gates = pairs.map((p) => GATE * GATE * (p.spread * p.spread + slack * slack));
  let best: Matrix3 | undefined;
  let least = Infinity;
  let tries = MOST_TRIES;
  for (let t = 0; t < tries; t++) {
    const sample = Array.from({ length: 4 }, () => pairs[Math.floor(random() * pairs.length)]);
    if (new Set(sample).size < 4) continue;
    const matrix = throughPairs(sample);
    if (!matrix || !orderly(matrix, sample)) continue;
    let [cost, inside] = [0, 0];
    for (let i = 0; i < pairs.length && cost < least; i++) {
      const [u, v] = transform(matrix, pairs[i].x, pairs[i].y);
      const d = (u - pairs[i].u) ** 2 + (v - pairs[i].v) ** 2;
      if (d < gates[i]) inside++;
      cost += Math.min(1, d / gates[i]);
    }
    if (cost >= least) continue;
    least = cost;
    best = matrix;
    const share = inside / pairs.length;
    // enough tries that one sample is clean with 99.9 %
    tries = Math.min(MOST_TRIES, Math.max(60, Math.log(0.001) / Math.log(1 - share ** 4 + 1e-9)));
  }
  let inliers: PointPair[] = [];
  for (let pass = 0; pass < 4 && best; pass++) {
    const matrix: Matrix3 = best;
    inliers = pairs.filter((p, i) => {
      const [u, v] = transform(matrix, p.x, p.y);
      return (u - p.u) ** 2 + (v - p.v) ** 2 < gates[i];
    });
    if (inliers.length < 8) return undefined;
    best = throughPairs(inliers) ?? best;
  }
  return best && { matrix: best, inliers };
}

/** A sample must keep its sense of turn, and nothing may lie behind the camera. */
function orderly(m: Matrix3, sample: readonly PointPair[]): boolean {
  return m.every(Number.isFinite) && sample.every((p) => m[6] * p.x + m[7] * p.y + m[8] > 0.2);
}

/** Least squares through four pairs and more, each weighted by its spread; undefined when they do not determine a map. */
export function throughPairs(pairs: readonly PointPair[]): Matrix3 | undefined {
  const from = centred(pairs.map((p) => [p.x, p.y]));
  const to = centred(pairs.map((p) => [p.u, p.v]));
  const A = Matrix.zeros(8, 8);
  const b = Matrix.zeros(8, 1);
  const add = (row: readonly number[], value: number, weight: number): void => {
    for (let i = 0; i < 8; i++) {
      if (row[i] === 0) continue;
      b.set(i, 0, b.get(i, 0) + weight * row[i] * value);
      for (let j = 0; j < 8; j++) A.set(i, j, A.get(i, j) + weight * row[i] * row[j]);
    }
  };
  for (const p of pairs) {
    const [x, y] = transform(from, p.x, p.y);
    const [u, v] = transform(to, p.u, p.v);
    const w = 1 / (p.spread * p.spread);
    add([x, y, 1, 0, 0, 0, -u * x, -u * y], u, w);
    add([0, 0, 0, x, y, 1, -v * x, -v * y], v, w);
  }
  try {
    const h = solve(A, b).to1DArray();
    if (!h.every(Number.isFinite)) return undefined;
    const inner: Matrix3 = [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1];
    return normalise(multiply(invert(to), multiply(inner, from)));
  } catch {
    return undefined;
  }
}

/** Moves points to their mean and scales them to a mean distance of √2 (Hartley 1997). */
function centred(points: readonly (readonly [number, number])[]): Matrix3 {
  const n = points.length;
  const cx = points.reduce((s, p) => s + p[0], 0) / n;
  const cy = points.reduce((s, p) => s + p[1], 0) / n;
  const far = points.reduce((s, p) => s + length2(p[0] - cx, p[1] - cy), 0) / n;
  const k = far > 0 ? Math.SQRT2 / far : 1;
  return [k, 0, -k * cx, 0, k, -k * cy, 0, 0, 1];
}
