import { length2 } from '../../raster/length';

/** Side of the patches in which banding is looked for, pixels at full size. */
export const BAND_PATCH = 48;

/** a slope of at least this many codes of 255 across the patch, and grain below this, make a patch in which steps would show */
const LEAST_SLOPE = 2.5;
const MOST_GRAIN = 0.8;
/** a larger gap between tones is the edge of a thing, codes of 255 */
const LARGEST_STEP = 20;

/**
 * The largest step between neighbouring tones of a smooth patch, codes of 255: about 1 for an 8-bit file, far less in 16 bits, more
 * where tones were torn apart. 0 where the patch is no smooth slope, or its grain hides steps.
 * @param luma encoded 0…1, `size` × `size`
 */
export function bandStep(luma: Float32Array, size: number): number {
  const n = size * size;
  const middle = (size - 1) / 2;
  let [mean, sx, sy] = [0, 0, 0];
  for (let y = 0, i = 0; y < size; y++)
    for (let x = 0; x < size; x++, i++) {
      mean += luma[i];
      sx += luma[i] * (x - middle);
      sy += luma[i] * (y - middle);
    }
  mean /= n;
  const spread = (n * (size * size - 1)) / 12;
  const [ax, ay] = [sx / spread, sy / spread];
  const slope = 255 * length2(ax, ay) * size;
  let rest = 0;
  for (let y = 0, i = 0; y < size; y++)
    for (let x = 0; x < size; x++, i++) rest += (luma[i] - mean - ax * (x - middle) - ay * (y - middle)) ** 2;
  const grain = 255 * Math.sqrt(rest / n);
  const sorted = luma.slice().sort();
  let gap = 0;
  // the outermost tones may stand alone
  for (let i = Math.floor(n * 0.02); i < n * 0.98 - 1; i++)
    gap = Math.max(gap, 255 * (sorted[i + 1] - sorted[i]));
  if (gap > LARGEST_STEP) return 0;
  return slope >= LEAST_SLOPE && grain <= Math.max(MOST_GRAIN, 0.5 * gap) ? gap : 0;
}
