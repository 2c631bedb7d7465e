import { type GroundCamera, groundView } from './groundView';

type Pixel = readonly [x: number, y: number];

/**
 * Metres of something that stands upright, from the pixels of its foot and its top, for a camera one metre above the ground: the horizon cuts all that stands
 * on it at one height (Criminisi, Reid, Zisserman, *Single View Metrology*, 2000).
 * @returns undefined where the foot lies above the horizon, or the top below the foot
 */
function tallAtOneMetre(camera: GroundCamera, foot: Pixel, top: Pixel): number | undefined {
  const view = groundView({ ...camera, height: 1 });
  const at = view.groundAt(...foot);
  if (!at) return undefined;
  const [, dy, dz] = view.ray(...top);
  const tall = 1 + (at[2] * dy) / dz;
  return tall > 1e-3 && dz > 0 ? tall : undefined;
}

/** Metres of something that stands upright; undefined as for {@link eyeHeight}. */
export function tallOf(camera: GroundCamera, foot: Pixel, top: Pixel): number | undefined {
  const tall = tallAtOneMetre(camera, foot, top);
  return tall && camera.height * tall;
}

/**
 * How high above the ground a camera is, metres, from something upright whose height is known.
 * @param foot where it stands, pixels @param top its upper end @param metres between them
 * @returns undefined where the foot lies above the horizon, or the top below the foot
 */
export function eyeHeight(camera: GroundCamera, foot: Pixel, top: Pixel, metres: number): number | undefined {
  const tall = tallAtOneMetre(camera, foot, top);
  return tall && metres / tall;
}
