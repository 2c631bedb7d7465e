import { type At } from '../graph/tile';
import { levelToFull, transform } from '../raster/matrix3';

/** Full-size pixel of a pixel of a tile. */
const toFull = ({ level }: At): ((x: number, y: number) => readonly [number, number]) => {
  const m = levelToFull(level);
  return (x, y) => transform(m, x, y);
};

/** Calls a function for every pixel of a tile, with its place at full size. */
export function eachPixel(at: At, each: (i: number, x: number, y: number) => void): void {
  const full = toFull(at);
  const { x, y, width, height } = at.area;
  for (let v = 0, i = 0; v < height; v++)
    for (let u = 0; u < width; u++, i++) {
      const [px, py] = full(x + u, y + v);
      each(i, px, py);
    }
}
