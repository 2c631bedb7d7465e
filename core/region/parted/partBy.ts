import { oklabOf } from '../../colour/oklab';
import { type SoftRange } from '../smoothRange';
import { type Channel, channelOf, CHANNELS, type MixWeights } from './channels';

/** Linear light under dabs, R G B beside each other. */
export interface DabbedLight {
  readonly inside: Float32Array;
  readonly outside: Float32Array;
}

/** What parts two things best. */
export interface Parting extends SoftRange {
  readonly channel: Channel;
  readonly weights: MixWeights;
  /** part of both that lies on the wrong side, 0…1, by this and by tone alone */
  readonly overlap: number;
  readonly byTone: number;
}

/** a mix is harder to think of than one channel, and one channel than tone: they must be better by this much */
const WORTH_MIXING = 0.02;
const WORTH_COLOUR = 0.01;
/** beyond every value: an end that is open */
const OPEN = 1000;
/** variance that keeps few samples from pointing anywhere */
const FLOOR = 1e-6;
/** steps of the ends that are tried */
const TRIED = 64;
/** part of the way to the middle of the other side over which an end fades */
const FADE = 0.4;

type Light = (channel: (r: number, g: number, b: number) => number) => Float64Array;

const valuesOf =
  (light: Float32Array): Light =>
  (channel) => {
    const out = new Float64Array(light.length / 3);
    for (let i = 0; i < out.length; i++) out[i] = channel(light[3 * i], light[3 * i + 1], light[3 * i + 2]);
    return out.sort();
  };

/**
 * Finds the channel, or where none does the combination of colours (Fisher 1936), by which what was pointed at is told from what was not, with the range
 * that does it with the least overlap: open on one side, or closed on both.
 */
export function partBy({ inside, outside }: DabbedLight): Parting {
  const [mine, others] = [valuesOf(inside), valuesOf(outside)];
  const weights = fisherWeights(inside, outside);
  const tried = CHANNELS.map((channel) => {
    const of = channelOf(channel, weights);
    return { channel, ...bestRange(mine(of), others(of)) };
  });
  const [tone] = tried;
  const best = tried.slice(0, -1).reduce((a, b) => (b.overlap < a.overlap ? b : a));
  const single = best.overlap < tone.overlap - WORTH_COLOUR ? best : tone;
  const mix = tried[tried.length - 1];
  const chosen = mix.overlap < single.overlap - WORTH_MIXING ? mix : single;
  return { ...chosen, weights, byTone: tone.overlap };
}

/** Part of sorted values below one. */
function shareBelow(sorted: Float64Array, value: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low / sorted.length;
}

const quantile = (sorted: Float64Array, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];

/** The range with the least overlap: from an end on, up to an end, or between two. */
function bestRange(mine: Float64Array, others: Float64Array): SoftRange & { readonly overlap: number } {
  const first = Math.min(mine[0], others[0]);
  const last = Math.max(mine[mine.length - 1], others[others.length - 1]);
  const middle = quantile(others, 0.5);
  const wrong = (from: number, to: number): number => {
    const missed = shareBelow(mine, from) + 1 - shareBelow(mine, to);
    const caught = shareBelow(others, to) - shareBelow(others, from);
    return (missed + caught) / 2;
  };
  let best = { from: -OPEN, to: OPEN, overlap: 1 };
  const consider = (from: number, to: number): void => {
    const overlap = wrong(from, to);
    if (overlap < best.overlap - 1e-9) best = { from, to, overlap };
  };
  // the end in the middle of a gap is as good as any other there, and the surest
  const ends = Array.from({ length: TRIED }, (_, k) => first + ((k + 0.5) / TRIED) * (last - first));
  const gapMiddle = (end: number): number => {
    const at = (sorted: Float64Array): readonly [number, number] => {
      const k = Math.round(shareBelow(sorted, end) * sorted.length);
      return [k > 0 ? sorted[k - 1] : first, k < sorted.length ? sorted[k] : last];
    };
    const [[a, b], [c, d]] = [at(mine), at(others)];
    return (Math.max(a, c) + Math.min(b, d)) / 2;
  };
  for (const end of ends) {
    const cut = gapMiddle(end);
    consider(cut, OPEN);
    consider(-OPEN, cut);
  }
  const [low, high] = [quantile(mine, 0.02), quantile(mine, 0.98)];
  const margin = 0.1 * (high - low) + 1e-3;
  if (wrong(low - margin, high + margin) < best.overlap - WORTH_MIXING)
    best = { from: low - margin, to: high + margin, overlap: wrong(low - margin, high + margin) };
  const end = best.from > -OPEN ? best.from : best.to;
  return { ...best, soft: Math.max(1e-3, FADE * Math.abs(end - middle)) };
}

/** Direction in Oklab along which two groups lie farthest apart against their own spread, of unit length. */
function fisherWeights(inside: Float32Array, outside: Float32Array): MixWeights {
  const [a, b] = [momentsOf(inside), momentsOf(outside)];
  const d = a.mean.map((v, c) => v - b.mean[c]);
  const m = a.spread.map((v, i) => v + b.spread[i] + (i % 4 === 0 ? FLOOR : 0));
  // Cramer's rule on the 3 × 3 of both spreads
  const det = (x: readonly number[]): number =>
    x[0] * (x[4] * x[8] - x[5] * x[7]) -
    x[1] * (x[3] * x[8] - x[5] * x[6]) +
    x[2] * (x[3] * x[7] - x[4] * x[6]);
  const whole = det(m);
  const solved = [0, 1, 2].map((c) => det(m.map((v, i) => (i % 3 === c ? d[Math.floor(i / 3)] : v))) / whole);
  const length = Math.hypot(...solved);
  return length > 0 ? [solved[0] / length, solved[1] / length, solved[2] / length] : [1, 0, 0];
}

function momentsOf(light: Float32Array): { readonly mean: number[]; readonly spread: number[] } {
  const n = light.length / 3;
  const colours = Array.from({ length: n }, (_, i) =>
    oklabOf(light[3 * i], light[3 * i + 1], light[3 * i + 2]),
  );
  const mean = [0, 1, 2].map((c) => colours.reduce((sum, v) => sum + v[c], 0) / n);
  const spread = Array.from({ length: 9 }, (_, i) => {
    const [r, c] = [Math.floor(i / 3), i % 3];
    return colours.reduce((sum, v) => sum + (v[r] - mean[r]) * (v[c] - mean[c]), 0) / n;
  });
  return { mean, spread };
}
