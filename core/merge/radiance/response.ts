import { Matrix, QrDecomposition } from 'ml-matrix';
import { srgbToLinear } from '../../raster/srgb';

/** Linear light of every 8-bit code of each channel, white = 1. */
export type Response = readonly [Float32Array, Float32Array, Float32Array];

/** Codes of one place in every frame: [frame][channel]. */
export type Sample = readonly (readonly [number, number, number])[];

const SMOOTHNESS = 40;
const LEAST_WEIGHT = 0.02;

/** A hat: codes in the middle say most. */
const weightOf = (code: number): number => Math.min(code, 255 - code) / 128;

/** The curve that files say they have: sRGB. */
export function srgbResponse(): Response {
  const table = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
  return [table, table, table];
}

/**
 * Recovers the camera's response from places seen at several exposures (Debevec & Malik 1997): least squares on
 * g(z) = ln E + ln t with hat weights and a smoothness of the second difference, each channel by itself.
 * Anchored so that middle code 128 gives the light that sRGB gives it, and the channels keep grey grey there.
 * @param samples at least 40, spread over the tones
 * @param stops exposure of each frame, EV
 * @returns undefined for too few samples
 */
export function recoverResponse(samples: readonly Sample[], stops: readonly number[]): Response | undefined {
  if (samples.length < 40 || stops.length < 2) return undefined;
  const channel = (c: number): Float32Array => {
    const told = samples.filter((s) => s.filter((codes) => weightOf(codes[c]) > LEAST_WEIGHT).length >= 2);
    const rows: { code: number; sample: number; ln: number; weight: number }[] = [];
    told.forEach((sample, s) =>
      sample.forEach((codes, f) => {
        const code = Math.round(codes[c]);
        const weight = weightOf(code);
        if (weight > LEAST_WEIGHT) rows.push({ code, sample: s, ln: stops[f] * Math.LN2, weight });
      }),
    );
    const n = 256 + told.length;
    const A = Matrix.zeros(rows.length + 255, n);
    const b = Matrix.zeros(rows.length + 255, 1);
    rows.forEach(({ code, sample, ln, weight }, k) => {
      A.set(k, code, weight);
      A.set(k, 256 + sample, -weight);
      b.set(k, 0, weight * ln);
    });
    A.set(rows.length, 128, 1);
    b.set(rows.length, 0, Math.log(srgbToLinear(128 / 255)));
    for (let z = 1; z < 255; z++) {
      const k = rows.length + z;
      const w = SMOOTHNESS * (0.05 + Math.min(z, 255 - z) / 128) * 0.1;
      A.set(k, z - 1, w);
      A.set(k, z, -2 * w);
      A.set(k, z + 1, w);
    }
    const g = new QrDecomposition(A).solve(b);
    const curve = Float32Array.from({ length: 256 }, (_, z) => Math.exp(g.get(z, 0)));
    // light never falls with the code
    for (let z = 129; z < 256; z++) curve[z] = Math.max(curve[z], curve[z - 1]);
    for (let z = 127; z >= 0; z--) curve[z] = Math.min(curve[z], curve[z + 1]);
    return curve;
  };
  return [channel(0), channel(1), channel(2)];
}

/** Largest difference of a response from sRGB between codes 16 and 240, stops. */
export function responseOff(response: Response): number {
  let most = 0;
  for (const curve of response)
    for (let z = 16; z <= 240; z++)
      most = Math.max(most, Math.abs(Math.log2(curve[z] / srgbToLinear(z / 255))));
  return most;
}
