/**
 * What each place of a gap is copied from, as a shift: cells of a grid that was halved `level` times, over the gap and a little around it, where
 * what is copied is held against what is there.
 */
export interface FillOffsets {
  readonly level: number;
  /** first cell, and how many */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** [cell] shift to what it is copied from, cells; 0 for none */
  readonly dx: Int16Array;
  readonly dy: Int16Array;
}
