import { LIGHT_SHARE } from '../../capture/clippedShares';
import { type EncodedImage } from '../../raster/encodedImage';
import { type Place } from '../finding';

/** Clipped lights, parted by size. */
export interface Lamps {
  /** small ones, each under the allowed area */
  readonly count: number;
  /** share of the picture in clipped areas larger than that, 0…1 */
  readonly burnt: number;
  /** the largest clipped area */
  readonly where?: Place;
}

/** Parts clipped areas into small lamps, which may clip, and larger ones (4-connected regions). @param allowed share of the picture a lamp may take */
export function lampsOf(image: EncodedImage, allowed: number): Lamps {
  const { width, height, data, white } = image;
  const high = LIGHT_SHARE * white;
  const clipped = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < clipped.length; i++, p += 3)
    if (data[p] >= high || data[p + 1] >= high || data[p + 2] >= high) clipped[i] = 1;
  const most = allowed * clipped.length;
  let count = 0;
  let burnt = 0;
  let largest = 0;
  let where: Place | undefined;
  const stack: number[] = [];
  for (let start = 0; start < clipped.length; start++) {
    if (clipped[start] !== 1) continue;
    let [size, x0, x1, y0, y1] = [0, width, 0, height, 0];
    stack.push(start);
    clipped[start] = 2;
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      const [x, y] = [i % width, Math.floor(i / width)];
      size++;
      [x0, x1, y0, y1] = [Math.min(x0, x), Math.max(x1, x), Math.min(y0, y), Math.max(y1, y)];
      for (const [j, ok] of [
        [i - 1, x > 0],
        [i + 1, x < width - 1],
        [i - width, y > 0],
        [i + width, y < height - 1],
      ] as const)
        if (ok && clipped[j] === 1) {
          clipped[j] = 2;
          stack.push(j);
        }
    }
    if (size > most) burnt += size;
    else count++;
    if (size > largest) {
      largest = size;
      where = { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
    }
  }
  return { count, burnt: burnt / clipped.length, ...(where ? { where } : {}) };
}
