import { type Rectangle } from '../raster/raster';
import { type FillOffsets } from './fillOffsets';
import { patchFill } from './patchFill';

/** pixels of a gap, and of what is looked at around it, that are searched at most: a larger one is filled at a smaller size */
const [MOST_GAP, MOST_AROUND] = [45_000, 700_000];
/** what is less covered by a region than this is not in the gap; what is less than half covered is not taken from */
const [OUTSIDE, TAKEN] = [1 / 255, 0.5];

/** A gap in a picture, drawn at any size. */
export interface GapSource {
  /** full-size pixels: what is looked at */
  readonly around: Rectangle;
  /** encoded R, G, B of a rectangle of a level */
  readonly picture: (level: number, area: Rectangle) => readonly Float32Array[];
  /** how much of each pixel of it is to be filled, 0…1 */
  readonly gap: (level: number, area: Rectangle) => Float32Array;
  /** where it may be taken from, 0…1; anywhere when absent */
  readonly within?: (level: number, area: Rectangle) => Float32Array;
}

function onLevel({ x, y, width, height }: Rectangle, level: number): Rectangle {
  const scale = 2 ** level;
  const [left, top] = [Math.ceil(x / scale), Math.ceil(y / scale)];
  return {
    x: left,
    y: top,
    width: Math.max(1, Math.floor((x + width) / scale) - left),
    height: Math.max(1, Math.floor((y + height) / scale) - top),
  };
}

/**
 * Finds what a gap can be copied from, at the largest size at which that takes a second or so: it is found in the picture as it is before any
 * change, so that later ones need no new search.
 * @returns undefined where there is nothing to fill, or nothing to take
 */
export function fillFrom({ around, picture, gap, within }: GapSource, seed: number): FillOffsets | undefined {
  let level = 0;
  while ((around.width * around.height) / 4 ** level > MOST_AROUND) level++;
  for (; ; level++) {
    const area = onLevel(around, level);
    const hidden = Uint8Array.from(gap(level, area), (v) => (v >= OUTSIDE ? 1 : 0));
    const size = hidden.reduce((sum, v) => sum + v, 0);
    if (size === 0) return undefined;
    if (size > MOST_GAP) continue;
    const { width, height } = area;
    const free = within?.(level, area);
    const taken = Uint8Array.from(hidden, (h, i) => (h || (free?.[i] ?? 1) < TAKEN ? 0 : 1));
    const found = patchFill({ width, height, planes: picture(level, area), gap: hidden, taken }, seed);
    return found && { ...found, level, x: found.x + area.x, y: found.y + area.y };
  }
}
