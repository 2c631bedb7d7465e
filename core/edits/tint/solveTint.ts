import { Matrix, solve } from 'ml-matrix';
import { oklabOf } from '../../colour/oklab';
import { lightOf } from '../../match/mapSamples';
import { type Samples } from '../../match/samples';
import { type SampledSides } from '../../match/solveMatch';
import { type TintPoint, tintRoom, tintShares } from './tintLine';
import { MOST_STRENGTH } from './tint';
import { length2 } from '../../raster/length';

/** tones at which a tint is told, stops from middle grey */
const RUNGS = [-4, -2, 0, 1.5] as const;
/** tones are compared in steps of so many stops, from the first on */
const STEP = 0.25;
const FIRST = -7;
const COUNT = 40;
/** a rung that less of both pictures tells of than this is left out, a share */
const LEAST = 0.004;
/** of a difference between two scenes the part that is grade and not content, along a and b of Oklab (measured on 756 pairs of graded pictures) */
const GRADE = [0.57, 0.28] as const;
/** what holds a rung that little tells of to its neighbours, in shares of the samples */
const TIED = 1e-3;

/** What lies in a step of tone. */
interface Step {
  share: number;
  a: number;
  b: number;
}

const stepAt = (k: number): number => FIRST + (k + 0.5) * STEP;

/** code from which a channel is full: the colour there was cut off */
const FULL = 0.996;

const isFull = (samples: Samples, i: number): boolean =>
  Math.max(samples[3 * i], samples[3 * i + 1], samples[3 * i + 2]) >= FULL;

/** Colours by tone, each sample in the step of the tone that `tones` has at its place; those that are cut off in any of `seen` are left out. */
function colourAlong(samples: Samples, tones: Float64Array, seen: readonly Samples[]): Step[] {
  const light = lightOf(samples);
  const n = samples.length / 3;
  const steps = Array.from({ length: COUNT }, (): Step => ({ share: 0, a: 0, b: 0 }));
  for (let i = 0; i < n; i++) {
    const step = steps.at(Math.min(COUNT - 1, Math.max(0, Math.floor((tones[i] - FIRST) / STEP))));
    if (!step || seen.some((side) => isFull(side, i))) continue;
    const [, a, b] = oklabOf(light[3 * i], light[3 * i + 1], light[3 * i + 2]);
    step.share += 1 / n;
    step.a += a / n;
    step.b += b / n;
  }
  return steps;
}

/** Tone of each sample, stops of its Oklab lightness from middle grey's: what a tint keeps. */
function tonesOf(samples: Samples): Float64Array {
  const light = lightOf(samples);
  return Float64Array.from({ length: samples.length / 3 }, (_, i) => {
    const [L] = oklabOf(light[3 * i], light[3 * i + 1], light[3 * i + 2]);
    return Math.log2(Math.max(1e-6, L) ** 3 / 0.18);
  });
}

/**
 * The tint along tone that brings the colour of each tone to the reference's, by least squares: whole where both show the same in the same places,
 * else the part of the difference that is likely grade.
 * @returns points where both sides have enough of a tone; none where they have none in common
 */
export function solveTint({ target, reference, paired }: SampledSides): TintPoint[] {
  const tones = tonesOf(target);
  const sidesOf = (samples: Samples): readonly Samples[] => (paired ? [target, reference] : [samples]);
  const own = colourAlong(target, tones, sidesOf(target));
  // the same places are compared where they are paired, whatever became of their tone
  const other = colourAlong(reference, paired ? tones : tonesOf(reference), sidesOf(reference));
  const shared = own.map((step, k) => Math.min(step.share, other[k].share));
  const shares = shared.map((_, k) => tintShares(RUNGS, stepAt(k)));
  const told = RUNGS.map((_, r) => shared.reduce((sum, share, k) => sum + share * shares[k][r], 0));
  const normal = Matrix.zeros(RUNGS.length, RUNGS.length);
  const sides = Matrix.zeros(RUNGS.length, 2);
  const add = (m: Matrix, r: number, c: number, v: number): void => void m.set(r, c, m.get(r, c) + v);
  shared.forEach((share, k) => {
    if (share === 0) return;
    const room = tintRoom(Math.cbrt(0.18 * 2 ** stepAt(k)));
    const by = (of: 'a' | 'b'): number => other[k][of] / other[k].share - own[k][of] / own[k].share;
    shares[k].forEach((p, r) => {
      shares[k].forEach((q, c) => add(normal, r, c, share * room * room * p * q));
      add(sides, r, 0, share * room * p * by('a'));
      add(sides, r, 1, share * room * p * by('b'));
    });
  });
  for (let r = 1; r < RUNGS.length; r++)
    for (const [i, j] of [
      [r, r - 1],
      [r - 1, r],
    ]) {
      add(normal, i, i, TIED);
      add(normal, i, j, -TIED);
    }
  if (Math.max(...told) < LEAST) return [];
  const solved = solve(normal, sides);
  return RUNGS.flatMap((at, r): TintPoint[] => {
    if (told[r] < LEAST) return [];
    const [a, b] = [0, 1].map((c) => (paired ? 1 : GRADE[c]) * solved.get(r, c));
    // as fine as it is read
    const hue = Math.round((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
    const strength = Math.min(MOST_STRENGTH, Math.round(1000 * length2(a, b)) / 1000);
    return [{ at, hue, strength }];
  });
}
