import { type EncodedImage } from '../../raster/encodedImage';
import { transform, turnAndScale } from '../../raster/matrix3';
import { referenceRegistration, type Registration } from '../registration';
import { type TileResidual } from '../tileResidual';
import { findStars, isStarry, type Star } from './findStars';
import { matchStars } from './matchStars';
import { length2 } from '../../raster/length';

/** so many of the reference's stars must be found again */
const LEAST_SHARE = 0.4;
/** stars that are found again lie within this of each other, pixels; glints and lamps do not */
const FARTHEST = 0.35;

/** A night frame as its stars. */
export interface StarField {
  readonly width: number;
  readonly height: number;
  readonly stars: readonly Star[];
}

/** The stars of a frame, for {@link registerStars}. */
export function starField(image: EncodedImage): StarField {
  return { width: image.width, height: image.height, stars: findStars(image) };
}

/**
 * Registers a night frame by its stars, however the field turned between nights.
 * @returns undefined when the pictures do not show enough of the same stars; they are then no star fields
 */
export function registerStars(reference: StarField, frame: StarField): Registration | undefined {
  const [a, b] = [reference.stars, frame.stars];
  if (!isStarry(reference, a) || !isStarry(frame, b)) return undefined;
  const fit = matchStars(a, b);
  if (!fit || fit.pairs.length < LEAST_SHARE * Math.min(a.length, b.length)) return undefined;
  const { matrix, pairs, residual } = fit;
  if (residual > FARTHEST) return undefined;
  const tiles = pairs.map((p): TileResidual => {
    const [u, v] = transform(matrix, p.x, p.y);
    return { x: p.x, y: p.y, dx: p.u - u, dy: p.v - v, error: p.spread };
  });
  const lengths = tiles.map((t) => length2(t.dx, t.dy)).sort((p, q) => p - q);
  const { turnDegrees, scale } = turnAndScale(matrix, (reference.width - 1) / 2, (reference.height - 1) / 2);
  return {
    ...referenceRegistration(),
    matrix,
    model: 'perspective',
    turnDegrees,
    scale,
    // the map has eight unknowns, shared by all pairs
    bound: 2.5 * residual * Math.sqrt(4 / pairs.length) + 0.003,
    residual: { typical: residual, worst: lengths[Math.floor(0.95 * lengths.length)] },
    tiles,
  };
}
