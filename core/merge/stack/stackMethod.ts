import { type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3 } from '../../raster/matrix3';

/** How the samples of a place become one. */
export type StackMethod = 'mean' | 'median' | 'clip' | 'max' | 'min';

/** One frame of a stack. */
export interface StackFrame {
  readonly image: EncodedImage;
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
  /** exposure against the reference, EV: taken out before the samples are compared */
  readonly stops: number;
  /** how much its samples count in a mean */
  readonly weight: number;
}

/** Shared memory that the jobs of one stack fill. */
export interface StackBuffers {
  /** 16 bit */
  readonly image: EncodedImage;
  /** [frame] share of the frame in each pixel of the half-size picture, 0…255 */
  readonly shares: readonly Uint8Array[];
  /** samples turned down in each row, of all three channels */
  readonly rejected: Float32Array;
}
