import { alphaImage, type EncodedImage } from '../../raster/encodedImage';
import { IDENTITY, invert, levelToFull, type Matrix3, multiply, toLevel } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { coverage, type Kernel, warpImage } from '../../raster/warp';
import { operator } from '../operator';
import { pictureOf } from '../wanted';
import { length2 } from '../../raster/length';

/** Where a picture lies: grid pixel → picture pixel, both at full size. */
export interface SampleSettings {
  readonly matrix: Matrix3;
  /** the opacity of the picture itself is left out: something else says where it is shown */
  readonly opaque?: true;
}

/** A picture read on a grid, resampled once; beyond its border its edge goes on, without opacity. */
export const samplePicture = operator<SampleSettings>({
  kind: 'samplePicture',
  version: 1,
  gives: 'light',
  run: ([input], { matrix, opaque }, { level, area, kernel }) => {
    const { levels } = pictureOf(input, 'a layer');
    const { image, map } = sourceAt(levels, matrix, level);
    const planes = warpImage(image, map, area, kernel);
    const alpha = opacityIn(opaque ? { ...image, alpha: undefined } : image, map, area, kernel);
    return { is: 'light', planes, encoded: true, ...(alpha ? { alpha } : {}) };
  },
});

/** The level of a picture whose pixels are nearest to the grid's from below, and the map onto it. */
export function sourceAt(
  levels: readonly EncodedImage[],
  matrix: Matrix3,
  level: number,
): { readonly image: EncodedImage; readonly map: Matrix3 } {
  // what is shown much smaller than it is must not be sampled between its pixels
  const smaller = Math.max(0, Math.floor(Math.log2(length2(matrix[0], matrix[3]) * 1.0001)));
  const own = Math.min(level + smaller, levels.length - 1);
  const image = levels[own];
  if (own === level) return { image, map: toLevel(matrix, level) };
  return { image, map: multiply(invert(levelToFull(own)), multiply(matrix, levelToFull(level))) };
}

/** How much of a picture is there on a rectangle, its borders and its own opacity; undefined where all of it is. */
function opacityIn(
  image: EncodedImage,
  map: Matrix3,
  area: Rectangle,
  kernel: Kernel,
): Float32Array | undefined {
  const opacity = alphaImage(image);
  if (!opacity && map.every((v, i) => v === IDENTITY[i]) && inside(image, area)) return undefined;
  const covered = coverage(image, map, area, 0);
  if (!opacity) return covered.includes(0) ? covered : undefined;
  const [alpha] = warpImage(opacity, map, area, kernel);
  return covered.map((v, i) => v * Math.max(0, Math.min(1, alpha[i])));
}

const inside = ({ width, height }: EncodedImage, { x, y, width: w, height: h }: Rectangle): boolean =>
  x >= 0 && y >= 0 && x + w <= width && y + h <= height;
