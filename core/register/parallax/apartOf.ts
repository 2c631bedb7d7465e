import { type EncodedImage } from '../../raster/encodedImage';
import { invert, type Matrix3, transform } from '../../raster/matrix3';
import { isSure, isTold, seekMesh } from './measureBend';
import { length2 } from '../../raster/length';

/** How far parts of a frame lie from the reference though the rest of it fits: they are nearer or farther, or moved. */
export interface Apart {
  /** pixels of the frame that they are off by; nine of ten by less */
  readonly px: number;
  /** share of what could be compared, 0…1 */
  readonly share: number;
  /** the place that is off most, full-size pixels of the reference */
  readonly x: number;
  readonly y: number;
}

/** looked for on pictures of this long edge at most, pixels: what is off by less than a pixel of these doubles no edge that is seen at a glance */
const LOOKED_AT = 600;
/** what is off by less is the scatter of the search, pixels of the level */
const SCATTER = 0.5;
/** what is nearer shifts as its surroundings do: by this part of a shift that of a neighbour may be another; water and leaves go each their own way */
const UNLIKE = 0.5;
/** so little may be strays */
const LEAST_SHARE = 0.02;
const LEAST_PLACES = 4;

/** What of a frame lies elsewhere than its fit says; undefined where all of it lies as it should. */
export function apartOf(
  reference: EncodedImage,
  frame: EncodedImage,
  matrix: Matrix3,
  stops: number,
): Apart | undefined {
  const sought = seekMesh(reference, frame, matrix, stops, LOOKED_AT);
  const { columns, rows, cell, shifts } = sought.mesh;
  const off: { readonly by: number; readonly v: number }[] = [];
  const isOff = (v: number): boolean =>
    isSure(sought, v) && isTold(sought, v) && length2(shifts[2 * v], shifts[2 * v + 1]) > SCATTER;
  const goesAlong = (v: number, by: number): boolean =>
    [v % columns > 0 ? v - 1 : -1, (v + 1) % columns > 0 ? v + 1 : -1, v - columns, v + columns].some(
      (n) =>
        n >= 0 &&
        n < columns * rows &&
        isOff(n) &&
        length2(shifts[2 * n] - shifts[2 * v], shifts[2 * n + 1] - shifts[2 * v + 1]) < UNLIKE * by,
    );
  let [told, together] = [0, 0];
  for (let v = 0; v < columns * rows; v++) {
    if (!isSure(sought, v) || !isTold(sought, v)) continue;
    told++;
    const by = length2(shifts[2 * v], shifts[2 * v + 1]);
    if (by <= SCATTER) continue;
    off.push({ by, v });
    if (goesAlong(v, by)) together++;
  }
  if (together < Math.max(LEAST_PLACES, LEAST_SHARE * told)) return undefined;
  off.sort((a, b) => a.by - b.by);
  const [x, y] = [off[off.length - 1].v % columns, Math.floor(off[off.length - 1].v / columns)];
  const [u, v] = transform(invert(matrix), x * cell * sought.size, y * cell * sought.size);
  const px = sought.size * off[Math.floor(0.9 * (off.length - 1))].by;
  return { px, share: off.length / told, x: u, y: v };
}
