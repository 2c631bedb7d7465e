import { linearToSrgb } from '../raster/srgb';

const STEPS = 16384;
/** more light than this no matrix makes of white */
const TOP = 1.7;
const SCALE = STEPS / Math.sqrt(TOP);
// the square root spreads the darks: error below 2e-6
const CODES = Float64Array.from({ length: STEPS + 2 }, (_, i) => linearToSrgb((i / STEPS) ** 2 * TOP));

/** sRGB code of light 0…1.7 by a table, since the loops that solve take no powers. */
export function encodeLight(light: number): number {
  if (light <= 0) return 0;
  const p = Math.min(Math.sqrt(light) * SCALE, STEPS);
  const i = Math.floor(p);
  return CODES[i] + (p - i) * (CODES[i + 1] - CODES[i]);
}
