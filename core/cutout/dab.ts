import { penCells, type PenLine } from '../raster/penCells';

/** A dab that says what a place is: a round pen drawn along points, pixels of the upright picture. “edge”: both may be mixed there, as in hair, and the matte decides. */
export interface Dab extends PenLine {
  readonly is: 'this' | 'not' | 'edge';
}

/** What the dabs say of a pixel: 1 “this”, 0 “not”, −1 nothing, {@link EDGE} that it is undecided. */
export type Seeds = Int8Array;

export const EDGE = -2;

const SAYS: Readonly<Record<Dab['is'], number>> = { this: 1, not: 0, edge: EDGE };

/**
 * Where dabs lie on a grid of cells of `factor` × `factor` pixels. A later dab covers an earlier one; a dab that is smaller than a cell
 * marks the nearest one.
 */
export function dabSeeds(dabs: readonly Dab[], width: number, height: number, factor = 1): Seeds {
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const seeds = new Int8Array(w * h).fill(-1);
  for (const dab of dabs) penCells(dab, w, h, factor, (cell) => (seeds[cell] = SAYS[dab.is]));
  return seeds;
}
