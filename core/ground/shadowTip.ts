import { type Direction, type LightDirection, towards } from './light';
import { length2 } from '../raster/length';

const DEGREES = 180 / Math.PI;
/** lower than this a shadow has no end that could be shown, degrees */
const LOWEST = 2;

/** Where the shadow of something upright ends on flat ground, metres; undefined where the sun is too low. @param at its foot @param tall metres */
export function shadowTip(at: Direction, tall: number, sun: LightDirection): Direction | undefined {
  if (sun.elevation < LOWEST) return undefined;
  const [x, y, z] = towards(sun);
  const by = tall / y;
  return [at[0] - by * x, at[1], at[2] - by * z];
}

/**
 * The sun that lays a shadow from a foot to a tip: against the shadow's way, as high as what stands there is over the shadow's length.
 * @returns undefined where both are one place
 */
export function sunOfShadow(at: Direction, tall: number, tip: Direction): LightDirection | undefined {
  const [x, z] = [at[0] - tip[0], at[2] - tip[2]];
  const length = length2(x, z);
  if (length < 1e-6) return undefined;
  return { azimuth: DEGREES * Math.atan2(x, z), elevation: DEGREES * Math.atan2(tall, length) };
}

/** The angle between two directions along the ground, −180…180: how far the first lies clockwise of the second. */
export const turnBetween = (a: LightDirection, b: LightDirection): number =>
  ((((a.azimuth - b.azimuth + 180) % 360) + 360) % 360) - 180;
