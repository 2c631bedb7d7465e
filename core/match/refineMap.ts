import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { encodeLight } from './encodeLight';
import { knotSpacing, type MatchMap, spanOf, straightCurve } from './matchMap';
import { risingCoefficients } from './risingCoefficients';
import { type Samples } from './samples';

/** How far a step trusts its samples, and what holds it back; priors as shares of the samples' whole weight. */
export interface StepOptions {
  /** whether the matrix takes part; the curves alone when not */
  readonly withMatrix: boolean;
  /** holds mixes of channels towards none */
  readonly mixing: number;
  /** holds curves from bending */
  readonly bending: number;
  /** holds curves towards no change */
  readonly standing: number;
  /** holds the three curves towards their mean: greys stay grey where no sample says otherwise */
  readonly tie: number;
  /** codes beyond which a sample that does not fit weighs less */
  readonly robust: number;
}

/** What the samples are of both sides. */
export interface StepSamples {
  /** linear light of the picture that is changed */
  readonly light: Float64Array;
  /** what its samples should become, codes */
  readonly wanted: Samples;
  /** [sample]; all alike when left out */
  readonly weight?: Float64Array;
}

/** from here to white, and from black, codes say nothing when the prediction is there too */
const CLIPPED = 0.01;
/** second differences are counted in these units of code over squared knots */
const BEND = 0.05;
const MOST_MIXING = 0.6;
const MOST_MIXING_A_STEP = 0.15;
/** a coefficient is above the one before by at least this part of the knots' distance */
const LEAST_RISE = 0.002;

/**
 * One Gauss–Newton step of a map towards what its samples should become. Each channel is a system of its own: the coefficients of its curve
 * and two mixes with the other channels. Where both what is wanted and what is predicted are clipped, the sample is censored.
 */
export function refineMap(map: MatchMap, samples: StepSamples, options: StepOptions): MatchMap {
  const { matrix, curves } = map;
  const count = curves[0].length;
  const mean = curves[0].map((v, i) => (v + curves[1][i] + curves[2][i]) / 3);
  const steps = [0, 1, 2].map((c) => channelStep(map, c, mean, samples, options));
  const bounded = (v: number, most: number): number => Math.max(-most, Math.min(most, v));
  const mixed = matrix.slice();
  if (options.withMatrix)
    steps.forEach((step, c) => {
      const others = [1, 2].map((k) => {
        const at = 3 * c + ((c + k) % 3);
        return (mixed[at] = bounded(
          matrix[at] + bounded(step[count + k - 1], MOST_MIXING_A_STEP),
          MOST_MIXING,
        ));
      });
      mixed[3 * c + c] = 1 - others[0] - others[1];
    });
  return {
    matrix: mixed,
    curves: curves.map((curve, c) =>
      risingCoefficients(
        curve.map((v, i) => v + steps[c][i]),
        LEAST_RISE * knotSpacing(count),
      ),
    ),
  };
}

/** What a channel's coefficients, then its two mixes, should change by. */
function channelStep(
  { matrix, curves }: MatchMap,
  channel: number,
  mean: Float64Array,
  { light, wanted, weight }: StepSamples,
  { withMatrix, mixing, bending, standing, tie, robust }: StepOptions,
): number[] {
  const curve = curves[channel];
  const count = curve.length;
  const unknowns = count + (withMatrix ? 2 : 0);
  const A = new Float64Array(unknowns * unknowns);
  const b = new Float64Array(unknowns);
  const h = knotSpacing(count);
  const [m0, m1, m2] = matrix.slice(3 * channel, 3 * channel + 3);
  const others = [(channel + 1) % 3, (channel + 2) % 3];
  const active = withMatrix ? 6 : 4;
  const J = new Float64Array(6);
  const place = new Int32Array(6);
  let total = 0;
  for (let s = 0, o = 0; o < light.length; s++, o += 3) {
    const w = weight ? weight[s] : 1;
    total += w;
    const mix = Math.max(1e-6, m0 * light[o] + m1 * light[o + 1] + m2 * light[o + 2]);
    const code = encodeLight(mix);
    const along = spanOf(code, count);
    const first = Math.floor(along);
    const t = along - first;
    const e = 1 - t;
    J[0] = (e * e * e) / 6;
    J[1] = (3 * t * t * t - 6 * t * t + 4) / 6;
    J[2] = (-3 * t * t * t + 3 * t * t + 3 * t + 1) / 6;
    J[3] = (t * t * t) / 6;
    const c0 = curve[first];
    const c1 = curve[first + 1];
    const c2 = curve[first + 2];
    const c3 = curve[first + 3];
    const predicted = J[0] * c0 + J[1] * c1 + J[2] * c2 + J[3] * c3;
    const y = wanted[o + channel];
    if ((y > 1 - CLIPPED && predicted > 1 - CLIPPED) || (y < CLIPPED && predicted < CLIPPED)) continue;
    const slope =
      ((-e * e * c0 + (3 * t * t - 4 * t) * c1 + (-3 * t * t + 2 * t + 1) * c2 + t * t * c3) / (2 * h)) *
      (mix < 0.0031308 ? 12.92 : (code + 0.055) / (2.4 * mix));
    for (let k = 0; k < 4; k++) place[k] = first + k;
    for (let k = 0; k < 2; k++) {
      J[4 + k] = slope * (light[o + others[k]] - light[o + channel]);
      place[4 + k] = count + k;
    }
    const residual = y - predicted;
    const trust = w / Math.sqrt(1 + (residual / robust) ** 2);
    for (let p = 0; p < active; p++) {
      const g = trust * J[p];
      b[place[p]] += g * residual;
      for (let q = 0; q <= p; q++) A[place[p] * unknowns + place[q]] += g * J[q];
    }
  }
  for (let p = 0; p < unknowns; p++) for (let q = 0; q < p; q++) A[q * unknowns + p] = A[p * unknowns + q];
  const straight = straightCurve(count);
  for (let i = 0; i < count; i++) {
    A[i * unknowns + i] += total * (standing + tie);
    b[i] += total * (standing * (straight[i] - curve[i]) + tie * (mean[i] - curve[i]));
  }
  const second = [1, -2, 1].map((v) => (v * BEND) / (h * h));
  for (let i = 1; i < count - 1; i++) {
    const bend = second[0] * curve[i - 1] + second[1] * curve[i] + second[2] * curve[i + 1];
    for (let p = 0; p < 3; p++) {
      b[i - 1 + p] -= total * bending * second[p] * bend;
      for (let q = 0; q < 3; q++)
        A[(i - 1 + p) * unknowns + i - 1 + q] += total * bending * second[p] * second[q];
    }
  }
  if (withMatrix)
    others.forEach((other, k) => {
      A[(count + k) * unknowns + count + k] += total * mixing;
      b[count + k] -= total * mixing * matrix[3 * channel + other];
    });
  return solved(A, b, unknowns);
}

/** ridge that keeps coefficients without a sample where they are */
const RIDGE = 1e-12;

function solved(A: Float64Array, b: Float64Array, n: number): number[] {
  const system = Matrix.from1DArray(n, n, A);
  for (let i = 0; i < n; i++) system.set(i, i, system.get(i, i) + RIDGE);
  return new CholeskyDecomposition(system).solve(Matrix.columnVector(b)).to1DArray();
}
