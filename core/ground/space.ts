import { type Point } from '../layers/place';
import { type Matrix3 } from '../raster/matrix3';
import { type PictureGrid } from '../recipe/pictureGrid';
import { type GroundCamera } from './groundView';
import { type LightRig } from './light';
import { type Air, type Standing } from './standing';

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

/** A plate's stand in pixels. @param own size of the plate */
export function standingOf(
  { camera, light, air }: Space,
  stand: Stand,
  matrix: Matrix3,
  own: { readonly width: number; readonly height: number },
  grid: PictureGrid,
): Standing {
  const long = Math.max(grid.width, grid.height);
  const ownLong = Math.max(own.width, own.height);
  const { principal } = camera;
  return {
    matrix,
    camera: {
      focal: camera.focal * long,
      principal: [principal[0] * long, principal[1] * long],
      horizon: camera.horizon * long,
      height: camera.height,
    },
    foot: [stand.foot[0] * ownLong, stand.foot[1] * ownLong],
    from: stand.light,
    to: light,
    water: stand.water,
    relight: stand.relight,
    shadow: stand.shadow,
    ...(air ? { air } : {}),
    ...(stand.distance === undefined ? {} : { distance: stand.distance }),
  };
}
