import { invert, normalise, transform, turnAndScale } from '../raster/matrix3';
import { type Registration } from './registration';
import { type TileResidual } from './tileResidual';

/**
 * The fit of a reference to a frame as the fit of the frame to the reference.
 * @param fit of the reference to the frame: frame pixel → reference pixel
 * @param width of the reference, full-size pixels; `height` alike
 */
export function reversed(fit: Registration, width: number, height: number): Registration {
  const matrix = normalise(invert(fit.matrix));
  const { turnDegrees, scale } = turnAndScale(matrix, (width - 1) / 2, (height - 1) / 2);
  // what is left over was measured in pixels of the reference, and lies on the frame
  const tiles = fit.tiles.map(({ x, y, dx, dy, error }): TileResidual => {
    const [u, v] = transform(fit.matrix, x, y);
    const [p, q] = transform(matrix, u + dx, v + dy);
    return { x: u, y: v, dx: x - p, dy: y - q, error: error * scale };
  });
  const { typical, worst } = fit.residual;
  return {
    ...{ ...fit, matrix, turnDegrees, scale, tiles, bound: fit.bound * scale },
    residual: { typical: typical * scale, worst: worst * scale },
  };
}
