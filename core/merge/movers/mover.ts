import { type Rectangle } from '../../raster/raster';

/** A place where the frames do not show the same thing: something moved, and one frame alone makes it. */
export interface Mover {
  /** full-size pixels of the reference */
  readonly box: Rectangle;
  /** a pixel of it, full-size: a choice made there is about this mover */
  readonly seed: { readonly x: number; readonly y: number };
  /** share of the picture, 0…1 */
  readonly area: number;
  /** index into the merged frames of the one that makes it */
  readonly frame: number;
  /** largest disagreement with the consensus, stops */
  readonly stops: number;
}

/** A choice the user made: whatever moves at this place comes from that frame. */
export interface MoverChoice {
  /** full-size pixels of the reference */
  readonly x: number;
  readonly y: number;
  /** index into the merged frames; undefined blends all of them */
  readonly frame?: number;
}

/** The movers of a merge on a reduced grid. */
export interface Movers {
  readonly width: number;
  readonly height: number;
  /** grid pixel → region number from 1, 0 for none; rows of `width` */
  readonly regions: Uint16Array;
  /** entry k is region k + 1 */
  readonly list: readonly Mover[];
  /** halvings from full size */
  readonly level: number;
}
