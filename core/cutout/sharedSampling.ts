import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type LightGrid } from './lightGrid';
import { NOT, THIS, UNKNOWN } from './trimap';

/** What sampling says of every pixel. */
export interface SampledAlpha {
  /** [pixel] 0…1 */
  readonly alpha: Float32Array;
  /** [pixel] 0…1, how far the colours found explain the pixel; 0 where it is known */
  readonly confidence: Float32Array;
}

/** px that a ray goes at most */
const REACH = 300;
const RAYS = 4;
/** neighbours whose pairs a pixel tries: so many to either side, so many px apart */
const SHARE = 5;
const SHARE_STEP = 2;
/** pairs that are averaged */
const BEST = 3;
/** what a distortion is at least, so that distance still counts where a pair explains a pixel wholly */
const LEAST_DISTORTION = 1e-5;

/** Share of F in the mix of F and B that comes nearest to a colour, 0…1. @param i, f, b where the three colours begin */
function shareOf(data: Float32Array, i: number, f: number, b: number): number {
  const [B0, B1, B2] = [data[b], data[b + 1], data[b + 2]];
  const [d0, d1, d2] = [data[f] - B0, data[f + 1] - B1, data[f + 2] - B2];
  const along = (data[i] - B0) * d0 + (data[i + 1] - B1) * d1 + (data[i + 2] - B2) * d2;
  return Math.max(0, Math.min(1, along / (d0 * d0 + d1 * d1 + d2 * d2 + 1e-6)));
}

/** Square of what the nearest mix of F and B leaves of a colour: the innermost loop of all, so written out. */
function distortion(data: Float32Array, i: number, f: number, b: number): number {
  const b0 = data[b];
  const b1 = data[b + 1];
  const b2 = data[b + 2];
  const d0 = data[f] - b0;
  const d1 = data[f + 1] - b1;
  const d2 = data[f + 2] - b2;
  const r0 = data[i] - b0;
  const r1 = data[i + 1] - b1;
  const r2 = data[i + 2] - b2;
  const mix = (r0 * d0 + r1 * d1 + r2 * d2) / (d0 * d0 + d1 * d1 + d2 * d2 + 1e-6);
  const share = mix < 0 ? 0 : mix > 1 ? 1 : mix;
  const e0 = r0 - share * d0;
  const e1 = r1 - share * d1;
  const e2 = r2 - share * d2;
  return e0 * e0 + e1 * e1 + e2 * e2;
}

/**
 * Alpha by shared sampling (Gastal & Oliveira 2010), in linear light: from every unknown pixel four rays find the first known pixels of either side;
 * the pair that explains it best and lies near is chosen, and neighbours' pairs are tried.
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function sharedSampling(
  { width, height, data }: LightGrid,
  map: Uint8Array,
  compiled: Kernels | null = kernels() ?? null,
): SampledAlpha {
  if (compiled) return compiled.borrow(() => sampledWith(compiled, { width, height, data }, map));
  const pairs = gatherPairs({ width, height, data }, map);
  const alpha = Float32Array.from(map, (code) => (code === THIS ? 1 : 0));
  const confidence = new Float32Array(map.length);
  const rest = new Float64Array(BEST);
  const from = new Int32Array(BEST);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (map[i] !== UNKNOWN) continue;
      let count = 0;
      for (let dy = -SHARE; dy <= SHARE; dy++)
        for (let dx = -SHARE; dx <= SHARE; dx++) {
          const X = x + dx * SHARE_STEP;
          const Y = y + dy * SHARE_STEP;
          if (X < 0 || Y < 0 || X >= width || Y >= height) continue;
          const j = Y * width + X;
          if (pairs.inside[j] < 0) continue;
          const e = distortion(data, 3 * i, 3 * pairs.inside[j], 3 * pairs.outside[j]);
          if (count === BEST && e >= rest[BEST - 1]) continue;
          let k = count < BEST ? count++ : BEST - 1;
          for (; k > 0 && rest[k - 1] > e; k--) {
            rest[k] = rest[k - 1];
            from[k] = from[k - 1];
          }
          rest[k] = e;
          from[k] = j;
        }
      if (count === 0) {
        alpha[i] = 0.5;
        continue;
      }
      const colours = meanPair(data, pairs, from, count);
      for (let c = 0; c < 3; c++) colours[6 + c] = data[3 * i + c];
      let length2 = 1e-6;
      for (let c = 0; c < 3; c++) length2 += (colours[c] - colours[3 + c]) ** 2;
      alpha[i] = shareOf(colours, 6, 0, 3);
      confidence[i] = confidenceOf(distortion(colours, 6, 0, 3), length2);
    }
  return { alpha, confidence };
}

/** How far a pair explains a pixel. @param rest square of what its mix leaves @param length2 square of its colours' distance */
const confidenceOf = (rest: number, length2: number): number =>
  Math.exp((-10 * Math.sqrt(rest)) / (0.05 + Math.sqrt(length2))) * Math.min(1, length2 / 0.01);

/** The same by kernels, row by row. */
function sampledWith(k: Kernels, { width: w, height: h, data }: LightGrid, map: Uint8Array): SampledAlpha {
  const n = w * h;
  const plane = planeBytes(n);
  const light = k.take(3 * plane);
  const codes = k.uploadCodes(map);
  const rays = k.addresses(RAY_STEPS);
  const room = k.take(64);
  // pairs lie with a margin that holds none, so that no neighbour need be looked for beyond the border
  const margin = SHARE * SHARE_STEP;
  const wide = w + 2 * margin;
  const cells = wide * (h + 2 * margin);
  const pairPlane = planeBytes(cells);
  const pairs = k.take(6 * pairPlane);
  const rows = [0, 1, 2].map(() => k.take(4 * w));
  // no room is taken from here on: views stay good
  const planes = [0, 1, 2].map((c) => k.floats(light + c * plane, n));
  for (let i = 0; i < n; i++) for (let c = 0; c < 3; c++) planes[c][i] = data[3 * i + c];
  const sides = [0, 1, 2, 3, 4, 5].map((c) => k.floats(pairs + c * pairPlane, cells).fill(NaN));
  const [inside, outside] = rows.map((at) => new Int32Array(k.floats(at, w).buffer, at, w));
  for (let y = 0; y < h; y++) {
    k.gatherPairs(light, plane, codes, w, h, y, rays, STEPS.length, room, rows[0], rows[1]);
    for (let x = 0; x < w; x++) {
      if (inside[x] < 0) continue;
      const at = (y + margin) * wide + x + margin;
      for (let c = 0; c < 3; c++) {
        sides[c][at] = planes[c][inside[x]];
        sides[3 + c][at] = planes[c][outside[x]];
      }
    }
  }
  const alpha = new Float32Array(n);
  const confidence = new Float32Array(n);
  const [share, rest, apart] = rows.map((at) => k.floats(at, w));
  for (let y = 0; y < h; y++) {
    k.sharePairs(
      ...([light, plane, codes, w, y, pairs, pairPlane, wide, margin] as const),
      ...([SHARE, SHARE_STEP, room, rows[0], rows[1], rows[2]] as const),
    );
    for (let x = 0, i = y * w; x < w; x++, i++) {
      if (map[i] === THIS) alpha[i] = 1;
      if (map[i] !== UNKNOWN) continue;
      alpha[i] = apart[x] < 0 ? 0.5 : share[x];
      confidence[i] = apart[x] < 0 ? 0 : confidenceOf(rest[x], apart[x]);
    }
  }
  return { alpha, confidence };
}

/** [pixel] a known pixel of either side; −1 where there is none. */
interface Pairs {
  readonly inside: Int32Array;
  readonly outside: Int32Array;
}

/** Mean colours of some pairs: F, B, and room for the colour that they are to explain. */
function meanPair(data: Float32Array, pairs: Pairs, from: Int32Array, count: number): Float32Array {
  const mean = new Float32Array(9);
  for (let k = 0; k < count; k++)
    for (let c = 0; c < 3; c++) {
      mean[c] += data[3 * pairs.inside[from[k]] + c] / count;
      mean[3 + c] += data[3 * pairs.outside[from[k]] + c] / count;
    }
  return mean;
}

/** px between the places of a ray that are looked at: near ones all, far ones fewer */
const stepAt = (d: number): number => (d < 16 ? 1 : d < 64 ? 2 : 4);

/** how far along a ray places are looked at, px */
const STEPS: number[] = [];
for (let d = 1; d < REACH; d += stepAt(d)) STEPS.push(d);

/** The rays of a pixel, by where it lies among its neighbours: [place · ray · step · 3] steps across and down, and how far that is. */
const RAY_STEPS = Int32Array.from(
  Array.from({ length: 9 * RAYS }, (_, i) => ((Math.floor(i / RAYS) / 9 + (i % RAYS)) * Math.PI) / 2).flatMap(
    (angle) => STEPS.flatMap((d) => [Math.round(d * Math.cos(angle)), Math.round(d * Math.sin(angle)), d]),
  ),
);

function gatherPairs({ width, height, data }: LightGrid, map: Uint8Array): Pairs {
  const inside = new Int32Array(map.length).fill(-1);
  const outside = new Int32Array(map.length).fill(-1);
  /** index and distance of what the rays found */
  const found = { inside: new Float64Array(2 * RAYS), outside: new Float64Array(2 * RAYS) };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (map[i] !== UNKNOWN) continue;
      let [ins, outs] = [0, 0];
      for (let ray = 0; ray < RAYS; ray++) {
        let [seesIn, seesOut] = [false, false];
        const first = (((x % 3) + 3 * (y % 3)) * RAYS + ray) * STEPS.length * 3;
        for (let s = first; s < first + 3 * STEPS.length && !(seesIn && seesOut); s += 3) {
          const X = x + RAY_STEPS[s];
          const Y = y + RAY_STEPS[s + 1];
          if (X < 0 || Y < 0 || X >= width || Y >= height) break;
          const j = Y * width + X;
          const d = RAY_STEPS[s + 2];
          if (map[j] === THIS && !seesIn) {
            seesIn = true;
            found.inside[2 * ins] = j;
            found.inside[2 * ins++ + 1] = d;
          } else if (map[j] === NOT && !seesOut) {
            seesOut = true;
            found.outside[2 * outs] = j;
            found.outside[2 * outs++ + 1] = d;
          }
        }
      }
      const [top, bottom] = [Math.max(0, y - 1), Math.min(height - 1, y + 1)];
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      let least = Infinity;
      for (let a = 0; a < ins; a++)
        for (let b = 0; b < outs; b++) {
          let sum = 0;
          let n = 0;
          for (let Y = top; Y <= bottom; Y++)
            for (let X = left; X <= right; X++, n++)
              sum += distortion(data, 3 * (Y * width + X), 3 * found.inside[2 * a], 3 * found.outside[2 * b]);
          const cost = (sum / n + LEAST_DISTORTION) ** 3 * found.inside[2 * a + 1] * found.outside[2 * b + 1];
          if (cost >= least) continue;
          least = cost;
          inside[i] = found.inside[2 * a];
          outside[i] = found.outside[2 * b];
        }
    }
  return { inside, outside };
}
