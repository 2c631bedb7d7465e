import { invert, type Matrix3 } from '../raster/matrix3';

/** An ICC profile opened by a colour engine. */
export interface OpenProfile {
  readonly space: 'grey' | 'rgb' | 'cmyk';
  /** device values 0…1, interleaved, to CIE XYZ of the D50 connection space (white is 0.9642, 1, 0.8249), unbounded */
  readonly toXyz: (device: Float32Array) => Float32Array;
}

/** Opens a profile; undefined for one that is damaged or of another colour space. Given by the platform. */
export type ProfileOpener = (profile: Uint8Array) => Promise<OpenProfile | undefined>;

/** sRGB primaries adapted to D50 by Bradford, columns R G B (ICC.1 annex E; IEC 61966-2-1). */
const SRGB_D50: Matrix3 = [
  0.436065674, 0.385147095, 0.143066406, 0.222488403, 0.716873169, 0.06060791, 0.013916016, 0.097076416,
  0.714096069,
];

/** D50 XYZ to linear sRGB, row-major. */
export const XYZ_TO_SRGB: Matrix3 = invert(SRGB_D50);

/**
 * Linear ROMM RGB adapted to D65 to linear sRGB: the inverse of the matrix that the open raw developer uses from sRGB
 * (its published `prophoto_rgb` table).
 */
export const ROMM_D65_TO_SRGB: Matrix3 = invert([
  0.529317, 0.330092, 0.140588, 0.098368, 0.873465, 0.028169, 0.016879, 0.117663, 0.865457,
]);
