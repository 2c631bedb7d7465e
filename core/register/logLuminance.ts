import { type Kernels, kernels } from '../kernels/kernels';
import { type Luminance } from './luminance';

/** A representation that can be compared between exposures: values, the noise variance of each, and where it is valid. */
export interface Representation {
  readonly width: number;
  readonly height: number;
  readonly value: Float32Array;
  readonly variance: Float32Array;
  readonly valid: Float32Array;
}

/** The floor added before the logarithm: it keeps the quantised darks of the darker frame from dominating. */
export function logFloor(stops: number): number {
  return Math.max(0.002, 0.012 * Math.max(1, 2 ** -stops / 16) * (stops < 0 ? 1 : 0.5));
}

const bits = new Float32Array(1);
const word = new Uint32Array(bits.buffer);
const MANTISSA = new Float32Array(4097);
for (let i = 0; i <= 4096; i++) MANTISSA[i] = Math.log2(1 + i / 4096);

/** log2 of a positive float by exponent and a 4096-entry mantissa table; error below 3.6e-4 (a thousandth of the noise it sees). */
export function log2Quick(v: number): number {
  bits[0] = v;
  const u = word[0];
  return (u >>> 23) - 127 + MANTISSA[(u & 0x7fffff) >>> 11];
}

// The noise model is smooth in light, so a table over log2(light) replaces a power per pixel.
const NOISE_LOW = -24;
const NOISE_STEPS = 16;
const NOISE = new Float32Array(48 * NOISE_STEPS);
for (let i = 0; i < NOISE.length; i++) NOISE[i] = ownVariance(2 ** (NOISE_LOW + i / NOISE_STEPS));

/** Variance of linear light in a frame's own exposure: shot, read and 8-bit sRGB quantisation noise of an ordinary sensor. */
function ownVariance(light: number): number {
  const codeStep = 0.0003 + 0.6 * 0.0039 * light ** 0.58;
  return (0.4 * light) / 15000 + (4 / 15000) ** 2 * 0.4 + codeStep * codeStep * 0.15;
}

/** Noise variance of a level's light in the common exposure; halving divides it by four. */
export function lightVariance(light: number, gain: number, level: number): number {
  const own = light / gain;
  const at = own > 0 ? (log2Quick(own) - NOISE_LOW) * NOISE_STEPS : 0;
  const v = NOISE[at <= 0 ? 0 : at >= NOISE.length - 1 ? NOISE.length - 1 : at | 0];
  return (v * gain * gain) / 4 ** level;
}

/** Binomial smoothing [1 2 1]²/16, edges repeated. */
function smooth(data: Float32Array, w: number, h: number): Float32Array {
  const across = new Float32Array(data.length);
  for (let y = 0; y < h; y++) {
    const o = y * w;
    for (let x = 1; x + 1 < w; x++)
      across[o + x] = 0.25 * (data[o + x - 1] + data[o + x + 1]) + 0.5 * data[o + x];
    across[o] = 0.75 * data[o] + 0.25 * data[o + 1];
    across[o + w - 1] = 0.75 * data[o + w - 1] + 0.25 * data[o + w - 2];
  }
  const out = new Float32Array(data.length);
  for (let y = 0; y < h; y++) {
    const o = y * w;
    const a = y > 0 ? o - w : o;
    const b = y + 1 < h ? o + w : o;
    for (let x = 0; x < w; x++) out[o + x] = 0.25 * (across[a + x] + across[b + x]) + 0.5 * across[o + x];
  }
  return out;
}

/** log2(light + floor) with its noise variance; the finest level is smoothed once, as its pixels carry most of the noise. */
export function logLuminance(source: Luminance, floor: number): Representation {
  const k = kernels();
  return k ? compiledLogLuminance(k, source, floor) : plainLogLuminance(source, floor);
}

function compiledLogLuminance(k: Kernels, source: Luminance, floor: number): Representation {
  const { width, height, light, valid, gain, level } = source;
  const n = light.length;
  return k.borrow(() => {
    const src = k.upload(light);
    const [value, variance] = [k.take(n * 4), k.take(n * 4)];
    k.logPlane(src, n, floor, 1 / gain, (gain * gain) / 4 ** level, value, variance);
    // the light is no longer needed: its place takes the smoothed values
    if (level === 0) k.smoothPlane(value, width, height, src, k.take(3 * (width * 4 + 16)));
    const copy = (at: number): Float32Array => k.floats(at, n).slice();
    return { width, height, value: copy(level === 0 ? src : value), variance: copy(variance), valid };
  });
}

/** The plain form of {@link logLuminance}, which the kernels are held against. */
export function plainLogLuminance(source: Luminance, floor: number): Representation {
  const { width, height, light, valid, gain, level } = source;
  const n = light.length;
  const value = new Float32Array(n);
  const variance = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const l = light[i] > 0 ? light[i] : 0;
    value[i] = log2Quick(l + floor);
    const slope = 1.4427 / (l + floor);
    variance[i] = lightVariance(l, gain, level) * slope * slope;
  }
  return { width, height, value: level === 0 ? smooth(value, width, height) : value, variance, valid };
}
