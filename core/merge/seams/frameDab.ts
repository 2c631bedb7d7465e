import { penCells } from '../../raster/penCells';
import { type ReducedGrid } from '../../raster/reducedGrid';

/** Where one frame is to make the picture: a round pen drawn along points, in fractions of the long edge of the set’s picture, from its upper left corner. */
export interface FrameDab {
  /** id of the frame */
  readonly frame: string;
  /** diameter */
  readonly size: number;
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** A dab for frames that are told by their place in a list. */
export interface IndexedDab extends Omit<FrameDab, 'frame'> {
  readonly frame: number;
}

/** Most dabs of a set, and points of one. */
export const MOST_FRAME_DABS = 200;
export const MOST_FRAME_DAB_POINTS = 1000;

/**
 * Which frame was pointed out for which cell of a grid; −1 where none was. A later dab covers an earlier one.
 * @param longEdge of the picture, pixels
 */
export function dabbedCells(
  dabs: readonly IndexedDab[],
  { width, height, level }: ReducedGrid,
  longEdge: number,
): Int16Array {
  const cells = new Int16Array(width * height).fill(-1);
  const pixel = (v: number): number => v * longEdge - 0.5;
  for (const { frame, size, points } of dabs) {
    const line = {
      size: size * longEdge,
      points: points.map(([x, y]) => [pixel(x), pixel(y)] as const),
    };
    penCells(line, width, height, 2 ** level, (cell) => (cells[cell] = frame));
  }
  return cells;
}
