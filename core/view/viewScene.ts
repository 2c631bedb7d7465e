import { type Sharpen } from '../finish/sharpen';
import { type Node } from '../graph/graph';
import { type Value } from '../graph/tile';
import { type PanoramaCanvas } from '../merge/panorama/canvas';
import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3 } from '../raster/matrix3';
import { type PanoramaFit } from '../register/rotation/fitPanorama';
import { type MaskForm } from './showMask';

/** A frame with its pixels: levels from full size down. */
export interface SceneFrame {
  readonly id: string;
  readonly levels: readonly EncodedImage[];
  /** reference pixel → frame pixel, full size; absent while it is not fitted */
  readonly matrix?: Matrix3;
  /** exposure relative to the reference, EV */
  readonly stops: number;
}

/** A merged picture and who made it. */
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

/** A set to be looked at by itself, on its own grid. */
export interface SetScene {
  readonly width: number;
  readonly height: number;
  readonly frames: readonly SceneFrame[];
  readonly merge?: SceneMerge;
  /** of a fitted panorama */
  readonly turned?: TurnedSet;
}

/** What the evaluator needs to draw pictures: their nodes, and what was made beforehand. */
export interface DrawnGraph {
  readonly nodes: ReadonlyMap<string, Node>;
  readonly made: ReadonlyMap<string, Value>;
}

/** The picture as a graph that can be drawn. */
export interface PictureScene extends DrawnGraph {
  /** hashes of its nodes */
  readonly result: string;
  readonly finished: string;
  /** straightened pixel → picture pixel, full size */
  readonly straighten: Matrix3;
}

/** Everything the views are made from; all pixels in shared memory. */
export interface ViewScene {
  /** size of the picture */
  readonly width: number;
  readonly height: number;
  /** absent while nothing is merged */
  readonly picture?: PictureScene;
  /** the set that is looked at */
  readonly set: SetScene;
}

/** What a state of the picture is compared with. */
export type Compared = { readonly node: string } | { readonly frame: string };

/** What to look at. */
export type View =
  /** all layers with their edits, on the picture's grid */
  | { readonly kind: 'result' }
  /** set straight, with what is done at last, on its own grid */
  | { readonly kind: 'finished' }
  /** any state of the picture by the hash of its node; late ones lie on the straightened grid */
  | { readonly kind: 'node'; readonly node: string; readonly late: boolean }
  /** the reference of the set as it was shot, where the finished grid has it on request */
  | { readonly kind: 'reference'; readonly finished: boolean }
  /** the finished picture, hatched where sharpening is kept out; the node is what is sharpened */
  | { readonly kind: 'edges'; readonly node: string; readonly sharpen: Sharpen }
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
  /** how far a state of the picture lies from another one, or from a frame that is fitted to it: CIEDE2000 in greys */
  | { readonly kind: 'difference'; readonly node: string; readonly to: Compared }
  /** a mask on the picture, hatched where nothing else is said */
  | { readonly kind: 'mask'; readonly mask: string; readonly late: boolean; readonly form?: MaskForm };

/** Whether a view shows a set on its own grid rather than the picture. */
export function isOfSet({ kind }: View): boolean {
  return ['shot', 'fitted', 'residual', 'origin', 'depth'].includes(kind);
}

/** Whether a view shows the straightened grid. */
export function isStraightened(view: View): boolean {
  switch (view.kind) {
    case 'finished':
    case 'edges':
    case 'proof':
      return true;
    case 'node':
    case 'mask':
      return view.late;
    case 'reference':
      return view.finished;
    default:
      return false;
  }
}
