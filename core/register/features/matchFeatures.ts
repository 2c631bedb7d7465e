import { type Kernels, kernels } from '../../kernels/kernels';
import { DESCRIPTOR, DESCRIPTOR_LENGTH } from './describe';
import { type Features } from './featurePoints';
import { length2 } from '../../raster/length';

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

/** Pairs of points that are each other's nearest and clearly nearer than the next (Lowe 2004). */
export function matchFeatures(a: Features, b: Features): PointPair[] {
  return mutualNearest(a, b, RATIO).map(([i, j]) => ({
    ...{ x: a.x[i], y: a.y[i], u: b.x[j], v: b.y[j] },
    spread: length2(a.spread[i], b.spread[j]),
  }));
}

/** Points by their descriptors alone. */
export type Described = Pick<Features, 'count' | 'descriptors'>;

/** Places of points that are each other's nearest, and nearer than the next by a ratio. */
export function mutualNearest(a: Described, b: Described, ratio: number): [number, number][] {
  const k = kernels();
  const [there, back] = k
    ? compiledNearest(k, a, b, ratio)
    : [plainNearest(a, b, ratio), plainNearest(b, a, ratio)];
  const pairs: [number, number][] = [];
  for (let i = 0; i < a.count; i++) if (there[i] >= 0 && back[there[i]] === i) pairs.push([i, there[i]]);
  return pairs;
}

/** {@link plainNearest} both ways by the compiled kernel. */
export function compiledNearest(
  k: Kernels,
  a: Described,
  b: Described,
  ratio = RATIO,
): [Int32Array, Int32Array] {
  return k.borrow(() => {
    const put = ({ descriptors }: Described): number => {
      const at = k.take(descriptors.byteLength);
      k.words(at, descriptors.length).set(descriptors);
      return at;
    };
    const [p, q, there, back] = [put(a), put(b), k.take(a.count * 12), k.take(b.count * 12)];
    k.nearestTwo(p, a.count, q, b.count, there, back);
    const read = (at: number, count: number): Int32Array => {
      const found = new Int32Array(k.bytes(at, count * 12).buffer, at, count * 3);
      return Int32Array.from({ length: count }, (_, i) =>
        clearly(found[3 * i + 1], found[3 * i + 2], ratio) ? found[3 * i] : -1,
      );
    };
    return [read(there, a.count), read(back, b.count)];
  });
}

/** For each point of `a` its nearest of `b` where that is clearly nearer than the next, else −1. The plain form of the kernel. */
export function plainNearest(a: Described, b: Described, ratio = RATIO): Int32Array {
  const out = new Int32Array(a.count).fill(-1);
  const [A, B] = [a.descriptors, b.descriptors];
  for (let i = 0; i < a.count; i++) {
    const p = i * DESCRIPTOR;
    let first = -Infinity;
    let second = -Infinity;
    let index = -1;
    for (let j = 0; j < b.count; j++) {
      const q = j * DESCRIPTOR;
      let s = 0;
      for (let k = 0; k < DESCRIPTOR; k++) s += A[p + k] * B[q + k];
      if (s > first) {
        second = first;
        first = s;
        index = j;
      } else if (s > second) second = s;
    }
    if (clearly(first, second, ratio)) out[i] = index;
  }
  return out;
}

const WHOLE = DESCRIPTOR_LENGTH * DESCRIPTOR_LENGTH;

/** Distances squared of vectors of length 1 are 2 − 2 cos. */
const clearly = (first: number, second: number, ratio: number): boolean =>
  WHOLE - first <= ratio * ratio * (WHOLE - Math.max(-WHOLE, second));
