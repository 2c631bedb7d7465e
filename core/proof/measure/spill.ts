import { deltaE2000, labOf } from '../../colour/deltaE';
import { srgbToLinear } from '../../raster/srgb';
import { type Place } from '../finding';
import { length2 } from '../../raster/length';

/** distance over which a joint is seen as an edge, of the long edge */
const JOINT = 0.008;
/** a mask that falls by less than this over the distance is no edge */
const LEAST_FALL = 0.05;

/**
 * Spill: the step of colour (CIEDE2000) that a painted layer's mask leaves across its own edge. Where the mask falls within a short
 * distance and both pictures differ, a joint or a halo shows; where it melts away slowly, or ends at an object that both share, none does.
 * 95th percentile over the mask's edges.
 * @param without encoded planes without the layer @param withLayer with the layer fully shown @param mask 0…1
 */
export function spillOf(
  without: readonly Float32Array[],
  withLayer: readonly Float32Array[],
  mask: Float32Array,
  width: number,
): { value: number; where?: Place } {
  const height = mask.length / width;
  const reach = JOINT * Math.max(width, height);
  const found: { i: number; e: number }[] = [];
  const lab = (planes: readonly Float32Array[], i: number) =>
    labOf(srgbToLinear(planes[0][i]), srgbToLinear(planes[1][i]), srgbToLinear(planes[2][i]));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const slope = length2(mask[i + 1] - mask[i - 1], mask[i + width] - mask[i - width]) / 2;
      const fall = Math.min(1, slope * reach);
      if (fall < LEAST_FALL) continue;
      found.push({ i, e: fall * deltaE2000(lab(without, i), lab(withLayer, i)) });
    }
  if (found.length < 20) return { value: 0 };
  found.sort((a, b) => a.e - b.e);
  const at = found[Math.floor(0.95 * (found.length - 1))];
  const [x, y] = [at.i % width, Math.floor(at.i / width)];
  return { value: at.e, where: { x: x - 12, y: y - 12, width: 24, height: 24 } };
}
