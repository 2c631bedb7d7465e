import { type Matrix3 } from '../raster/matrix3';
import { type PictureGrid } from '../recipe/pictureGrid';
import { cameraOn } from './cameraOn';
import { type Space, type Stand } from './space';
import { type Standing } from './standing';

/** A plate's stand in pixels. @param own size of the plate */
export function standingOf(
  { camera, light, air }: Space,
  stand: Stand,
  matrix: Matrix3,
  own: { readonly width: number; readonly height: number },
  grid: PictureGrid,
): Standing {
  const ownLong = Math.max(own.width, own.height);
  return {
    matrix,
    camera: cameraOn(camera, grid),
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
