import { type Matrix3 } from '../raster/matrix3';
import { type PictureGrid } from '../recipe/pictureGrid';
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
