import { type ReducedGrid } from '../../raster/reducedGrid';
import { type GridFrame } from '../frameOnGrid';

/** a cell differs from this on, encoded 0…1, and from so many times the median difference on */
const [DIFFERS, TIMES] = [0.05, 4];
/** gaps that do not part a hand from its arm, and what is taken about a thing, cells */
const [GAP, ABOUT] = [2, 4];
/** more of the picture than this is no thing: the light changed */
const MOST = 0.25;

/**
 * The thing that hangs together with what was pointed out in a frame, and a rim about it: all that differs there from what made the picture before. Where
 * the light changed all over, nothing stands out.
 * @param pointed [cell] not 0 where it was pointed at
 * @param before what made the picture before, in the same light
 * @returns [cell] 1 on the thing; undefined when there is none
 */
export function thingCells(
  pointed: Uint8Array,
  frame: GridFrame,
  before: GridFrame,
  { width: w, height: h }: ReducedGrid,
): Uint8Array | undefined {
  const apart = frame.planes[0].map((_, i) =>
    frame.planes.reduce((most, p, c) => Math.max(most, Math.abs(p[i] - before.planes[c][i])), 0),
  );
  const least = Math.max(DIFFERS, TIMES * apart.slice().sort()[apart.length >> 1]);
  const thing = new Uint8Array(w * h);
  const stack: number[] = [];
  pointed.forEach((p, i) => {
    if (p === 0) return;
    thing[i] = 1;
    stack.push(i);
  });
  let count = 0;
  for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
    const [x, y] = [i % w, Math.floor(i / w)];
    for (let v = Math.max(0, y - GAP); v <= Math.min(h - 1, y + GAP); v++)
      for (let u = Math.max(0, x - GAP); u <= Math.min(w - 1, x + GAP); u++) {
        const j = v * w + u;
        if (thing[j] || apart[j] < least) continue;
        thing[j] = 1;
        count++;
        stack.push(j);
      }
  }
  if (count === 0 || count > MOST * w * h) return undefined;
  return grown(thing, w, h, ABOUT);
}

/** Cells within so many of those that are set, squares. */
function grown(set: Uint8Array, w: number, h: number, by: number): Uint8Array {
  const along = new Uint8Array(w * h);
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      if (set[y * w + x]) along.fill(1, y * w + Math.max(0, x - by), y * w + Math.min(w, x + by + 1));
  for (let y = 0; y < h; y++)
    for (let v = Math.max(0, y - by); v <= Math.min(h - 1, y + by); v++)
      for (let x = 0; x < w; x++) if (along[v * w + x]) out[y * w + x] = 1;
  return out;
}
