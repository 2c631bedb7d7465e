import { DESCRIPTOR, type Features } from './featurePoints';

/** The same thing seen in two pictures. */
export interface PointPair {
  readonly x: number;
  readonly y: number;
  readonly u: number;
  readonly v: number;
  /** standard error of the difference, pixels */
  readonly spread: number;
}

/** the nearest must be this much nearer than the next (Lowe 2004) */
const RATIO = 0.82;

interface Nearest {
  readonly index: Int32Array;
  /** cosine to the nearest and to the next */
  readonly first: Float32Array;
  readonly second: Float32Array;
}

/** Pairs of points that are each other's nearest and clearly nearer than the next (Lowe 2004). */
export function matchFeatures(a: Features, b: Features): PointPair[] {
  const there: Nearest = nearest(a.count);
  const back: Nearest = nearest(b.count);
  const [A, B] = [a.descriptors, b.descriptors];
  for (let i = 0; i < a.count; i++) {
    const p = i * DESCRIPTOR;
    for (let j = 0; j < b.count; j++) {
      const q = j * DESCRIPTOR;
      let [s0, s1, s2, s3] = [0, 0, 0, 0];
      for (let k = 0; k < DESCRIPTOR; k += 4) {
        s0 += A[p + k] * B[q + k];
        s1 += A[p + k + 1] * B[q + k + 1];
        s2 += A[p + k + 2] * B[q + k + 2];
        s3 += A[p + k + 3] * B[q + k + 3];
      }
      const s = s0 + s1 + s2 + s3;
      see(there, i, j, s);
      see(back, j, i, s);
    }
  }
  const pairs: PointPair[] = [];
  for (let i = 0; i < a.count; i++) {
    const j = there.index[i];
    if (j < 0 || back.index[j] !== i) continue;
    if (1 - there.first[i] > RATIO * RATIO * (1 - there.second[i])) continue;
    pairs.push({ x: a.x[i], y: a.y[i], u: b.x[j], v: b.y[j], spread: Math.hypot(a.spread[i], b.spread[j]) });
  }
  return pairs;
}

function nearest(n: number): Nearest {
  return {
    index: new Int32Array(n).fill(-1),
    first: new Float32Array(n).fill(-1),
    second: new Float32Array(n).fill(-1),
  };
}

function see({ index, first, second }: Nearest, i: number, j: number, s: number): void {
  if (s > first[i]) {
    second[i] = first[i];
    first[i] = s;
    index[i] = j;
  } else if (s > second[i]) second[i] = s;
}
