import { emptyImage, type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { type Matrix3, multiply, invert, levelToFull } from '../raster/matrix3';
import { coverage, warpImage } from '../raster/warp';

/** rows that are drawn at a time, so that planes stay small */
const ROWS = 256;

/**
 * A frame drawn on the reference's grid, for a fit that only has a little left to find. Where the frame does not reach it is white, as what
 * clips counts for nothing.
 * @param matrix reference pixel → frame pixel
 */
export function laidOver(
  frame: EncodedImage,
  matrix: Matrix3,
  { width, height }: Pick<EncodedImage, 'width' | 'height'>,
): EncodedImage {
  // what is drawn much smaller must not be sampled between its pixels
  let [source, map] = [frame, matrix];
  const scale = Math.sqrt(Math.abs(matrix[0] * matrix[4] - matrix[1] * matrix[3]));
  for (let level = 1; scale / 2 ** level > 0.71; level++) {
    source = halveImage(source);
    map = multiply(invert(levelToFull(level)), matrix);
  }
  const out = emptyImage(width, height, frame.white);
  const { data, white } = out;
  for (let y = 0; y < height; y += ROWS) {
    const area = { x: 0, y, width, height: Math.min(ROWS, height - y) };
    const planes = warpImage(source, map, area, 'lanczos');
    const covered = coverage(source, map, area, 0);
    for (let i = 0, o = y * width * 3; i < covered.length; i++, o += 3)
      for (let c = 0; c < 3; c++)
        data[o + c] = covered[i] === 1 ? Math.min(white, Math.max(0, planes[c][i] * white + 0.5)) : white;
  }
  return out;
}
