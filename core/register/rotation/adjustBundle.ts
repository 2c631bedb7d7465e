import { Matrix, solve } from 'ml-matrix';
import { type Matrix3, multiply, transposed } from '../../raster/matrix3';
import { type PointPair } from '../features/matchFeatures';
import { pixelOf, rayOf, type SharedLens, turnAbout, turned } from './cameraModel';
import { seenSlopes, SLOPES } from './seenSlopes';
import { length2 } from '../../raster/length';

/** Matched points of two frames, by index. */
export interface Link {
  readonly a: number;
  readonly b: number;
  readonly pairs: readonly PointPair[];
}

/** Cameras that turned about one point. */
export interface Bundle {
  readonly lens: SharedLens;
  /** [frame] world → camera */
  readonly rotations: readonly Matrix3[];
  /** mean robust cost a residual, in units of the points' own errors */
  readonly cost: number;
}

const MOST_STEPS = 40;

/**
 * Bundle adjustment of rotations and one focal length (Brown & Lowe 2007) by Levenberg–Marquardt with a Huber cost; the first linked
 * frame stays where it is.
 * @param free `distortion` also solves the radial term
 * @param gate residual in standard errors from which a pair counts linearly
 */
export function adjustBundle(
  start: Pick<Bundle, 'lens' | 'rotations'>,
  links: readonly Link[],
  free: { readonly distortion: boolean },
  gate = 3,
): Bundle {
  const frames = start.rotations.length;
  const held = links.length > 0 ? links[0].a : 0;
  const shared = free.distortion ? 2 : 1;
  const size = 3 * frames + shared;
  let { lens, rotations } = start;
  let damping = 1e-3;
  let current = equations(lens, rotations, links, shared, gate, size);
  for (let step = 0; step < MOST_STEPS; step++) {
    const A = current.A.clone();
    for (let i = 0; i < size; i++) {
      const own = A.get(i, i);
      A.set(i, i, own * (1 + damping) + (own === 0 || (i >= 3 * held && i < 3 * held + 3) ? 1e12 : 0));
    }
    const p = solve(A, current.b).to1DArray();
    const nextLens: SharedLens = {
      ...lens,
      focalPx: lens.focalPx * Math.exp(Math.max(-0.3, Math.min(0.3, p[3 * frames]))),
      k1: shared > 1 ? lens.k1 + p[3 * frames + 1] : lens.k1,
    };
    const nextRotations = rotations.map((R, i) =>
      multiply(turnAbout(p[3 * i], p[3 * i + 1], p[3 * i + 2]), R),
    );
    const next = equations(nextLens, nextRotations, links, shared, gate, size);
    if (next.cost < current.cost) {
      const settled = current.cost - next.cost < 1e-7 * current.cost;
      [lens, rotations, current] = [nextLens, nextRotations, next];
      damping = Math.max(1e-9, damping / 6);
      if (settled) break;
    } else {
      damping *= 8;
      if (damping > 1e8) break;
    }
  }
  return { lens, rotations, cost: current.cost / Math.max(1, current.count) };
}

interface Equations {
  readonly A: Matrix;
  readonly b: Matrix;
  readonly cost: number;
  readonly count: number;
}

function equations(
  lens: SharedLens,
  rotations: readonly Matrix3[],
  links: readonly Link[],
  shared: number,
  gate: number,
  size: number,
): Equations {
  const A = Matrix.zeros(size, size);
  const b = Matrix.zeros(size, 1);
  let [cost, count] = [0, 0];
  const at = size - shared;
  const own = 6 + shared;
  const slopes = new Float64Array(SLOPES);
  // of one link, before they are laid into the whole
  const [block, side] = [new Float64Array(own * own), new Float64Array(own)];
  for (const { a, b: other, pairs } of links) {
    const turn = multiply(rotations[other], transposed(rotations[a]));
    block.fill(0);
    side.fill(0);
    for (const p of pairs) {
      if (!seenSlopes(lens, turn, p.x, p.y, slopes)) continue;
      const [eu, ev] = [p.u - slopes[0], p.v - slopes[1]];
      const off = length2(eu, ev) / p.spread;
      const weight = (off <= gate ? 1 : gate / off) / (p.spread * p.spread);
      cost += off <= gate ? off * off : 2 * gate * off - gate * gate;
      count++;
      for (let i = 0; i < own; i++) {
        const [wu, wv] = [weight * slopes[2 + i], weight * slopes[10 + i]];
        side[i] += wu * eu + wv * ev;
        for (let j = i; j < own; j++) block[i * own + j] += wu * slopes[2 + j] + wv * slopes[10 + j];
      }
    }
    const place = (i: number): number => (i < 3 ? 3 * a + i : i < 6 ? 3 * other + i - 3 : at + i - 6);
    for (let i = 0; i < own; i++) {
      b.set(place(i), 0, b.get(place(i), 0) + side[i]);
      for (let j = 0; j < own; j++) {
        const value = block[Math.min(i, j) * own + Math.max(i, j)];
        A.set(place(i), place(j), A.get(place(i), place(j)) + value);
      }
    }
  }
  return { A, b, cost, count };
}

/** Where a pixel of one frame is seen in another that is turned by M against it. */
function project(lens: SharedLens, M: Matrix3, x: number, y: number): [number, number] | undefined {
  return pixelOf(lens, ...turned(M, rayOf(lens, x, y)));
}

/** Distances of a link's pairs after the adjustment, pixels. */
export function linkResiduals({ lens, rotations }: Pick<Bundle, 'lens' | 'rotations'>, link: Link): number[] {
  const M = multiply(rotations[link.b], transposed(rotations[link.a]));
  return link.pairs.map((p) => {
    const seen = project(lens, M, p.x, p.y);
    return seen ? length2(p.u - seen[0], p.v - seen[1]) : Infinity;
  });
}
