import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { srgbToLinear } from '../../raster/srgb';

/** Linear light of every 8-bit code of each channel, white = 1. */
export type Response = readonly [Float32Array, Float32Array, Float32Array];

/** Codes of one place in every frame: [frame][channel]. */
export type Sample = readonly (readonly [number, number, number])[];

const SMOOTHNESS = 40;
const LEAST_WEIGHT = 0.02;
const CODES = 256;
/** the code whose light is held */
const ANCHOR = 128;

/** A hat: codes in the middle say most. */
const weightOf = (code: number): number => Math.min(code, 255 - code) / 128;

/** The curve that files say they have: sRGB. */
export function srgbResponse(): Response {
  const table = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
  return [table, table, table];
}

/**
 * Recovers the camera's response from places seen at several exposures (Debevec & Malik 1997): least squares on
 * g(z) = ln E + ln t with hat weights and a smoothness of the second difference, each channel by itself. The light of each place is
 * eliminated beforehand, so that 256 unknowns are left.
 * Anchored so that middle code 128 gives the light that sRGB gives it, and the channels keep grey grey there.
 * @param samples at least 40, spread over the tones
 * @param stops exposure of each frame, EV
 * @returns undefined for too few samples
 */
export function recoverResponse(samples: readonly Sample[], stops: readonly number[]): Response | undefined {
  if (samples.length < 40 || stops.length < 2) return undefined;
  return [
    recoveredCurve(samples, stops, 0),
    recoveredCurve(samples, stops, 1),
    recoveredCurve(samples, stops, 2),
  ];
}

function recoveredCurve(samples: readonly Sample[], stops: readonly number[], c: 0 | 1 | 2): Float32Array {
  const A = Matrix.zeros(CODES, CODES);
  const b = new Float64Array(CODES);
  const add = (row: number, column: number, v: number): Matrix => A.set(row, column, A.get(row, column) + v);
  for (const sample of samples) {
    const seen = sample.flatMap((codes, f) => {
      const code = Math.round(codes[c]);
      const weight = weightOf(code);
      return weight > LEAST_WEIGHT ? [{ code, ln: stops[f] * Math.LN2, square: weight * weight }] : [];
    });
    if (seen.length < 2) continue;
    // the light of the place is the weighed mean of what its codes say; what each of them lacks of that is to vanish
    const all = seen.reduce((sum, { square }) => sum + square, 0);
    const mean = seen.reduce((sum, { square, ln }) => sum + square * ln, 0) / all;
    for (const p of seen) {
      b[p.code] += p.square * (p.ln - mean);
      add(p.code, p.code, p.square);
      for (const q of seen) add(p.code, q.code, (-p.square * q.square) / all);
    }
  }
  add(ANCHOR, ANCHOR, 1);
  b[ANCHOR] += Math.log(srgbToLinear(ANCHOR / 255));
  for (let z = 1; z < 255; z++) {
    const w = SMOOTHNESS * (0.05 + Math.min(z, 255 - z) / 128) * 0.1;
    const bend = [w, -2 * w, w];
    bend.forEach((p, i) => bend.forEach((q, j) => add(z - 1 + i, z - 1 + j, p * q)));
  }
  const g = new CholeskyDecomposition(A).solve(Matrix.columnVector(b));
  const curve = Float32Array.from({ length: CODES }, (_, z) => Math.exp(g.get(z, 0)));
  // light never falls with the code
  for (let z = ANCHOR + 1; z < CODES; z++) curve[z] = Math.max(curve[z], curve[z - 1]);
  for (let z = ANCHOR - 1; z >= 0; z--) curve[z] = Math.min(curve[z], curve[z + 1]);
  return curve;
}

/** Largest difference of a response from sRGB between codes 16 and 240, stops. */
export function responseOff(response: Response): number {
  let most = 0;
  for (const curve of response)
    for (let z = 16; z <= 240; z++)
      most = Math.max(most, Math.abs(Math.log2(curve[z] / srgbToLinear(z / 255))));
  return most;
}
