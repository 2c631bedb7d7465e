import { guidedAll } from '../../mask/guidedFilter';
import { type Rectangle, sharedFloats } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { type ChosenWeights } from '../blendWeights';
import { type GridFrame } from '../frameOnGrid';
import { type MoverTakes } from '../fusionPlan';
import { chooseSeams } from '../seams/chooseSeams';
import { type NamedTakes, takeNamed } from '../seams/takeNamed';
import { type MomentScores, type MomentWish } from './momentScores';

/** How much each wish counts; 0 for not at all. */
export type MomentWishes = Readonly<Partial<Record<MomentWish, number>>>;

/** Well lit, not clipped, nothing passing: the picture most people want of an evening. */
export const EVENING: MomentWishes = { lit: 1, unclipped: 1.5, calm: 1.5, sharp: 0.3 };

/** A part of the picture that one moment makes. */
export interface MomentRegion {
  readonly frame: number;
  /** cells */
  readonly box: Rectangle;
  /** share of the picture */
  readonly area: number;
  /** in what the moment is better than the others there, the most telling first */
  readonly better: readonly MomentWish[];
}

/** Which moment makes which place. */
export interface Moments extends ChosenWeights {
  readonly regions: readonly MomentRegion[];
  /** [cell] index of the frame that makes it */
  readonly made: Int16Array;
  /** things that were pointed out and are laid in */
  readonly takes?: MoverTakes;
}

const RADIUS = 10;
/** radius by which joints are softened, cells */
const SOFTENED = 3;
const EVEN = 3e-3;
/** one moment is kept unless another is better by so many spreads of the scores */
const STAY = 0.6;
const LEAST_AREA = 0.01;
/** what it costs to be one spread of the scores worse, and not to be the reference, for all cells of a long edge together */
const WORSE = 4;
const NOT_REFERENCE = 1.2;
/** moments that differ by less than this differ by noise, in each wish's own measure */
const LEAST_SPREAD: Readonly<Record<MomentWish, number>> = {
  lit: 0.02,
  sharp: 0.02,
  unclipped: 0.05,
  calm: 0.02,
  smooth: 0.02,
  lively: 0.02,
};

/**
 * Chooses the best moment for every place by the wishes: scores are brought to one scale, smoothed along the edges of the reference, and a
 * moment takes over only where it is clearly better than the reference.
 * @param named [cell] index of the frame that was pointed out there, −1 for none: the joints are then cut where they show least; without it each cell is
 * chosen for itself, as sets of earlier versions are
 */
export function chooseMoments(
  frames: readonly GridFrame[],
  scores: MomentScores,
  wishes: MomentWishes,
  reference: number,
  grid: ReducedGrid,
  named?: Int16Array,
): Moments {
  const { width: w, height: h } = grid;
  const n = w * h;
  const { planes: guidePlanes } = frames[reference];
  const guide = guidePlanes[1];
  const sums = frames.map(() => new Float32Array(n));
  for (const [wish, amount] of Object.entries(wishes) as [MomentWish, number][]) {
    const own = scores[wish];
    const scale = amount / Math.max(LEAST_SPREAD[wish], spreadOf(own));
    own.forEach((plane, f) => {
      for (let i = 0; i < n; i++) sums[f][i] += plane[i] * scale;
    });
  }
  const smooth = guidedAll(sums, guide, w, h, RADIUS, EVEN);
  const { made, label, takes } = named
    ? takeNamed(frames, cutOf(frames, smooth, reference, grid), named, reference, grid)
    : asLabelled(bestOf(frames, smooth, reference));
  const regions = regionsOf(made, frames.length, scores, grid);
  const planes = softenedOwners(label, frames, guide, grid);
  return { ...grid, planes, regions, made, ...(takes ? { takes } : {}) };
}

const asLabelled = (label: Int16Array): NamedTakes => ({ made: label, label });

/** The best moment of each cell for itself. */
function bestOf(
  frames: readonly GridFrame[],
  scores: readonly Float32Array[],
  reference: number,
): Int16Array {
  return Int16Array.from(scores[reference], (_, i) => {
    let best = reference;
    for (let f = 0; f < scores.length; f++)
      if (frames[f].seen[i] > 0 && scores[f][i] > scores[best][i] + (best === reference ? STAY : 0)) best = f;
    return best;
  });
}

/** Moments that are good where they are taken and whose joints show least: each place costs by how much its moment is worse than the best. */
function cutOf(
  frames: readonly GridFrame[],
  scores: readonly Float32Array[],
  reference: number,
  grid: ReducedGrid,
): Int16Array {
  const long = Math.max(grid.width, grid.height);
  const best = scores[0].map((_, i) => Math.max(...scores.map((s) => s[i])));
  const costs = scores.map((own, f) =>
    own.map((v, i) => (WORSE * (best[i] - v) + (f === reference ? 0 : NOT_REFERENCE)) / long),
  );
  const start = new Int16Array(best.length).fill(reference);
  const all = frames.map((_, f) => f);
  return chooseSeams(frames, costs, start, all, grid);
}

/** The share of each frame in each cell: its labels, softened along the edges of the reference. */
function softenedOwners(
  label: Int16Array,
  frames: readonly GridFrame[],
  guide: Float32Array,
  { width, height }: ReducedGrid,
): Float32Array[] {
  const owners = frames.map((_, f) => Float32Array.from(label, (l) => (l === f ? 1 : 0)));
  return guidedAll(owners, guide, width, height, SOFTENED, EVEN).map((soft, f) => {
    const out = sharedFloats(label.length);
    for (let i = 0; i < out.length; i++)
      out[i] = frames[f].seen[i] > 0 ? Math.max(0, Math.min(1, soft[i])) : 0;
    return out;
  });
}

/** Root mean square difference between the moments: the scale on which scores of different wishes are added. */
function spreadOf(planes: readonly Float32Array[]): number {
  const n = planes[0].length;
  let square = 0;
  for (let i = 0; i < n; i += 3) {
    let mean = 0;
    for (const p of planes) mean += p[i];
    mean /= planes.length;
    for (const p of planes) square += (p[i] - mean) ** 2;
  }
  return Math.sqrt((3 * square) / (n * planes.length)) + 1e-9;
}

function regionsOf(
  label: Int16Array,
  count: number,
  scores: MomentScores,
  { width: w, height: h }: ReducedGrid,
): MomentRegion[] {
  const done = new Uint8Array(label.length);
  const out: MomentRegion[] = [];
  const spreads = new Map(
    (Object.entries(scores) as [MomentWish, readonly Float32Array[]][]).map(([wish, planes]) => [
      wish,
      Math.max(LEAST_SPREAD[wish], spreadOf(planes)),
    ]),
  );
  const stack: number[] = [];
  for (let seed = 0; seed < label.length; seed++) {
    if (done[seed]) continue;
    const frame = label[seed];
    const cells: number[] = [];
    let [x0, y0, x1, y1] = [w, h, 0, 0];
    done[seed] = 1;
    stack.push(seed);
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      cells.push(i);
      const x = i % w;
      const y = (i - x) / w;
      [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
      for (const j of [x > 0 ? i - 1 : i, x + 1 < w ? i + 1 : i, y > 0 ? i - w : i, y + 1 < h ? i + w : i])
        if (!done[j] && label[j] === frame) {
          done[j] = 1;
          stack.push(j);
        }
    }
    if (cells.length < LEAST_AREA * label.length) continue;
    out.push({
      frame,
      box: { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 },
      area: cells.length / label.length,
      better: betterIn(cells, frame, count, scores, spreads),
    });
  }
  return out.sort((a, b) => b.area - a.area);
}

/** Wishes in which a moment beats the mean of the others on some cells, by how far. */
function betterIn(
  cells: readonly number[],
  frame: number,
  count: number,
  scores: MomentScores,
  spreads: ReadonlyMap<MomentWish, number>,
): MomentWish[] {
  const gains = (Object.entries(scores) as [MomentWish, readonly Float32Array[]][]).map(([wish, planes]) => {
    const scale = spreads.get(wish) ?? 1;
    let gain = 0;
    for (const i of cells) {
      let others = 0;
      for (let f = 0; f < count; f++) if (f !== frame) others += planes[f][i];
      gain += planes[frame][i] - others / Math.max(1, count - 1);
    }
    return { wish, gain: gain / cells.length / scale };
  });
  return gains
    .filter((g) => g.gain > 0.4)
    .sort((a, b) => b.gain - a.gain)
    .slice(0, 2)
    .map((g) => g.wish);
}
