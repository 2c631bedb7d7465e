import { pasteGain } from '../../repair/pasteGain';
import { sharedFloats } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';
import { srgbToLinear } from '../../raster/srgb';
import { type GridFrame } from '../frameOnGrid';
import { type MoverTakes } from '../fusionPlan';
import { softened } from '../movers/takeMovers';

/** cells about a thing in which its surroundings are looked at, and over which their light is averaged */
const [AROUND, MEAN] = [12, 2];

/**
 * Things of several frames laid into what made the picture before, in the light of their surroundings there (gradient-domain pasting, Pérez, Gangnet & Blake 2003).
 * @param things [cell] index of the frame whose thing lies there, −1 for none
 * @param before what makes the picture elsewhere
 * @returns undefined when there is none
 */
export function pasteThings(
  things: Int16Array,
  frames: readonly GridFrame[],
  before: GridFrame,
  grid: ReducedGrid,
): MoverTakes | undefined {
  const { width: w, height: h, level } = grid;
  const given = frames.map((_, f) => f).filter((f) => things.includes(f));
  if (given.length === 0) return undefined;
  const planes = frames.map((_, f) =>
    given.includes(f)
      ? softened(
          Float32Array.from(things, (t) => (t === f ? 1 : 0)),
          w,
          h,
        )
      : undefined,
  );
  const gains = frames.map((frame, f) =>
    given.includes(f) ? gainsOf(things, f, frame, before, grid) : undefined,
  );
  return { width: w, height: h, level, stops: frames.map(() => 0), planes, gains };
}

/** [channel][cell] times which a frame’s light is laid there; 1 away from its things. */
function gainsOf(
  things: Int16Array,
  frame: number,
  own: GridFrame,
  before: GridFrame,
  { width: w, height: h }: ReducedGrid,
): Float32Array[] {
  let [left, top, right, bottom] = [w, h, -1, -1];
  things.forEach((t, i) => {
    if (t !== frame) return;
    const [x, y] = [i % w, Math.floor(i / w)];
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
  });
  [left, top] = [Math.max(0, left - AROUND), Math.max(0, top - AROUND)];
  const [bw, bh] = [Math.min(w, right + AROUND + 1) - left, Math.min(h, bottom + AROUND + 1) - top];
  const cellOf = (k: number): number => (top + Math.floor(k / bw)) * w + left + (k % bw);
  const known = new Uint8Array(bw * bh);
  for (let k = 0; k < known.length; k++) {
    const i = cellOf(k);
    known[k] = things[i] < 0 && own.seen[i] > 0 && before.seen[i] > 0 ? 1 : 0;
  }
  const light = ({ planes }: GridFrame, c: number): Float32Array =>
    Float32Array.from(known, (_, k) => srgbToLinear(Math.max(0, planes[c][cellOf(k)])));
  return own.planes.map((_, c) => {
    const gain = pasteGain(light(before, c), light(own, c), known, bw, bh, MEAN);
    const out = sharedFloats(w * h).fill(1);
    gain.forEach((g, k) => (out[cellOf(k)] = Math.exp(g)));
    return out;
  });
}
