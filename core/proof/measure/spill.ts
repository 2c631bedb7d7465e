import { deltaE2000, labOf } from '../../colour/deltaE';
import { srgbToLinear } from '../../raster/srgb';
import { type Place } from '../finding';

/**
 * Spill: how much a painted layer still changes the picture where its mask fades out. 95th percentile over the fading pixels of the
 * colour difference (CIEDE2000) that the half-shown layer makes; where it follows an object that both pictures share, it is small.
 * @param without encoded planes without the layer @param withLayer with the layer fully shown @param mask 0…1
 */
export function spillOf(
  without: readonly Float32Array[],
  withLayer: readonly Float32Array[],
  mask: Float32Array,
  width: number,
): { value: number; where?: Place } {
  const found: { i: number; e: number }[] = [];
  const lab = (planes: readonly Float32Array[], i: number) =>
    labOf(srgbToLinear(planes[0][i]), srgbToLinear(planes[1][i]), srgbToLinear(planes[2][i]));
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] < 0.1 || mask[i] > 0.9) continue;
    found.push({ i, e: 4 * mask[i] * (1 - mask[i]) * deltaE2000(lab(without, i), lab(withLayer, i)) });
  }
  if (found.length < 20) return { value: 0 };
  found.sort((a, b) => a.e - b.e);
  const at = found[Math.floor(0.95 * (found.length - 1))];
  const [x, y] = [at.i % width, Math.floor(at.i / width)];
  return { value: at.e, where: { x: x - 12, y: y - 12, width: 24, height: 24 } };
}
