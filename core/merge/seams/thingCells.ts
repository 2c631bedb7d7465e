import { type ReducedGrid } from '../../raster/reducedGrid';
import { type GridFrame } from '../frameOnGrid';
import { grownCells } from './grownCells';

/** a cell differs from this on, encoded 0…1, and from so many times the median difference on */
const [DIFFERS, TIMES] = [0.05, 4];
/** gaps that do not part a hand from its arm, and what is taken about a thing, cells */
const [GAP, ABOUT] = [2, 4];
/** more of the picture than this is no thing: the light changed */
const MOST = 0.25;
/** how often, and by what, more is let differ before nothing stands out; and how much more than what lies about it a thing then differs */
const [STEPS, HIGHER, CLEARLY] = [6, 1.4, 2.5];

/**
 * The thing that hangs together with what was pointed out in a frame, and a rim about it: all in which the frame differs there from any other. Where the
 * light changed all over, nothing stands out.
 * @param pointed [cell] not 0 where it was pointed at
 * @param others all other frames, in the same light
 * @returns [cell] 1 on the thing; undefined when there is none
 */
export function thingCells(
  pointed: Uint8Array,
  frame: GridFrame,
  others: readonly GridFrame[],
  { width: w, height: h }: ReducedGrid,
): Uint8Array | undefined {
  const apart = new Float32Array(w * h);
  for (const other of others)
    frame.planes.forEach((plane, c) => {
      const beside = other.planes[c];
      for (let i = 0; i < apart.length; i++)
        // the border of a frame is no thing
        if (other.seen[i] > 0 && frame.seen[i] > 0)
          apart[i] = Math.max(apart[i], Math.abs(plane[i] - beside[i]));
    });
  const usual = Math.max(DIFFERS, TIMES * apart.slice().sort()[apart.length >> 1]);
  for (let step = 0, least = usual; step < STEPS; step++, least *= HIGHER) {
    const { thing, count } = connected(pointed, apart, least, w, h);
    if (count === 0) return undefined;
    if (count > MOST * w * h) continue;
    const whole = grownCells(thing, w, h, ABOUT);
    // what only stands out once more is let differ must stand out clearly, or it is a part of light that changed
    return step === 0 || standsOut(apart, thing, whole, w, h) ? whole : undefined;
  }
  return undefined;
}

/** All cells that differ by so much and hang together with what was pointed at. */
function connected(
  pointed: Uint8Array,
  apart: Float32Array,
  least: number,
  w: number,
  h: number,
): { readonly thing: Uint8Array; readonly count: number } {
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
  return { thing, count };
}

/** Whether a thing differs far more than what lies about it. @param whole it with its rim */
function standsOut(apart: Float32Array, thing: Uint8Array, whole: Uint8Array, w: number, h: number): boolean {
  const about = grownCells(whole, w, h, ABOUT);
  const mean = (is: (i: number) => boolean): number => {
    let [sum, count] = [0, 0];
    for (let i = 0; i < apart.length; i++)
      if (is(i)) {
        sum += apart[i];
        count++;
      }
    return count > 0 ? sum / count : 0;
  };
  return mean((i) => thing[i] > 0) > CLEARLY * mean((i) => about[i] > 0 && whole[i] === 0);
}
