import { croppedPlane } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { coveringAt, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { maskOf } from '../../graph/wanted';
import { boxMean } from '../../raster/boxMean';

/** radius from which a mask is softened at half the size: what three boxes of 24 pixels leave has nothing finer (error under 1/255) */
const WIDE = 48;

/**
 * The level at which a mask is softened, and the radii of three boxes, pixels of that level: as wide together as three boxes of `radius` at full
 * size, though each is a whole number (Kovesi, Fast Almost-Gaussian Filtering, 2010).
 */
function softening(
  radius: number,
  level: number,
): { readonly at: number; readonly boxes: readonly number[] } {
  let at = level;
  while (radius / 2 ** at > WIDE) at++;
  const full = 2 * Math.round(radius) + 1;
  const variance = (full * full - 1) / 4 / 4 ** at;
  const ideal = Math.sqrt(4 * variance + 1);
  const least = 2 * Math.floor((ideal - 1) / 2 + 1e-9) + 1;
  const smaller = Math.round((12 * variance - 3 * least * least - 12 * least - 9) / (-4 * least - 4));
  return { at, boxes: [0, 1, 2].map((pass) => (least - 1) / 2 + (pass < smaller ? 0 : 1)) };
}

const reachOf = (boxes: readonly number[]): number => boxes.reduce((a, b) => a + b, 0);

/** Where the mask is wanted to soften a place: three boxes reach as far, and one pixel more to read between. */
function source(radius: number, at: At): At {
  const { at: level, boxes } = softening(radius, at.level);
  return coveringAt(at, level, reachOf(boxes) + (level === at.level ? 0 : 1));
}

/** A mask softened by three box means, nearly a Gaussian; however wide, no more than a tile and its softened surroundings is in memory. */
export const featherMask = operator<{ readonly radius: number }>({
  kind: 'featherMask',
  version: 1,
  gives: 'mask',
  needs: ({ radius }, at) => source(radius, at),
  run: ([input], { radius }, at) => {
    const { boxes } = softening(radius, at.level);
    const from = source(radius, at);
    const { width, height } = from.area;
    let { plane } = maskOf(input, 'a feather');
    for (const half of boxes) if (half > 0) plane = boxMean(plane, width, height, half);
    if (from.level === at.level)
      return { is: 'mask', plane: croppedPlane(plane, width, height, reachOf(boxes)) };
    return { is: 'mask', plane: resampled(plane, from, at) };
  },
});
