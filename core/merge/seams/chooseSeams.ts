import { type ReducedGrid } from '../../raster/reducedGrid';
import { type GridFrame } from '../frameOnGrid';
import { expandLabels, NEVER } from './expandLabels';
import { grownCells } from './grownCells';
import { halfPlane } from './halfPlane';
import { seamCost } from './seamCost';

/** cells from which on it is chosen at half size first, and cells about those seams in which they are then sought */
const [MANY, ABOUT] = [40_000, 2];

/**
 * Which frame makes which cell so that seams show least, by graph cuts (Agarwala et al. 2004).
 * @param own [frame][cell] what it costs that a frame makes a cell; a seam through a difference of 1 costs 2 a cell
 * @param start [cell] index of a frame, to begin with
 * @param tried indices of the frames that may take cells from others
 * @param free [cell] 0 where the frame is to stay; where all may change, large grids are cut at half size first
 * @returns [cell] index of a frame
 */
export function chooseSeams(
  frames: readonly GridFrame[],
  own: readonly Float32Array[],
  start: Int16Array,
  tried: readonly number[],
  grid: ReducedGrid,
  free?: Uint8Array,
): Int16Array {
  const { width, height } = grid;
  if (!free && width * height > MANY) return fromHalf(frames, own, start, tried, grid);
  // what a frame does not show it cannot give
  const costs = own.map((plane, f) => plane.map((cost, i) => (frames[f].seen[i] === 0 ? NEVER : cost)));
  return expandLabels({ width, height, own: costs, seams: seamCost(frames, width) }, start, tried, free);
}

/** Seams that were found at half size, sought again about where they lie. */
function fromHalf(
  frames: readonly GridFrame[],
  own: readonly Float32Array[],
  start: Int16Array,
  tried: readonly number[],
  { width: w, height: h, level }: ReducedGrid,
): Int16Array {
  const half = (plane: Float32Array): Float32Array => halfPlane(plane, w, h);
  const small = { width: Math.ceil(w / 2), height: Math.ceil(h / 2), level: level + 1 };
  const cellOf = (i: number): number => ((i / w) >> 1) * small.width + ((i % w) >> 1);
  const before = new Int16Array(small.width * small.height);
  start.forEach((f, i) => (before[cellOf(i)] = f));
  const coarse = chooseSeams(
    frames.map(({ planes, seen }) => ({ planes: planes.map(half), seen: half(seen) })),
    own.map(half),
    before,
    tried,
    small,
  );
  const label = start.map((_, i) => coarse[cellOf(i)]);
  const seam = Uint8Array.from(label, (f, i) =>
    (i % w > 0 && label[i - 1] !== f) || (i >= w && label[i - w] !== f) ? 1 : 0,
  );
  return chooseSeams(
    frames,
    own,
    label,
    tried,
    { width: w, height: h, level },
    grownCells(seam, w, h, ABOUT),
  );
}
