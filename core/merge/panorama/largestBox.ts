import { type Rectangle } from '../../raster/raster';
import { length2 } from '../../raster/length';

/**
 * The largest rectangle of cells that are all covered, by the heights of runs in each row and a stack (common practice).
 * @param ratio width / height to keep, or `free`; of a kept ratio one in the middle is preferred to one that is larger by less than a hundredth
 * @returns cells; undefined when nothing is covered
 */
export function largestBox(
  covered: ArrayLike<number>,
  width: number,
  height: number,
  ratio: number | 'free',
): Rectangle | undefined {
  const run = new Int32Array(width + 1);
  // columns whose runs rise from left to right
  const stack = new Int32Array(width + 1);
  let best: Rectangle | undefined;
  let most = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) run[x] = covered[y * width + x] ? run[x] + 1 : 0;
    let depth = 0;
    for (let x = 0; x <= width; x++) {
      while (depth > 0 && run[stack[depth - 1]] >= run[x]) {
        const tall = run[stack[--depth]];
        const left = depth > 0 ? stack[depth - 1] + 1 : 0;
        if (tall * (x - left) <= most) continue;
        const box = fitted({ x: left, y: y - tall + 1, width: x - left, height: tall }, ratio);
        const area = box.width * box.height * (ratio === 'free' ? 1 : 1 - ASIDE * aside(box, width, height));
        if (area > most) {
          most = area;
          best = box;
        }
      }
      stack[depth++] = x;
    }
  }
  return best;
}

/** share of its area that a box's place in a corner counts against it */
const ASIDE = 0.01;

/** How far a box lies from the middle: 0 there, 1 in a corner. */
function aside(box: Rectangle, width: number, height: number): number {
  const [x, y] = [box.x + (box.width - width) / 2, box.y + (box.height - height) / 2];
  return length2(x / width, y / height) * Math.SQRT2;
}

/** The middle of a box at a ratio. */
function fitted(box: Rectangle, ratio: number | 'free'): Rectangle {
  if (ratio === 'free') return box;
  const width = Math.min(box.width, Math.floor(box.height * ratio));
  const height = Math.min(box.height, Math.floor(box.width / ratio));
  return {
    x: box.x + ((box.width - width) >> 1),
    y: box.y + ((box.height - height) >> 1),
    width,
    height,
  };
}
