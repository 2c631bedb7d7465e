import { type PointPair } from '../features/matchFeatures';
import { robustHomography, throughPairs } from '../features/robustHomography';
import { type Matrix3, transform } from '../../raster/matrix3';
import { type Star } from './findStars';
import { length2 } from '../../raster/length';

/** A star field laid over another. */
export interface StarFit {
  /** first picture's pixel → second picture's */
  readonly matrix: Matrix3;
  readonly pairs: readonly PointPair[];
  /** root mean square distance of the pairs, pixels */
  readonly residual: number;
}

const BRIGHTEST = 34;
/** triangles are alike when both ratios of their sides agree so well */
const ALIKE = 0.004;
/** thin triangles say little */
const ROUND = 0.25;
/** a star is found again within so many pixels */
const NEAR = 3;
const SPREAD = 0.15;

interface Triangle {
  /** middle and short side over the long one */
  readonly middle: number;
  readonly short: number;
  /** stars opposite the long, the middle and the short side */
  readonly corners: readonly [number, number, number];
}

/**
 * Lays one star field over another however it is turned: triangles of alike shape vote for pairs of stars (Groth 1986), the voted pairs give
 * a map robustly, and all stars then refine it.
 * @returns undefined when fewer than eight stars agree
 */
export function matchStars(a: readonly Star[], b: readonly Star[]): StarFit | undefined {
  const [p, q] = [triangles(a), triangles(b)];
  const votes = new Map<number, number>();
  const buckets = new Map<number, Triangle[]>();
  const key = (middle: number, short: number): number =>
    Math.floor(middle / ALIKE) * 1000 + Math.floor(short / ALIKE);
  for (const t of q) {
    const k = key(t.middle, t.short);
    const list = buckets.get(k);
    if (list) list.push(t);
    else buckets.set(k, [t]);
  }
  for (const t of p)
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (const u of buckets.get(key(t.middle + i * ALIKE, t.short + j * ALIKE)) ?? []) {
          if (length2(t.middle - u.middle, t.short - u.short) > ALIKE) continue;
          for (let c = 0; c < 3; c++) {
            const pair = t.corners[c] * 1000 + u.corners[c];
            votes.set(pair, (votes.get(pair) ?? 0) + 1);
          }
        }
  const voted = [...votes].sort((x, y) => y[1] - x[1]).slice(0, 2 * BRIGHTEST);
  const pairs = voted.map(([pair]) => pairOf(a[Math.floor(pair / 1000)], b[pair % 1000]));
  const first = robustHomography(pairs, 1);
  if (!first) return undefined;
  let matrix = first.matrix;
  let found: PointPair[] = [];
  for (let pass = 0; pass < 4; pass++) {
    found = nearestStars(a, b, matrix, pass === 0 ? NEAR : NEAR / 2);
    if (found.length < 8) return undefined;
    matrix = throughPairs(found) ?? matrix;
  }
  const square = found.reduce((s, f) => {
    const [u, v] = transform(matrix, f.x, f.y);
    return s + (u - f.u) ** 2 + (v - f.v) ** 2;
  }, 0);
  return { matrix, pairs: found, residual: Math.sqrt(square / found.length) };
}

const pairOf = (s: Star, t: Star): PointPair => ({ x: s.x, y: s.y, u: t.x, v: t.y, spread: SPREAD });

function triangles(stars: readonly Star[]): Triangle[] {
  const n = Math.min(BRIGHTEST, stars.length);
  const side = (i: number, j: number): number => length2(stars[i].x - stars[j].x, stars[i].y - stars[j].y);
  const out: Triangle[] = [];
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++)
      for (let k = j + 1; k < n; k++) {
        const sides = [
          { length: side(j, k), opposite: i },
          { length: side(i, k), opposite: j },
          { length: side(i, j), opposite: k },
        ].sort((x, y) => y.length - x.length);
        const [long, middle, short] = sides.map((s) => s.length);
        if (short < ROUND * long || long < 30) continue;
        out.push({
          middle: middle / long,
          short: short / long,
          corners: [sides[0].opposite, sides[1].opposite, sides[2].opposite],
        });
      }
  return out;
}

/** Stars that fall near each other under a map, each the other's nearest. */
function nearestStars(a: readonly Star[], b: readonly Star[], matrix: Matrix3, near: number): PointPair[] {
  const taken = new Map<number, { pair: PointPair; d: number }>();
  for (const s of a) {
    const [u, v] = transform(matrix, s.x, s.y);
    let [best, least] = [-1, near];
    b.forEach((t, j) => {
      const d = length2(t.x - u, t.y - v);
      if (d < least) [best, least] = [j, d];
    });
    const held = taken.get(best);
    if (best >= 0 && (!held || least < held.d)) taken.set(best, { pair: pairOf(s, b[best]), d: least });
  }
  return [...taken.values()].map((t) => t.pair);
}
