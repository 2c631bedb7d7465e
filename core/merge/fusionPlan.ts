import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3 } from '../raster/matrix3';
import { levelSize, pyramidDepth } from '../raster/pyramid';
import { sharedBytes, sharedFloats } from '../raster/raster';

/** One frame of a merge: its picture and where it lies. */
export interface FusionFrame {
  readonly image: EncodedImage;
  /** reference pixel → frame pixel, at the size of `image` */
  readonly matrix: Matrix3;
  /** variance of its noise, encoded, where it was measured before */
  readonly noise?: number;
}

/** Which frame makes the places where something moved, on a reduced grid. */
export interface MoverTakes {
  readonly width: number;
  readonly height: number;
  /** halvings from full size */
  readonly level: number;
  /** exposure of each frame, EV on one scale */
  readonly stops: readonly number[];
  /** [frame] share 0…1 with which this frame replaces the others; undefined where it makes no mover */
  readonly planes: readonly (Float32Array | undefined)[];
  /** [frame][channel] times which its light is laid there, so that it has the light of its surroundings: all frames then show the same. By exposure when absent */
  readonly gains?: readonly (readonly Float32Array[] | undefined)[];
}

/** Rows of the result that one job makes; `top` is a multiple of 2^split. */
export interface Band {
  readonly top: number;
  readonly rows: number;
}

/** How a merge is cut up. Levels finer than `split` are made band by band, the rest once for the whole picture. */
export interface FusionPlan {
  readonly width: number;
  readonly height: number;
  /** levels below the finest one */
  readonly depth: number;
  readonly split: number;
  readonly bands: readonly Band[];
}

/** Shared memory that the jobs of one merge fill. */
export interface FusionBuffers {
  /** [level < split][channel]: the fused Laplacian */
  readonly fine: readonly (readonly Float32Array[])[];
  /** [frame][channel], then one weight plane: Gaussian level `split` of every frame */
  readonly coarse: readonly (readonly Float32Array[])[];
  /** [channel] the fused picture at level `split` */
  readonly base: readonly Float32Array[];
  /** [frame] share of the frame in each pixel of the half-size picture, 0…255 */
  readonly shares: readonly Uint8Array[];
}

const SPLIT = 3;
const BAND_PIXELS = 900_000;

/** Cuts a merge of this size into bands of about 0.9 MP, at least two where rows allow, so that two workers share the work. */
export function planFusion(width: number, height: number): FusionPlan {
  const depth = pyramidDepth(width, height);
  const split = Math.min(SPLIT, depth);
  const unit = 2 ** split;
  const wanted = Math.min(BAND_PIXELS / width, height / 4);
  const rows = Math.max(8 * unit, Math.ceil(wanted / unit) * unit);
  const bands: Band[] = [];
  for (let top = 0; top < height; top += rows) bands.push({ top, rows: Math.min(rows, height - top) });
  return { width, height, depth, split, bands };
}

/** Memory for a merge of `frames` frames: about 16 bytes a pixel and frame-count/4 more. */
export function fusionBuffers(plan: FusionPlan, frames: number): FusionBuffers {
  const area = (level: number): number => levelSize(plan.width, level) * levelSize(plan.height, level);
  const planes = (level: number, count: number): Float32Array[] =>
    Array.from({ length: count }, () => sharedFloats(area(level)));
  return {
    fine: Array.from({ length: Math.max(1, plan.split) }, (_, level) => planes(level, 3)),
    coarse: Array.from({ length: frames }, () => planes(plan.split, 4)),
    base: planes(plan.split, 3),
    shares: Array.from({ length: frames }, () => new Uint8Array(sharedBytes(area(1)))),
  };
}
