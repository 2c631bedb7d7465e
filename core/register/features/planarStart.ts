import { type Matrix3, transform } from '../../raster/matrix3';
import { type Landmarks } from './landmarks';
import { mutualNearest, type PointPair } from './matchFeatures';
import { robustHomography, throughPairs } from './robustHomography';
import { length2 } from '../../raster/length';

/** the nearest must only just be nearer than the next: how places lie to each other decides */
const RATIO = 0.95;
/** matches of a view must agree this well with the similarity that one of them proposes, share of the long edge */
const LOOSE = 0.05;
/** and its landmarks in size and turn */
const SIZE_WITHIN = Math.log(1.8);
const TURN_WITHIN = 0.6;
/** matches that chance does not bring to agree */
const LEAST = 10;
/** matches that propose, proposals that are opened, and those that are given */
const MOST_PROPOSED = 400;
const MOST_OPENED = 12;
const MOST = 3;

interface Match extends PointPair {
  /** of the frame against the reference: size, and turn in radians */
  readonly scale: number;
  readonly turn: number;
}

/** A map that landmarks propose, and how many of them agree with it. */
export interface PlanarStart {
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
  readonly agreeing: number;
}

/**
 * Where a frame may lie by its landmarks, best first: each match proposes the similarity that its two places, sizes and turns make; what most
 * others agree with is opened to an affinity and then to a homography (MSAC with local optimisation, Chum, Matas & Kittler 2003).
 * @param longEdge of the reference, pixels
 */
export function planarStarts(reference: Landmarks, frame: Landmarks, longEdge: number): PlanarStart[] {
  const matches = mutualNearest(reference, frame, RATIO).map(([i, j]): Match => ({
    ...{ x: reference.x[i], y: reference.y[i], u: frame.x[j], v: frame.y[j] },
    spread: 0.6 * length2(reference.size[i], frame.size[j]),
    scale: frame.size[j] / reference.size[i],
    turn: frame.turn[j] - reference.turn[i],
  }));
  const table = tableOf(matches);
  // every so many proposes: a view that is there is proposed by many
  const stride = Math.max(1, Math.ceil(matches.length / MOST_PROPOSED));
  const proposals = matches
    .filter((_, i) => i % stride === 0)
    .map((m) => ({ m, count: countAgreeing(m, table, longEdge) }))
    .sort((p, q) => q.count - p.count);
  const out: PlanarStart[] = [];
  let opens = 0;
  for (const { m, count } of proposals) {
    if (count < 6 || out.length >= MOST || opens++ >= MOST_OPENED) break;
    const agreeing: Match[] = [];
    countAgreeing(m, table, longEdge, (i) => agreeing.push(matches[i]));
    const opened = openedUp(agreeing, matches, longEdge);
    if (!opened || out.some((o) => alike(o.matrix, opened.matrix, longEdge))) continue;
    out.push(opened);
    // what agrees with one that stands by far needs no other
    if (opened.agreeing > 0.5 * matches.length) break;
  }
  return out.sort((a, b) => b.agreeing - a.agreeing);
}

/** Matches as lists of numbers: place, counterpart, logarithm of size, turn. */
type Table = Readonly<Record<'x' | 'y' | 'u' | 'v' | 'size' | 'turn', Float64Array>>;

const tableOf = (matches: readonly Match[]): Table => ({
  x: Float64Array.from(matches, (m) => m.x),
  y: Float64Array.from(matches, (m) => m.y),
  u: Float64Array.from(matches, (m) => m.u),
  v: Float64Array.from(matches, (m) => m.v),
  size: Float64Array.from(matches, (m) => Math.log(m.scale)),
  turn: Float64Array.from(matches, (m) => m.turn),
});

/** How many matches agree with the similarity of one. @param each called with the place of each that does */
function countAgreeing(
  m: Match,
  { x, y, u, v, size, turn }: Table,
  longEdge: number,
  each?: (i: number) => void,
): number {
  const [c, s] = [m.scale * Math.cos(m.turn), m.scale * Math.sin(m.turn)];
  const gate = (LOOSE * longEdge * Math.max(1, m.scale)) ** 2;
  const own = Math.log(m.scale);
  let count = 0;
  for (let i = 0; i < x.length; i++) {
    const dx = x[i] - m.x;
    const dy = y[i] - m.y;
    const du = m.u + c * dx - s * dy - u[i];
    const dv = m.v + s * dx + c * dy - v[i];
    if (du * du + dv * dv > gate || Math.abs(size[i] - own) > SIZE_WITHIN) continue;
    const off = Math.abs(turn[i] - m.turn) % (2 * Math.PI);
    if (Math.min(off, 2 * Math.PI - off) > TURN_WITHIN) continue;
    count++;
    each?.(i);
  }
  return count;
}

/** A homography through matches that agree loosely, and through all that agree with it then. */
function openedUp(
  agreeing: readonly Match[],
  matches: readonly Match[],
  longEdge: number,
): PlanarStart | undefined {
  let inside = agreeing;
  let matrix: Matrix3 | undefined;
  for (const slack of [0.012, 0.006, 0.003]) {
    const fit = robustHomography(inside, slack * longEdge);
    const next = fit?.matrix ?? (matrix ? throughPairs(inside) : undefined);
    if (!next) return undefined;
    matrix = next;
    const map = next;
    inside = matches.filter((n) => {
      const [u, v] = transform(map, n.x, n.y);
      const gate = 9 * (n.spread * n.spread + (slack * longEdge) ** 2);
      return (u - n.u) ** 2 + (v - n.v) ** 2 < gate;
    });
    if (inside.length < LEAST) return undefined;
  }
  return matrix && sensible(matrix, inside) ? { matrix, agreeing: inside.length } : undefined;
}

/** largest and least that a place of the reference may be drawn, each way; beyond that nothing is fitted */
const [LARGEST, LEAST_SIZE] = [3, 0.3];

/** Whether a map keeps its side and its size wherever it was seen. */
function sensible(m: Matrix3, pairs: readonly PointPair[]): boolean {
  return pairs.every(({ x, y }) => {
    const w = m[6] * x + m[7] * y + m[8];
    if (w <= 0.1) return false;
    const [u, v] = transform(m, x, y);
    const [a, b] = [(m[0] - u * m[6]) / w, (m[1] - u * m[7]) / w];
    const [c, d] = [(m[3] - v * m[6]) / w, (m[4] - v * m[7]) / w];
    const area = a * d - b * c;
    return area > LEAST_SIZE ** 2 && area < LARGEST ** 2;
  });
}

/** Whether two maps take the middle of a picture, and what is around it, to about the same places. */
function alike(a: Matrix3, b: Matrix3, longEdge: number): boolean {
  return [0.2, 0.5, 0.8].every((t) => {
    const [p, q] = [transform(a, t * longEdge, 0.5 * longEdge), transform(b, t * longEdge, 0.5 * longEdge)];
    return length2(p[0] - q[0], p[1] - q[1]) < 0.02 * longEdge;
  });
}
