import { boxMean } from '../../raster/boxMean';
import { type Plane } from '../../raster/pyramid';

/** cells around a place whose detail is asked; measured on the stand-in scenes against 1, 3 and 4 */
export const WINDOW = 2;
/** how clearly the sharper frame wins: shares go by this power of the energy; measured against 2, 4 and 8 */
const CONTRAST = 6;
/** beyond this many floors the sharper frame has won */
const MOST = 1e5;
/** energy that counts as nothing, over that of the noise, and at least (0.0015 of white)² */
const FLOOR = 3;
const LEAST = 2.25e-6;

/** Variance that white noise of variance 1 keeps in each level of a Laplacian pyramid of the five-tap kernel (measured on noise). */
const LEVEL_NOISE = [0.89, 0.053, 0.0102, 0.0024, 0.00058, 0.00015] as const;

/**
 * How much detail one frame shows at each place of one level of its Laplacian pyramid, as a share that is not yet set against the other
 * frames': the local energy of all channels (Burt & Kolczynski 1993) over a floor that noise alone would reach, to a power that lets the
 * sharper frame win and frames that show nothing share the place evenly.
 * @param level halvings from full size @param noise variance of one channel of the frame, encoded
 */
export function salience(
  planes: readonly Plane[],
  level: number,
  noise: number,
  seen: Float32Array,
): Float32Array {
  const { width, height } = planes[0];
  const energy = new Float32Array(width * height);
  for (const { data } of planes) for (let i = 0; i < energy.length; i++) energy[i] += data[i] * data[i];
  const local = boxMean(energy, width, height, WINDOW);
  const { own, floor } = salienceFloor(planes.length, level, noise);
  for (let i = 0; i < local.length; i++) {
    const e = 1 + Math.min(MOST, Math.max(0, local[i] - own) / floor);
    local[i] = e ** CONTRAST * seen[i];
  }
  return local;
}

/** Energy that noise alone has in a level of so many channels, and the floor over which detail counts. @param noise variance of one channel */
export function salienceFloor(
  channels: number,
  level: number,
  noise: number,
): { own: number; floor: number } {
  const own = channels * noise * LEVEL_NOISE[Math.min(level, LEVEL_NOISE.length - 1)];
  return { own, floor: FLOOR * own + LEAST };
}
