import { type ReducedGrid } from '../../raster/reducedGrid';
import { type GridFrame } from '../frameOnGrid';
import { expandLabels, NEVER } from './expandLabels';
import { seamCost } from './seamCost';

/**
 * Which frame makes which cell so that seams show least, by graph cuts (Agarwala et al. 2004).
 * @param own [frame][cell] what it costs that a frame makes a cell; a seam through a difference of 1 costs 2 a cell
 * @param start [cell] index of a frame, to begin with
 * @param tried indices of the frames that may take cells from others
 * @returns [cell] index of a frame
 */
export function chooseSeams(
  frames: readonly GridFrame[],
  own: readonly Float32Array[],
  start: Int16Array,
  tried: readonly number[],
  { width, height }: ReducedGrid,
): Int16Array {
  // what a frame does not show it cannot give
  const costs = own.map((plane, f) => plane.map((cost, i) => (frames[f].seen[i] === 0 ? NEVER : cost)));
  return expandLabels({ width, height, own: costs, seams: seamCost(frames, width) }, start, tried);
}
