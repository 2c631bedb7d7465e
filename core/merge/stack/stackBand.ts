import { decodePlane, encodeClipped } from '../../raster/srgb';
import { coverage, plainWarp } from '../../raster/warp';
import { kernels } from '../../kernels/kernels';
import { type Band } from '../fusionPlan';
import { MOST_SORTED, stackBandKernels } from './stackBandKernels';
import { type StackFrame, type StackMethod, type StackBuffers } from './stackMethod';

/** samples farther than this from the middle are turned down, standard deviations (common practice) */
const CLIP = 2.5;
const PASSES = 4;
/** clamping at 1.5 deviations makes a normal's deviation smaller by this */
const WINSOR = 1.134;
/** samples count as equally near to a median within this share, and at least so much light */
const TIE = 1e-3;
const TINY = 1e-7;

/**
 * Stacks the rows of one band: every frame is resampled once, brought to the reference's exposure in linear light, and the samples of each
 * place become one by the method. `clip` turns down what lies beyond 2.5 deviations of the others, the deviation from winsorised samples
 * (Huber 1981), so that a satellite or a walker cannot widen it.
 */
export function stackBand(
  ...args: [
    frames: readonly StackFrame[],
    method: StackMethod,
    width: number,
    band: Band,
    buffers: StackBuffers,
  ]
): void {
  const compiled = args[0].length <= MOST_SORTED ? kernels() : undefined;
  if (compiled) stackBandKernels(compiled, ...args);
  else stackBandPlain(...args);
}

/** The plain form of {@link stackBand}: the reference that the kernels are held against. */
export function stackBandPlain(
  frames: readonly StackFrame[],
  method: StackMethod,
  width: number,
  band: Band,
  { image, shares, rejected }: StackBuffers,
): void {
  const area = { x: 0, y: band.top, width, height: band.rows };
  const pictures = frames.map((f) => {
    const planes = plainWarp(f.image, f.matrix, area, 'lanczos');
    planes.forEach(decodePlane);
    if (f.stops !== 0) {
      const gain = 2 ** -f.stops;
      for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] *= gain;
    }
    return planes;
  });
  const seen = frames.map((f) => coverage(f.image, f.matrix, area, 0));
  const n = frames.length;
  const values = new Float64Array(n);
  const weights = new Float64Array(n);
  const owner = new Int32Array(n);
  const sample: Sample = {
    values,
    weights,
    owner,
    sorted: new Float64Array(n),
    count: 0,
    turned: 0,
    kept: new Uint8Array(n),
  };
  const half = (width + 1) >> 1;
  for (let y = 0, i = 0; y < band.rows; y++) {
    let turned = 0;
    for (let x = 0; x < width; x++, i++) {
      const at = ((band.top + y) * width + x) * 3;
      for (let c = 0; c < 3; c++) {
        let count = 0;
        for (let f = 0; f < n; f++) {
          if (seen[f][i] === 0) continue;
          values[count] = pictures[f][c][i];
          weights[count] = frames[f].weight;
          owner[count++] = f;
        }
        sample.count = count;
        const v = count === 0 ? 0 : METHODS[method](sample);
        turned += sample.turned;
        image.data[at + c] = encodeClipped(v) * image.white + 0.5;
        if (c === 1 && (x & 1) === 0 && ((band.top + y) & 1) === 0)
          storeShares(sample, shares, ((band.top + y) >> 1) * half + (x >> 1));
      }
    }
    rejected[band.top + y] = turned;
  }
}

/** The samples of one place; `kept` says which made the result. */
interface Sample {
  readonly values: Float64Array;
  readonly weights: Float64Array;
  readonly owner: Int32Array;
  readonly sorted: Float64Array;
  readonly kept: Uint8Array;
  count: number;
  turned: number;
}

function storeShares(s: Sample, shares: readonly Uint8Array[], at: number): void {
  let sum = 0;
  for (let k = 0; k < s.count; k++) if (s.kept[k]) sum += s.weights[k];
  if (sum <= 0) return;
  for (let k = 0; k < s.count; k++)
    shares[s.owner[k]][at] = s.kept[k] ? Math.round((255 * s.weights[k]) / sum) : 0;
}

const METHODS: Readonly<Record<StackMethod, (s: Sample) => number>> = {
  mean: (s) => {
    s.kept.fill(1);
    return weightedMean(s);
  },
  median: (s) => {
    const m = median(s);
    let nearest = Infinity;
    for (let k = 0; k < s.count; k++) nearest = Math.min(nearest, Math.abs(s.values[k] - m));
    // of an even number the two in the middle make it
    const reach = nearest * (1 + TIE) + TINY;
    for (let k = 0; k < s.count; k++) s.kept[k] = Math.abs(s.values[k] - m) <= reach ? 1 : 0;
    return m;
  },
  max: (s) => extreme(s, 1),
  min: (s) => extreme(s, -1),
  clip: clipped,
};

function only(s: Sample, k: number, value: number): number {
  s.kept.fill(0);
  s.kept[k] = 1;
  return value;
}

function extreme(s: Sample, sign: number): number {
  let best = 0;
  for (let k = 1; k < s.count; k++) if (sign * s.values[k] > sign * s.values[best]) best = k;
  return only(s, best, s.values[best]);
}

function weightedMean({ values, weights, kept, count }: Sample): number {
  let sum = 0;
  let total = 0;
  for (let k = 0; k < count; k++)
    if (kept[k]) {
      sum += weights[k] * values[k];
      total += weights[k];
    }
  return total > 0 ? sum / total : 0;
}

/** Insertion sort: there are a few dozen samples at most. */
function median({ values, sorted, count }: Sample): number {
  for (let k = 0; k < count; k++) {
    const v = values[k];
    let j = k;
    for (; j > 0 && sorted[j - 1] > v; j--) sorted[j] = sorted[j - 1];
    sorted[j] = v;
  }
  const m = count >> 1;
  return count % 2 === 1 ? sorted[m] : 0.5 * (sorted[m - 1] + sorted[m]);
}

function clipped(s: Sample): number {
  const { values, kept, count } = s;
  kept.fill(1);
  s.turned = 0;
  if (count < 3) return weightedMean(s);
  const middle = median(s);
  // the quartiles give a first deviation that a few strays cannot widen
  const { sorted } = s;
  let deviation = (sorted[Math.floor(0.75 * (count - 1))] - sorted[Math.ceil(0.25 * (count - 1))]) / 1.349;
  if (!(deviation > 0)) return weightedMean(s);
  for (let pass = 0; pass < PASSES; pass++) {
    const reach = 1.5 * deviation;
    let square = 0;
    for (let k = 0; k < count; k++) {
      const d = Math.max(-reach, Math.min(reach, values[k] - middle));
      square += d * d;
    }
    const next = WINSOR * Math.sqrt(square / (count - 1));
    const settled = Math.abs(next - deviation) < 0.005 * deviation;
    deviation = next;
    if (settled) break;
  }
  for (let k = 0; k < count; k++)
    if (Math.abs(values[k] - middle) > CLIP * deviation) {
      kept[k] = 0;
      s.turned++;
    }
  return weightedMean(s);
}
