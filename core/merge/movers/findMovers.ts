import { type FrameLight, frameLight, type MoverFrame } from './consistency';
import { type Mover, type MoverChoice, type Movers } from './mover';

/** a disagreement this many deviations from the consensus is movement */
const DEVIATIONS = 3.5;
/** and at least this large, stops: smaller ones leave no ghost */
const LEAST_STOPS = 0.35;
/** the same against a frame that is burnt out, whose glare may reach a little further */
const LEAST_BURNT = 0.7;
/** grid pixels a region has at least, before it is grown */
const LEAST_PIXELS = 8;
/** how far a region is grown over the soft edge of what moved, grid pixels */
const GROWTH = 2;

/**
 * Finds what moved between fitted frames: places where frames that hold the light of a pixel differ from each other by more than
 * their noise, their exposure curves and a small misfit explain. Each connected place is made by one frame alone.
 * The frame is the one the user chose there, else the reference where it holds the light, else the frame that holds most of it.
 * @param reference index of the reference among `frames`
 */
export function findMovers(
  frames: readonly MoverFrame[],
  reference: number,
  width: number,
  height: number,
  choices: readonly MoverChoice[] = [],
): Movers {
  return moversOf(
    frames.map((f) => frameLight(f, width, height)),
    reference,
    width,
    height,
    choices,
  );
}

/** {@link findMovers} from lights that were measured before, one a frame: the engine measures them in parallel. */
export function moversOf(
  light: readonly FrameLight[],
  reference: number,
  width: number,
  height: number,
  choices: readonly MoverChoice[] = [],
): Movers {
  const { width: w, height: h, level } = light[0];
  const off = disagreement(light);
  const moved = opened(
    off.map((d) => (d > 0 ? 1 : 0)),
    w,
    h,
  );
  const grown = dilated(moved, w, h, GROWTH);
  const { regions, count } = connected(grown, w, h);
  const scale = 2 ** level;
  const boxes = Array.from({ length: count }, () => ({
    x0: w,
    y0: h,
    x1: 0,
    y1: 0,
    n: 0,
    seeds: 0,
    stops: 0,
    seed: 0,
  }));
  for (let i = 0; i < regions.length; i++) {
    if (regions[i] === 0) continue;
    const b = boxes[regions[i] - 1];
    const [x, y] = [i % w, Math.floor(i / w)];
    b.x0 = Math.min(b.x0, x);
    b.x1 = Math.max(b.x1, x + 1);
    b.y0 = Math.min(b.y0, y);
    b.y1 = Math.max(b.y1, y + 1);
    b.n++;
    if (moved[i]) b.seeds++;
    if (off[i] > b.stops) [b.stops, b.seed] = [off[i], i];
  }
  // small specks are noise that slipped through; number what is left anew
  const number = new Uint16Array(count + 1);
  const list: Mover[] = [];
  boxes.forEach((b, k) => {
    if (b.seeds < LEAST_PIXELS) return;
    const box = {
      x: b.x0 * scale,
      y: b.y0 * scale,
      width: Math.min(width, b.x1 * scale) - b.x0 * scale,
      height: Math.min(height, b.y1 * scale) - b.y0 * scale,
    };
    const frame = holderOf(light, regions, k + 1, reference);
    const seed = { x: ((b.seed % w) + 0.5) * scale, y: (Math.floor(b.seed / w) + 0.5) * scale };
    number[k + 1] = list.push({ box, seed, area: b.n / (w * h), frame, stops: b.stops });
  });
  const numbered = regions.map((r) => number[r]);
  return applyChoices({ width: w, height: h, level, regions: numbered, list }, choices);
}

/** Stops by which the frames of each pixel disagree; 0 where they do not, or fewer than two hold its light. */
function disagreement(light: readonly FrameLight[]): Float32Array {
  const [log, spread] = [light.map((l) => l.log), light.map((l) => l.spread)];
  const least = light.map((l) => l.least);
  const out = new Float32Array(log[0].length);
  for (let i = 0; i < out.length; i++) {
    let worst = 0;
    for (let a = 0; a < log.length; a++)
      for (let b = a + 1; b < log.length; b++) {
        // false also where either holds nothing
        const d = Math.abs(log[a][i] - log[b][i]);
        if (!(d >= LEAST_STOPS && d > worst)) continue;
        const [s, t] = [spread[a][i], spread[b][i]];
        if (d * d > DEVIATIONS * DEVIATIONS * (s * s + t * t)) worst = d;
      }
    // a frame that is burnt out says that the light is at least so much; one that holds less has seen something else
    for (let a = 0; a < log.length; a++)
      for (let b = 0; b < log.length; b++) {
        const d = least[b][i] - log[a][i];
        if (d >= LEAST_BURNT && d > worst && d > DEVIATIONS * spread[a][i]) worst = d;
      }
    out[i] = worst;
  }
  return out;
}

/** Drops single pixels: one counts when at least three of its eight neighbours do. */
function opened(mask: Float32Array, w: number, h: number): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let y = 1; y + 1 < h; y++)
    for (let x = 1; x + 1 < w; x++) {
      const i = y * w + x;
      if (!mask[i]) continue;
      let n = 0;
      for (let j = -1; j <= 1; j++) for (let k = -1; k <= 1; k++) n += mask[i + j * w + k];
      if (n >= 4) out[i] = 1;
    }
  return out;
}

function dilated(mask: Uint8Array, w: number, h: number, radius: number): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let i = 0; i < mask.length; i++) {
    if (!mask[i]) continue;
    const [x, y] = [i % w, Math.floor(i / w)];
    for (let j = Math.max(0, y - radius); j <= Math.min(h - 1, y + radius); j++)
      out.fill(1, j * w + Math.max(0, x - radius), j * w + Math.min(w - 1, x + radius) + 1);
  }
  return out;
}

/** Numbers the connected parts (four neighbours) from 1. */
function connected(mask: Uint8Array, w: number, h: number): { regions: Uint16Array; count: number } {
  const regions = new Uint16Array(mask.length);
  let count = 0;
  const stack: number[] = [];
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || regions[start] || count === 65535) continue;
    count++;
    stack.push(start);
    regions[start] = count;
    while (stack.length > 0) {
      const i = stack.pop() ?? 0;
      const [x, y] = [i % w, Math.floor(i / w)];
      const visit = (j: number): void => {
        if (!mask[j] || regions[j]) return;
        regions[j] = count;
        stack.push(j);
      };
      if (x > 0) visit(i - 1);
      if (x + 1 < w) visit(i + 1);
      if (y > 0) visit(i - w);
      if (y + 1 < h) visit(i + w);
    }
  }
  return { regions, count };
}

/** The reference where it holds nearly as much of a region's light as any frame, else the frame that holds it with least spread. */
function holderOf(
  light: readonly FrameLight[],
  regions: Uint16Array,
  region: number,
  reference: number,
): number {
  const [log, spread] = [light.map((l) => l.log), light.map((l) => l.spread)];
  const held = log.map(() => 0);
  const known = log.map(() => 0);
  for (let i = 0; i < regions.length; i++)
    if (regions[i] === region)
      log.forEach((plane, f) => {
        if (Number.isNaN(plane[i])) return;
        held[f]++;
        known[f] += 1 / (0.1 + spread[f][i]);
      });
  if (held[reference] >= 0.85 * Math.max(...held)) return reference;
  return known.indexOf(Math.max(...known));
}

/** Puts the user's choices in force: the latest one inside a region counts; one that blends all takes the region out. */
export function applyChoices(movers: Movers, choices: readonly MoverChoice[]): Movers {
  if (choices.length === 0) return movers;
  const { width, level, regions } = movers;
  const scale = 2 ** level;
  const list = movers.list.slice();
  const dropped = new Set<number>();
  for (const { x, y, frame } of choices) {
    const region = regions[Math.floor(y / scale) * width + Math.floor(x / scale)];
    if (!region) continue;
    if (frame === undefined) dropped.add(region);
    else {
      dropped.delete(region);
      list[region - 1] = { ...list[region - 1], frame };
    }
  }
  return { ...movers, list, regions: regions.map((r) => (dropped.has(r) ? 0 : r)) };
}
