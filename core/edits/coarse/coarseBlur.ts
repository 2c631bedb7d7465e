import { coveringAt, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { coarsestLevel } from './coarsestLevel';

/** sigma, pixels of the level that it is blurred on, from which on a coarser one does */
const FINEST = 5;
/** variance that halving a picture and reading it linearly between its pixels add, square pixels of that level */
const ADDED = 1 / 12 + 1 / 6;

/** Halvings at which a blur of so many full-size pixels is made; what it blurs is asked for at that level only. */
function levelOf(sigma: number, longEdge: number, at: At): number {
  const wanted = Math.floor(Math.log2(Math.max(1, sigma) / FINEST)) + 1;
  return Math.max(at.level, Math.min(coarsestLevel(longEdge), wanted), 0);
}

/** Where a picture is needed to blur it. @param sigma full-size pixels @param longEdge of the picture, full-size pixels */
export function coarseBlurAt(sigma: number, longEdge: number, at: At): At {
  const level = levelOf(sigma, longEdge, at);
  const own = sigma / 2 ** level;
  // read between pixels, two more
  return coveringAt(at, level, Math.ceil(3 * own) + (level === at.level ? 1 : 3));
}

/** A plane, and where it lies. */
export interface PlaneAt {
  readonly plane: Float32Array;
  readonly at: At;
}

/** A plane blurred on its own place. @param plane on the place of {@link coarseBlurAt} @param sigma full-size pixels */
export function coarselyBlurred(plane: Float32Array, sigma: number, longEdge: number, at: At): PlaneAt {
  const from = coarseBlurAt(sigma, longEdge, at);
  const { width, height } = from.area;
  const own = sigma / 2 ** from.level;
  const left = from.level === at.level ? own : Math.sqrt(Math.max(0.01, own * own - ADDED));
  return { plane: left > 0.15 ? gaussianBlur(plane, width, height, left) : plane, at: from };
}

/** The same, read where it is wanted: what is blurred far needs few pixels, however large the picture is. */
export function coarseBlur(plane: Float32Array, sigma: number, longEdge: number, at: At): Float32Array {
  const { plane: soft, at: from } = coarselyBlurred(plane, sigma, longEdge, at);
  return resampled(soft, from, at);
}
