import { type Rectangle } from '../raster/raster';

/** the finest detail is looked at in a square of each cell of a grid so many cells each way, so large, full-size pixels */
const [CELLS, SIDE] = [4, 64];

/** A picture at a small size: its green, and how far a change is made there. */
interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly plane: Float32Array;
  readonly mask?: Float32Array;
}

/**
 * Where what is done to the finest detail shows most: of each cell of a grid the steepest place at which it is done, as squares of the full size.
 * @param level halvings to the small picture
 */
export function tellingSquares(
  { width: w, height: h, plane, mask }: SmallPicture,
  level: number,
  full: { readonly width: number; readonly height: number },
): Rectangle[] {
  const best = new Float32Array(CELLS * CELLS);
  const place = new Int32Array(CELLS * CELLS).fill(-1);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const across = Math.abs(plane[x + 1 < w ? i + 1 : i] - plane[i]);
      const down = Math.abs(plane[y + 1 < h ? i + w : i] - plane[i]);
      // an even place tells something too
      const tells = (across + down + 1e-3) * (mask ? mask[i] : 1);
      const cell = Math.floor((y * CELLS) / h) * CELLS + Math.floor((x * CELLS) / w);
      if (tells > best[cell]) {
        best[cell] = tells;
        place[cell] = i;
      }
    }
  const [width, height] = [Math.min(SIDE, full.width), Math.min(SIDE, full.height)];
  const start = (at: number, side: number, whole: number): number =>
    Math.max(0, Math.min(whole - side, Math.floor((at + 0.5) * 2 ** level - side / 2)));
  return [...place].flatMap((i) =>
    i < 0
      ? []
      : [
          {
            x: start(i % w, width, full.width),
            y: start(Math.floor(i / w), height, full.height),
            ...{ width, height },
          },
        ],
  );
}
