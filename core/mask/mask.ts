import { type Stroke } from './stroke';

/** Tones that a mask is kept to, in stops from middle grey 0.18 of the merged picture. */
export interface ToneRange {
  readonly from: number;
  readonly to: number;
  /** stops over which each end fades out */
  readonly soft: number;
}

/**
 * Where a layer is shown: everywhere or nowhere, then strokes in order; kept to a range of tones, feathered, led along the edges of
 * the picture, and at last turned inside out.
 */
export interface Mask {
  readonly base: 'hidden' | 'shown';
  readonly strokes: readonly Stroke[];
  readonly range?: ToneRange;
  /** radius of the softening, fraction of the long edge; 0 for none */
  readonly feather: number;
  /** how far the mask is led to edges of the picture (guided filter), fraction of the long edge; 0 for not at all */
  readonly follow: number;
  readonly inverted: boolean;
}

export const PLAIN_MASK: Omit<Mask, 'base' | 'strokes'> = { feather: 0, follow: 0, inverted: false };

/** A rectangle of pixels at a level of a picture: where to evaluate a mask. */
export interface MaskGrid {
  /** long edge of the picture at full size, pixels */
  readonly longEdge: number;
  /** halvings from full size */
  readonly level: number;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The merged picture's tones on any rectangle of a level: stops of luminance from middle grey, −20 for black. */
export type ToneSource = (grid: MaskGrid) => Float32Array;
