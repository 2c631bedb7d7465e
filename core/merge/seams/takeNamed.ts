import { type ReducedGrid } from '../../raster/reducedGrid';
import { type GridFrame } from '../frameOnGrid';
import { type MoverTakes } from '../fusionPlan';
import { chooseSeams } from './chooseSeams';
import { evenLight } from './evenLight';
import { NEVER } from './expandLabels';
import { grownCells } from './grownCells';
import { pasteThings } from './pasteThings';
import { segmentCells } from './segmentCells';
import { thingCells } from './thingCells';

/** what it costs that a cell comes from elsewhere than before though nobody asked for it, for all cells of a long edge together */
const CHANGED = 0.15;
/** cells about what hangs together, and at the edge of a segment, in which the seam is sought */
const [FREE, UNSURE] = [6, 2];
/** what holds a cell to the frame that was pointed out for it */
const HELD = NEVER / 4;

/** What was pointed out, taken. */
export interface NamedTakes {
  /** [cell] index of the frame that makes it */
  readonly made: Int16Array;
  /** [cell] the same where things are not counted, which are laid in: what the picture is blended by */
  readonly label: Int16Array;
  /** things that are laid in */
  readonly takes?: MoverTakes;
}

/**
 * Lets frames take what was pointed out in them, with all that hangs together with it, from whatever made it before. A thing that stands out from what is the same
 * in both is laid into the light that is there; where the light changed all over, what was pointed at comes as it is, as the sky of another hour, as far as its
 * colours reach, cut where it shows least.
 * @param start [cell] index of the frame that made it before
 * @param named [cell] index of the frame that was pointed out there, −1 for none
 */
export function takeNamed(
  frames: readonly GridFrame[],
  start: Int16Array,
  named: Int16Array,
  reference: number,
  grid: ReducedGrid,
): NamedTakes {
  const tried = frames.map((_, f) => f).filter((f) => named.includes(f));
  if (tried.length === 0) return { made: start, label: start };
  const even = evenLight(frames, reference);
  const asked = named.slice();
  const things = new Int16Array(start.length).fill(-1);
  // where each frame may take anything
  const within: Uint8Array[] = frames.map(() => new Uint8Array(0));
  for (const f of tried) {
    const pointed = Uint8Array.from(named, (v) => (v === f ? 1 : 0));
    const thing = thingCells(
      pointed,
      even[f],
      even.filter((_, g) => g !== f),
      grid,
    );
    const whole = thing ?? segmentCells(frames[f], named, f, grid);
    const inside = thing ?? shrunkCells(whole, grid);
    inside.forEach((on, i) => {
      // what was pointed out elsewhere is not taken along
      if (!on || (named[i] >= 0 && named[i] !== f)) return;
      asked[i] = f;
      if (thing) things[i] = f;
    });
    pointed.forEach((on, i) => on && (whole[i] = 1));
    within[f] = grownCells(whole, grid.width, grid.height, FREE);
  }
  const changed = CHANGED / Math.max(grid.width, grid.height);
  const own = frames.map((_, f) =>
    Float32Array.from(start, (from, i) => {
      const wish = asked[i];
      if (wish >= 0 && frames[wish].seen[i] > 0) return wish === f ? 0 : HELD;
      if (from === f) return 0;
      return within[f][i] ? changed : HELD;
    }),
  );
  const free = Uint8Array.from(start, (_, i) => (tried.some((f) => within[f][i]) ? 1 : 0));
  const made = chooseSeams(even, own, start, tried, grid, free);
  const laid = wholeThings(made, start, things, grid);
  const label = made.map((f, i) => (laid[i] >= 0 ? start[i] : f));
  const takes = pasteThings(laid, frames, composed(frames, start), grid);
  return { made, label, ...(takes ? { takes } : {}) };
}

/** A picture of which each cell comes from one frame. */
function composed(frames: readonly GridFrame[], label: Int16Array): GridFrame {
  return {
    planes: frames[0].planes.map((_, c) => Float32Array.from(label, (f, i) => frames[f].planes[c][i])),
    seen: Float32Array.from(label, (f, i) => frames[f].seen[i]),
  };
}

/** [cell] index of the frame whose thing reaches there, −1 for none: each thing with all that the cut gave it. */
function wholeThings(
  made: Int16Array,
  start: Int16Array,
  things: Int16Array,
  { width: w, height: h }: ReducedGrid,
): Int16Array {
  const whole = new Int16Array(made.length).fill(-1);
  const stack: number[] = [];
  things.forEach((f, i) => {
    if (f < 0 || made[i] !== f) return;
    whole[i] = f;
    stack.push(i);
  });
  for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
    const [f, x] = [whole[i], i % w];
    for (const j of [x > 0 ? i - 1 : i, x + 1 < w ? i + 1 : i, i >= w ? i - w : i, i + w < w * h ? i + w : i])
      if (whole[j] < 0 && made[j] === f && start[j] !== f) {
        whole[j] = f;
        stack.push(j);
      }
  }
  return whole;
}

/** Cells of a segment away from its edge. */
function shrunkCells(segment: Uint8Array, { width, height }: ReducedGrid): Uint8Array {
  const beyond = grownCells(
    segment.map((on) => 1 - on),
    width,
    height,
    UNSURE,
  );
  return beyond.map((on) => 1 - on);
}
