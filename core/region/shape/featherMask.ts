import { croppedPlane } from '../../graph/cropped';
import { operator } from '../../graph/operator';
import { coveringAt, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { mixed } from '../../graph/mix/mixLight';
import { maskOf } from '../../graph/wanted';
import { boxMean } from '../../raster/boxMean';

/** radius from which a mask is softened at half the size: boxes of six pixels and more, read between pixels, are off by less than 1/255 */
const WIDE = 12;

/** A box mean of so many pixels to each side; with a share, as much of the one that is a pixel wider goes in. */
interface Box {
  readonly half: number;
  readonly wider: number;
}

/** Variance of a box of so many pixels to each side, pixels². */
const varianceOf = (half: number): number => (half * (half + 1)) / 3;

/** The widest box whose variance is no larger. */
const halfOf = (variance: number): number =>
  Math.max(0, Math.floor((Math.sqrt(1 + 12 * variance) - 1) / 2 + 1e-9));

/** What a mask gains in variance by being laid down on a grid, and read between its pixels: a box of one pixel, and lines between, on average. */
const GRID = 1 / 12 + 1 / 6;

/**
 * The level at which a mask is softened, and three boxes on it, in pixels of that level: as wide together as three boxes of `radius` at full size
 * (as in Kovesi, Fast Almost-Gaussian Filtering, 2010, whose whole boxes are off by a few percent where they are small: the last is mixed of two).
 */
function softening(radius: number, level: number): { readonly at: number; readonly boxes: readonly Box[] } {
  let at = level;
  while (radius / 2 ** at >= WIDE) at++;
  const whole = (3 * varianceOf(Math.round(radius))) / 4 ** at;
  const variance = at === level ? whole : whole - GRID * (1 - 0.25 ** (at - level));
  const half = halfOf(variance / 3);
  const second = halfOf((variance - varianceOf(half)) / 2);
  const rest = variance - varianceOf(half) - varianceOf(second);
  const last = halfOf(rest);
  const wider = (rest - varianceOf(last)) / (varianceOf(last + 1) - varianceOf(last));
  return {
    at,
    boxes: [
      { half, wider: 0 },
      { half: second, wider: 0 },
      // rounding alone does not ask for a wider one
      { half: last, wider: wider < 1e-6 ? 0 : wider },
    ],
  };
}

const reachOf = (boxes: readonly Box[]): number =>
  boxes.reduce((sum, { half, wider }) => sum + half + Math.ceil(wider), 0);

/** Where the mask is wanted to soften a place: three boxes reach as far, and one pixel more to read between. */
function source(radius: number, at: At): At {
  const { at: level, boxes } = softening(radius, at.level);
  return coveringAt(at, level, reachOf(boxes) + (level === at.level ? 0 : 1));
}

/** A mask softened by three box means, nearly a Gaussian; however wide, no more than a tile and its softened surroundings is in memory. */
export const featherMask = operator<{ readonly radius: number }>({
  kind: 'featherMask',
  version: 2,
  gives: 'mask',
  needs: ({ radius }, at) => source(radius, at),
  run: ([input], { radius }, at) => {
    const { boxes } = softening(radius, at.level);
    const from = source(radius, at);
    const { width, height } = from.area;
    let { plane } = maskOf(input, 'a feather');
    for (const { half, wider } of boxes) {
      const narrow = half > 0 ? boxMean(plane, width, height, half) : plane;
      plane = wider > 0 ? mixed([narrow], [boxMean(plane, width, height, half + 1)], wider)[0] : narrow;
    }
    if (from.level === at.level)
      return { is: 'mask', plane: croppedPlane(plane, width, height, reachOf(boxes)) };
    return { is: 'mask', plane: resampled(plane, from, at) };
  },
});
