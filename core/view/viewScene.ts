import { type BlendMode } from '../layers/blendMode';
import { type Mask } from '../mask/mask';
import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3 } from '../raster/matrix3';

/** A frame with its pixels: levels from full size down. */
export interface SceneFrame {
  readonly id: string;
  readonly levels: readonly EncodedImage[];
  /** reference pixel → frame pixel, full size; absent while it is not fitted */
  readonly matrix?: Matrix3;
  /** exposure relative to the reference, EV */
  readonly stops: number;
}

export interface SceneLayer {
  readonly id: string;
  /** a frame's id, or `merge` */
  readonly source: string;
  readonly opacity: number;
  readonly blend: BlendMode;
  readonly stops: number;
  readonly mask: Mask;
}

/** The merged picture and who made it. */
export interface SceneMerge {
  readonly levels: readonly EncodedImage[];
  /** frame ids, in the order of `shares` */
  readonly frames: readonly string[];
  /** [frame] 0…255 for each pixel of the half-size picture (size rounded up) */
  readonly shares: readonly Uint8Array[];
}

/** Everything the views are made from; all pixels in shared memory. */
export interface ViewScene {
  /** size of the reference */
  readonly width: number;
  readonly height: number;
  readonly frames: readonly SceneFrame[];
  readonly merge?: SceneMerge;
  /** visible layers, bottom first */
  readonly layers: readonly SceneLayer[];
  /** stops of the finish */
  readonly exposure: number;
}

/** What to look at. */
export type View =
  | { readonly kind: 'result' }
  /** one frame in its own geometry, clipped pixels hatched on request */
  | { readonly kind: 'shot'; readonly frame: string; readonly clipping: boolean }
  /** one frame on the reference's grid, brightened to the reference's exposure */
  | { readonly kind: 'fitted'; readonly frame: string }
  | { readonly kind: 'residual'; readonly frame: string; readonly gain: number }
  | { readonly kind: 'origin' }
  | { readonly kind: 'mask'; readonly layer: string };
