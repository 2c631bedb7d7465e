import { type PictureGrid } from '../recipe/pictureGrid';
import { type GroundCamera } from './groundView';

/** A camera whose lengths are fractions of the picture's long edge, in full-size pixels. */
export function cameraOn(
  { focal, principal: [x, y], horizon, height, ...held }: GroundCamera,
  grid: PictureGrid,
): GroundCamera {
  const long = Math.max(grid.width, grid.height);
  return { focal: focal * long, principal: [x * long, y * long], horizon: horizon * long, height, ...held };
}
