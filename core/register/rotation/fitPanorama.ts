import { SVD, Matrix } from 'ml-matrix';
import { IDENTITY, type Matrix3, multiply, transposed } from '../../raster/matrix3';
import { type FrameLink } from '../features/linkFrames';
import { type RobustFit } from '../features/robustHomography';
import { adjustBundle, type Bundle, type Link, linkResiduals } from './adjustBundle';
import { type SharedLens } from './cameraModel';
import { focalsOf, sharedPart } from './startFocal';
import { straightenTurns } from './straightenTurns';

/** Two frames that were found to overlap. */
export interface PanoramaPair extends FrameLink {
  readonly a: number;
  readonly b: number;
}

/** What is known of two overlapping frames after the fit. */
export interface PairMeasure {
  readonly a: number;
  readonly b: number;
  /** share of the frame that both see, 0…1 */
  readonly overlap: number;
  readonly matches: number;
  /** pairs that agree with the fit */
  readonly agreeing: number;
  /** root mean square distance of the agreeing pairs, pixels */
  readonly residual: number;
  /** how far the farthest tenth of them is off, pixels: near and far disagree when the camera did not turn about its entrance pupil */
  readonly parallax: number;
  /** where the farthest are, full-size pixels of frame a */
  readonly where?: { readonly x: number; readonly y: number };
}

/** How turned frames lie to each other. */
export interface PanoramaFit {
  readonly lens: SharedLens;
  /** [frame] world → camera; null for a stray */
  readonly rotations: readonly (Matrix3 | null)[];
  readonly pairs: readonly PairMeasure[];
}

const LEAST_KEPT = 12;
const FOCAL_TRIES = [0.7, 1, 1.4, 2, 3] as const;

/**
 * Rotations and focal length of frames that were turned about one point, from their overlapping pairs; frames that hang together with
 * no other are left out. The horizon is straightened.
 * @param focalHint pixels, from the file; undefined when unknown
 */
export function fitPanorama(
  frames: readonly { readonly width: number; readonly height: number }[],
  pairs: readonly PanoramaPair[],
  options: { readonly focalHint?: number; readonly distortion?: boolean; readonly reference: number },
): PanoramaFit {
  const { width, height } = frames[options.reference];
  const member = largestGroup(frames.length, pairs);
  const links = pairs
    .filter((p) => member.has(p.a) && member.has(p.b))
    .map((p): Link & { fit: RobustFit } => ({ a: p.a, b: p.b, pairs: p.fit.inliers, fit: p.fit }))
    .sort((p, q) => q.pairs.length - p.pairs.length);
  const lensOf = (focalPx: number): SharedLens => ({ focalPx, k1: 0, width, height });
  if (links.length === 0)
    return {
      lens: lensOf(options.focalHint ?? width),
      rotations: frames.map((_, i) => (i === options.reference ? IDENTITY : null)),
      pairs: [],
    };
  const estimates = links.flatMap((l) => focalsOf(l.fit.matrix, width, height)).sort((a, b) => a - b);
  const tries = [
    ...(options.focalHint ? [options.focalHint] : []),
    ...(estimates.length > 0 ? [estimates[estimates.length >> 1]] : []),
    ...(options.focalHint ? [] : FOCAL_TRIES.map((k) => k * Math.max(width, height))),
  ];
  let best: Bundle | undefined;
  const few = links.map(thinned);
  for (const focal of tries) {
    const lens = lensOf(focal);
    const rotations = chainTurns(frames.length, links, lens, member);
    const bundle = adjustBundle({ lens, rotations }, few, { distortion: false }, 6);
    if (!best || bundle.cost < best.cost) best = bundle;
  }
  if (!best) throw new RangeError('a panorama needs a first focal length');
  const settled = settle(best, links, options.distortion === true);
  const present = frames.map((_, i) => i).filter((i) => member.has(i));
  const level = straightenTurns(present.map((i) => settled.rotations[i]));
  const rotations = frames.map((_, i) => (member.has(i) ? level[present.indexOf(i)] : null));
  const measures = links.map((link): PairMeasure => {
    const off = linkResiduals(settled, link);
    const order = off.map((_, i) => i).sort((p, q) => off[p] - off[q]);
    const far = order.slice(Math.floor(0.9 * order.length));
    const mean = (of: (i: number) => number): number => far.reduce((s, i) => s + of(i), 0) / far.length;
    const source = pairs.find((p) => p.a === link.a && p.b === link.b);
    return {
      a: link.a,
      b: link.b,
      overlap: sharedPart(link.fit.matrix, width, height).share,
      matches: source?.matches ?? link.pairs.length,
      agreeing: link.pairs.length,
      // of the nine tenths that agree: the rest is parallax, told apart
      residual: Math.sqrt(
        order.slice(0, Math.ceil(0.9 * order.length)).reduce((s, i) => s + off[i] * off[i], 0) /
          Math.ceil(0.9 * order.length),
      ),
      parallax: mean((i) => off[i]),
      where: { x: mean((i) => link.pairs[i].x), y: mean((i) => link.pairs[i].y) },
    };
  });
  return { lens: settled.lens, rotations, pairs: measures };
}

/** pairs of a link that tell where to start from */
const ENOUGH = 120;

/** Every so many of a link's pairs, when there are more than it takes for a start. */
function thinned(link: Link): Link {
  const step = Math.ceil(link.pairs.length / ENOUGH);
  return step > 1 ? { ...link, pairs: link.pairs.filter((_, i) => i % step === 0) } : link;
}

/** pairs beyond so many typical distances, and at least so many pixels, are taken out before the last passes */
const BEYOND = 3;
const AT_LEAST = 0.5;
const TRIMS = 3;

/**
 * The last passes: near things that parallax shifts disagree with the many far ones, and must not bend the lens. What is far off the rest is
 * taken out, and the remainder adjusted anew.
 */
function settle(start: Bundle, links: readonly Link[], distortion: boolean): Bundle {
  let bundle = adjustBundle(start, links, { distortion });
  for (let pass = 0; pass < TRIMS; pass++) {
    const own = bundle;
    const off = links.map((l) => linkResiduals(own, l));
    const kept = links.map((link, i): Link => {
      const sorted = off[i].slice().sort((a, b) => a - b);
      const limit = Math.max(AT_LEAST, BEYOND * sorted[sorted.length >> 1]);
      const pairs = link.pairs.filter((_, k) => off[i][k] <= limit);
      return { ...link, pairs: pairs.length >= LEAST_KEPT ? pairs : link.pairs };
    });
    bundle = adjustBundle(bundle, kept, { distortion }, 2);
  }
  return bundle;
}

/** Indices of the most frames that hang together. */
function largestGroup(count: number, pairs: readonly PanoramaPair[]): Set<number> {
  let best = new Set<number>();
  for (let seed = 0; seed < count; seed++) {
    const group = new Set([seed]);
    for (let grew = true; grew;) {
      grew = false;
      for (const { a, b } of pairs)
        if (group.has(a) !== group.has(b)) {
          group.add(a).add(b);
          grew = true;
        }
    }
    if (group.size > best.size) best = group;
  }
  return best;
}

/** First rotations along the strongest links. */
function chainTurns(
  count: number,
  links: readonly (Link & { readonly fit: RobustFit })[],
  { focalPx: f, width, height }: SharedLens,
  member: ReadonlySet<number>,
): Matrix3[] {
  const rotations: (Matrix3 | undefined)[] = Array.from({ length: count }, () => undefined);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const K: Matrix3 = [f, 0, cx, 0, f, cy, 0, 0, 1];
  const back: Matrix3 = [1 / f, 0, -cx / f, 0, 1 / f, -cy / f, 0, 0, 1];
  rotations[links[0].a] = IDENTITY;
  for (let placed = 1; placed < member.size; placed++) {
    // links are sorted by strength: the first that reaches a new frame is the strongest
    const link = links.find((l) => (rotations[l.a] === undefined) !== (rotations[l.b] === undefined));
    if (!link) break;
    const turn = nearestRotation(multiply(back, multiply(link.fit.matrix, K)));
    const [from, to] = [rotations[link.a], rotations[link.b]];
    if (from) rotations[link.b] = multiply(turn, from);
    else if (to) rotations[link.a] = multiply(transposed(turn), to);
  }
  return rotations.map((R) => R ?? IDENTITY);
}

/** The rotation nearest to a matrix that is one but for its scale and errors (orthogonal Procrustes). */
function nearestRotation(m: Matrix3): Matrix3 {
  const svd = new SVD(Matrix.from1DArray(3, 3, [...m]));
  const U = svd.leftSingularVectors;
  const V = svd.rightSingularVectors;
  const r = U.mmul(V.transpose()).to1DArray() as unknown as Matrix3;
  const determinant =
    r[0] * (r[4] * r[8] - r[5] * r[7]) -
    r[1] * (r[3] * r[8] - r[5] * r[6]) +
    r[2] * (r[3] * r[7] - r[4] * r[6]);
  return determinant < 0 ? (r.map((v) => -v) as unknown as Matrix3) : r;
}
