import { type Point } from '../layers/place';
import { type GroundCamera } from './groundView';
import { type LightRig } from './light';
import { type Air } from './standing';

/** The one space, light and air of everything in a picture. Lengths of the camera are fractions of the picture's long edge; its height metres. */
export interface Space {
  readonly camera: GroundCamera;
  readonly light: LightRig;
  readonly air?: Air;
}

/** How a plate stands in the picture's space. */
export interface Stand {
  /** where it meets the ground, fractions of its own long edge */
  readonly foot: Point;
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
