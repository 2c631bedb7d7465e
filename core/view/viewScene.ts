import { type BlendMode } from '../layers/blendMode';
import { type Mask } from '../mask/mask';
import { type Sharpen } from '../finish/sharpen';
import { type PanoramaCanvas } from '../merge/panorama/canvas';
import { type PanoramaFit } from '../register/rotation/fitPanorama';
import { type Adjust } from '../match/adjust';
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
  readonly adjust: Adjust;
}

/** The merged picture and who made it. */
export interface SceneMerge {
  readonly levels: readonly EncodedImage[];
  /** frame ids, in the order of `shares` */
  readonly frames: readonly string[];
  /** [frame] 0…255 for each pixel of the half-size picture (size rounded up) */
  readonly shares: readonly Uint8Array[];
  /** [pixel of the half-size picture] place along the frames of a focus set, 0 for the first; absent for other sets */
  readonly depth?: Float32Array;
  /** noise of the merged picture, encoded 0…1 */
  readonly noise: number;
}

/** What is done to the whole picture at last. */
export interface SceneFinish {
  /** stops */
  readonly exposure: number;
  /** straightened pixel → reference pixel, full size */
  readonly straighten: Matrix3;
  readonly noise: number;
  readonly sharpen: Sharpen;
}

/** Frames that were turned about one point, as they are laid out on a panorama's paper. */
export interface TurnedSet {
  readonly fit: PanoramaFit;
  readonly canvas: PanoramaCanvas;
  /** index of the reference, or of what stands for it; −1 for none */
  readonly reference: number;
  /** in the order of the fit: what is joined there, undefined while it is not at hand, and its exposure against the reference, EV */
  readonly frames: readonly {
    readonly levels: readonly EncodedImage[] | undefined;
    readonly stops: number;
  }[];
}

/** Everything the views are made from; all pixels in shared memory. */
export interface ViewScene {
  /** the same as long as frames and merge have the same pixels in the same places; where it is given, planes made from them may be kept */
  readonly pixels?: string;
  /** size of the reference */
  readonly width: number;
  readonly height: number;
  readonly frames: readonly SceneFrame[];
  readonly merge?: SceneMerge;
  /** of a fitted panorama */
  readonly turned?: TurnedSet;
  /** the same set merged the other way, to be compared */
  readonly rival?: SceneMerge;
  /** for everything that comes from the set, and for the whole */
  readonly match: { readonly set: Adjust; readonly whole: Adjust };
  /** visible layers, bottom first */
  readonly layers: readonly SceneLayer[];
  readonly finish: SceneFinish;
}

/** What to look at. */
export type View =
  /** all layers, matched, on the reference's grid */
  | { readonly kind: 'result' }
  /** straightened, noise taken out, exposed and sharpened, on its own grid */
  | { readonly kind: 'finished' }
  /** the merged picture alone, or the one of the other method */
  | { readonly kind: 'merge'; readonly rival: boolean }
  /** the finished picture before the work of a step: `fit` is the reference as it was shot */
  | {
      readonly kind: 'before';
      readonly step: 'fit' | 'layers' | 'match' | 'finish';
      readonly finished: boolean;
    }
  /** the finished picture, hatched where sharpening is kept out */
  | { readonly kind: 'edges' }
  /** the finished picture, hatched where it clips */
  | { readonly kind: 'proof' }
  /** one frame in its own geometry, clipped pixels hatched on request */
  | { readonly kind: 'shot'; readonly frame: string; readonly clipping: boolean }
  /** one frame on the reference's grid, brightened to the reference's exposure */
  | { readonly kind: 'fitted'; readonly frame: string }
  /** a frame against the reference, or all frames of a panorama against each other */
  | { readonly kind: 'residual'; readonly frame: string; readonly gain: number }
  | { readonly kind: 'origin' }
  /** how far away each place of a focus set is, near light, far dark */
  | { readonly kind: 'depth' }
  | { readonly kind: 'mask'; readonly layer: string };
