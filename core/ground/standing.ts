import { type Matrix3, transform } from '../raster/matrix3';
import { dot, type GroundCamera, groundView, rollOf } from './groundView';
import { type LightColour, type LightRig } from './light';

/** Air between the camera and what is far (Koschmieder 1924). */
export interface Air {
  /** linear colour of air that is endlessly thick */
  readonly colour: LightColour;
  /** share of light that gets lost in it, by metre */
  readonly beta: number;
}

/** How a plate stands in a picture: everything that its light, its shadow and its mirror image follow from. Plain data, full-size pixels. */
export interface Standing {
  /** pixel of the picture → pixel of the plate */
  readonly matrix: Matrix3;
  readonly camera: GroundCamera;
  /** where it meets the ground, pixel of the plate */
  readonly foot: readonly [number, number];
  /** metres from the camera, for the air; along the ground when left out */
  readonly distance?: number;
  /** the light that it was taken in */
  readonly from: LightRig;
  /** the light that it is put in */
  readonly to: LightRig;
  readonly air?: Air;
  /** it stands in water, and is mirrored there */
  readonly water: boolean;
  /** how far each is taken, 0…1 */
  readonly relight: number;
  readonly shadow: number;
}

/** Where a plate stands, in metres. */
export interface Stood {
  /** its foot */
  readonly at: readonly [number, number, number];
  /** metres for a pixel of the plate */
  readonly metres: number;
  /** metres from the camera to its foot */
  readonly distance: number;
}

/** Where the foot of a plate stands on the ground; undefined where it lies above the horizon. */
export function stoodAt({ matrix, camera, foot }: Standing, inverse: Matrix3): Stood | undefined {
  const [x, y] = transform(inverse, ...foot);
  const view = groundView(camera);
  const at = view.groundAt(x, y);
  if (!at) return undefined;
  const depth = dot(at, view.axes[2]);
  // pixels of the plate for one of the picture
  const scale = Math.sqrt(matrix[0] ** 2 + matrix[3] ** 2);
  return { at, metres: depth / camera.focal / scale, distance: Math.sqrt(dot(at, at)) };
}

/** −1 where a plate lies mirrored in the picture: its right is then the picture's left. @param matrix pixel of the picture → pixel of the plate */
export const mirrorOf = (matrix: Matrix3): 1 | -1 => (matrix[0] * matrix[4] < matrix[1] * matrix[3] ? -1 : 1);

/**
 * How far a plate leans against upright in the world, clockwise: sine and cosine.
 * @param inverse pixel of the plate → pixel of the picture
 */
export function leanOf(
  { camera, foot: [x, y] }: Standing,
  inverse: Matrix3,
): readonly [sine: number, cosine: number] {
  const [low, high] = [transform(inverse, x, y), transform(inverse, x, y - 1)];
  const [across, up] = [high[0] - low[0], low[1] - high[1]];
  const length = Math.sqrt(across * across + up * up);
  const [sine, cosine] = rollOf(camera);
  return [(across * cosine - up * sine) / length, (up * cosine + across * sine) / length];
}

/** Share of a thing's own light that reaches the camera through the air: t = e^(−β·d). */
export const transmission = (air: Air | undefined, distance: number): number =>
  air ? Math.fround(Math.exp(-air.beta * distance)) : 1;
