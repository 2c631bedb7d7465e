import { type Point } from '../layers/place';
import { type GroundCamera } from './groundView';
import { type LineFamily } from './lines/lineFamilies';
import { type LightRig } from './light';
import { type Air } from './standing';

/** The one space, light and air of everything in a picture. Lengths of the camera are fractions of the picture's long edge; its height metres. */
export interface Space {
  readonly camera: GroundCamera;
  readonly light: LightRig;
  /** nothing is known of the picture's light: that of a plate stands for it */
  readonly unlit?: boolean;
  readonly air?: Air;
  /** upright things that heights are told by */
  readonly yardsticks?: readonly Yardstick[];
  /** straight lines of the picture that the camera was told by */
  readonly lines?: readonly SpaceLine[];
  /** how far off that may be, one standard deviation; left out where a number was set by hand */
  readonly spread?: CameraSpread;
}

/** A straight line of a picture, fractions of its long edge, and what it is in the world. */
export interface SpaceLine {
  readonly from: Point;
  readonly to: Point;
  readonly family: LineFamily;
  /** somebody drew it */
  readonly drawn?: boolean;
}

/** How far off a camera's numbers may be. */
export interface CameraSpread {
  /** fraction of the picture's long edge */
  readonly horizon?: number;
  /** degrees */
  readonly roll?: number;
  /** fraction of the focal length */
  readonly focal?: number;
}

/** most lines that a picture keeps */
export const MOST_SPACE_LINES = 240;

/** Something upright: where it stands, and its upper end; fractions of the picture's long edge. */
export interface Yardstick {
  readonly foot: Point;
  readonly top: Point;
}

/** most yardsticks of a picture */
export const MOST_YARDSTICKS = 12;

/** How a plate stands in the picture's space. */
export interface Stand {
  /** where it meets the ground, fractions of its own long edge */
  readonly foot: Point;
  /** row of its upper end, a fraction of its own long edge; that of its picture when left out */
  readonly top?: number;
  /** the light that it was taken in */
  readonly light: LightRig;
  /** it stands in water */
  readonly water: boolean;
  /** metres from the camera; by where its foot stands when left out */
  readonly distance?: number;
  /** how far it is brought into the picture's light, in stops, 0…1 */
  readonly relight: number;
  /** how deep its shadow is, or how clear its mirror image, 0…1 */
  readonly shadow: number;
}
