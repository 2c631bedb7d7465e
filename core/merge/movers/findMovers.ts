import { type FrameLight, frameLight, type MoverFrame } from './consistency';
import { type Mover, type MoverChoice, type Movers } from './mover';

/** a disagreement this many deviations from the consensus is movement */
const DEVIATIONS = 3.5;
/** and at least this large, stops: smaller ones leave no ghost */
const LEAST_STOPS = 0.35;
/** the same against a frame that is burnt out or dark, whose glare or black may reach a little further */
const LEAST_BOUND = 0.7;
/** and in the proportion of red to blue, which white balance and the lens may shift */
const LEAST_TINT = 0.5;
/** grid pixels a region has at least, before it is grown; a lantern's strong ones count several times */
const LEAST_PIXELS = 8;
const COUNTS_MOST = 3;
/** beside what surely moved, what disagrees by this share of the limits has moved with it … */
const EASED = 0.4;
/** … as far as this from it, grid pixels */
const FOLLOWED = 24;
/** legs before a dark wall are seen in pieces: gaps of less than this between them are stepped over, grid pixels */
const LEAP = 5;
/** how far a region is grown over the soft edge of what moved, grid pixels */
const GROWTH = 2;
/** parts with less than twice this between them are one mover, grid pixels */
const JOINED = 3;

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
  const [perhaps, off] = disagreement(light, [EASED, 1]);
  const parts = (mask: Float32Array): Uint8Array =>
    opened(
      mask.map((d) => (d > 0 ? 1 : 0)),
      w,
      h,
    );
  const sure = parts(off);
  const moved = followed(sure, parts(perhaps), w, h);
  const grown = dilated(moved, w, h, GROWTH);
  // the head, the coat and the lantern of one walker are one mover, though little sets the arm between them off from its ground
  const joined = connected(dilated(grown, w, h, JOINED), w, h);
  const { count } = joined;
  const regions = joined.regions.map((r, i) => (grown[i] ? r : 0));
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
    if (sure[i]) b.seeds += Math.min(COUNTS_MOST, Math.max(1, off[i] / LEAST_BOUND));
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

/**
 * Stops by which the frames of each pixel disagree; 0 where they do not, or fewer than two hold its light.
 * @param eases shares of the limits beyond which it counts; the smallest first
 * @returns a plane for each of `eases`
 */
function disagreement(light: readonly FrameLight[], eases: readonly number[]): Float32Array[] {
  const out = eases.map(() => new Float32Array(light[0].log.length));
  const [least] = eases;
  for (let i = 0; i < out[0].length; i++) {
    // most pixels agree, which their extremes tell
    if (!mayDisagree(light, i, least)) continue;
    for (let e = 0; e < eases.length; e++) {
      out[e][i] = disagreementAt(light, i, eases[e]);
      // a pixel that agrees within the smaller limits does so within the larger ones
      if (out[e][i] === 0) break;
    }
  }
  return out;
}

/** Whether any two frames may differ by more than the least that counts, whatever their noise. */
function mayDisagree(light: readonly FrameLight[], i: number, ease: number): boolean {
  let [dark, bright, cold, warm, floor, roof] = [
    Infinity,
    -Infinity,
    Infinity,
    -Infinity,
    -Infinity,
    Infinity,
  ];
  for (let f = 0; f < light.length; f++) {
    const { log, tint, least, most } = light[f];
    // false wherever a frame holds nothing
    if (log[i] < dark) dark = log[i];
    if (log[i] > bright) bright = log[i];
    if (tint[i] < cold) cold = tint[i];
    if (tint[i] > warm) warm = tint[i];
    if (least[i] > floor) floor = least[i];
    if (most[i] < roof) roof = most[i];
  }
  return (
    bright - dark >= LEAST_STOPS * ease ||
    warm - cold >= LEAST_TINT * ease ||
    floor - dark >= LEAST_BOUND * ease ||
    bright - roof >= LEAST_BOUND * ease
  );
}

/** The largest disagreement of two frames at one pixel that their noise does not explain, stops. */
function disagreementAt(light: readonly FrameLight[], i: number, ease: number): number {
  const deviations = DEVIATIONS * ease;
  const square = deviations * deviations;
  let worst = 0;
  for (let a = 0; a < light.length; a++)
    for (let b = 0; b < light.length; b++) {
      const [one, other] = [light[a], light[b]];
      if (b > a) {
        // false also where either holds nothing
        const d = Math.abs(one.log[i] - other.log[i]);
        if (d >= LEAST_STOPS * ease && d > worst) {
          const [s, t] = [one.spread[i], other.spread[i]];
          if (d * d > square * (s * s + t * t)) worst = d;
        }
        // a coat as dark as the wall behind it differs by its colour
        const c = Math.abs(one.tint[i] - other.tint[i]);
        if (c >= LEAST_TINT * ease && c > worst) {
          const [s, t] = [one.tintSpread[i], other.tintSpread[i]];
          if (c * c > square * (s * s + t * t)) worst = c;
        }
      }
      // a frame that is burnt out says that the light is at least so much; one that holds less has seen something else
      const less = other.least[i] - one.log[i];
      if (less >= LEAST_BOUND * ease && less > worst && less > deviations * one.spread[i]) worst = less;
      // and a dark one that it is at most so much
      const more = one.log[i] - other.most[i];
      if (more >= LEAST_BOUND * ease && more > worst) {
        const [s, t] = [one.spread[i], other.spread[i]];
        if (more * more > square * (s * s + t * t)) worst = more;
      }
    }
  return worst;
}

/** What is sure, and what may have moved and hangs together with it within {@link FOLLOWED} grid pixels. */
function followed(sure: Uint8Array, perhaps: Uint8Array, w: number, h: number): Uint8Array {
  const out = sure.slice();
  let edge: number[] = [];
  sure.forEach((v, i) => v && edge.push(i));
  for (let way = 0; way < FOLLOWED && edge.length > 0; way += LEAP) {
    const next: number[] = [];
    for (const at of edge) {
      const [x, y] = [at % w, Math.floor(at / w)];
      for (let v = Math.max(0, y - LEAP); v <= Math.min(h - 1, y + LEAP); v++)
        for (let u = Math.max(0, x - LEAP); u <= Math.min(w - 1, x + LEAP); u++) {
          const i = v * w + u;
          if (out[i] || !perhaps[i]) continue;
          out[i] = 1;
          next.push(i);
        }
    }
    edge = next;
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

/** The reference unless much more of a region is burnt out in it than in another frame, else the frame that holds it with least spread. */
function holderOf(
  light: readonly FrameLight[],
  regions: Uint16Array,
  region: number,
  reference: number,
): number {
  const held = light.map(() => 0);
  const known = light.map(() => 0);
  for (let i = 0; i < regions.length; i++)
    if (regions[i] === region)
      light.forEach(({ log, most, spread }, f) => {
        // what is dark is seen too, though it says less
        if (Number.isNaN(log[i]) && Number.isNaN(most[i])) return;
        held[f]++;
        if (!Number.isNaN(log[i])) known[f] += 1 / (0.1 + spread[i]);
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
