import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type LightGrid } from './lightGrid';

/** Linear colours of a thing and of what lies behind it, R G B interleaved. */
export interface ParedColours {
  readonly inside: Float32Array;
  readonly outside: Float32Array;
}

const SMOOTHNESS = 1e-5;
const SMOOTHNESS_AT_EDGES = 0.1;
/** sweeps on levels up to so many pixels wide, and above */
const SMALL = 32;
const SWEEPS_SMALL = 10;
const SWEEPS = 2;

/** Nearest-neighbour resize, as in the paper. */
function resized(
  source: Float32Array,
  [w, h]: readonly [number, number],
  channels: number,
  [W, H]: readonly [number, number],
): Float32Array {
  const out = new Float32Array(W * H * channels);
  for (let y = 0, o = 0; y < H; y++) {
    const row = Math.min(h - 1, Math.floor((y * h) / H)) * w;
    for (let x = 0; x < W; x++) {
      const from = (row + Math.min(w - 1, Math.floor((x * w) / W))) * channels;
      for (let c = 0; c < channels; c++) out[o++] = source[from + c];
    }
  }
  return out;
}

/**
 * Colours of a thing free of its old background: least squares of α·F + (1 − α)·B against the picture with colours that change slowly where alpha
 * does, by multi-level sweeps (Germer, Uelwer, Conrad & Harmeling 2020), in linear light.
 * @param alpha [pixel] 0…1
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function foregroundColour(
  { width, height, data }: LightGrid,
  alpha: Float32Array,
  compiled: Kernels | null = kernels() ?? null,
): ParedColours {
  // a vector of the kernels holds a pixel: a fourth value lies idle
  const channels = compiled ? 4 : 3;
  const whole = spaced(data, 3, channels);
  const levels = Math.max(1, Math.ceil(Math.log2(Math.max(width, height))));
  let size: readonly [number, number] = [1, 1];
  let [inside, outside] = [
    spaced(
      meanOf(data, alpha, (a) => a > 0.9),
      3,
      channels,
    ),
    spaced(
      meanOf(data, alpha, (a) => a < 0.1),
      3,
      channels,
    ),
  ];
  for (let level = 0; level <= levels; level++) {
    const next = [width, height].map((v) => Math.max(1, Math.round(v ** (level / levels))));
    const [w, h] = next;
    const last = level === levels;
    const light = last ? whole : resized(whole, [width, height], channels, [w, h]);
    const shares = last ? alpha : resized(alpha, [width, height], 1, [w, h]);
    inside = resized(inside, size, channels, [w, h]);
    outside = resized(outside, size, channels, [w, h]);
    const sweeps = Math.max(w, h) <= SMALL ? SWEEPS_SMALL : SWEEPS;
    if (compiled) sweepWith(compiled, light, shares, [w, h], inside, outside, sweeps);
    else for (let k = 0; k < sweeps; k++) sweep(light, shares, w, h, inside, outside);
    size = [w, h];
  }
  return { inside: spaced(inside, channels, 3), outside: spaced(outside, channels, 3) };
}

/** Pixels of so many channels with more, or fewer, of them. */
function spaced(pixels: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return pixels;
  const count = pixels.length / from;
  const out = new Float32Array(count * to);
  for (let i = 0; i < count; i++)
    for (let c = 0; c < Math.min(from, to); c++) out[i * to + c] = pixels[i * from + c];
  return out;
}

/** Sweeps by kernels, in place. */
function sweepWith(
  k: Kernels,
  light: Float32Array,
  alpha: Float32Array,
  [w, h]: readonly [number, number],
  inside: Float32Array,
  outside: Float32Array,
  sweeps: number,
): void {
  k.borrow(() => {
    const [at, shares] = [k.upload(light), k.upload(alpha)];
    const [F, B] = [k.take(planeBytes(inside.length)), k.take(planeBytes(outside.length))];
    k.floats(F, inside.length).set(inside);
    k.floats(B, outside.length).set(outside);
    for (let s = 0; s < sweeps; s++) k.sweepColours(at, shares, w, h, F, B, SMOOTHNESS, SMOOTHNESS_AT_EDGES);
    inside.set(k.floats(F, inside.length));
    outside.set(k.floats(B, outside.length));
  });
}

function meanOf(data: Float32Array, alpha: Float32Array, takes: (a: number) => boolean): Float32Array {
  const sum = new Float64Array(3);
  let count = 1e-6;
  for (let i = 0; i < alpha.length; i++)
    if (takes(alpha[i])) {
      count++;
      for (let c = 0; c < 3; c++) sum[c] += data[3 * i + c];
    }
  return Float32Array.from(sum, (s) => s / count);
}

/** One Gauss–Seidel sweep: both colours of a pixel from its own light and its four neighbours' colours. */
function sweep(
  light: Float32Array,
  alpha: Float32Array,
  w: number,
  h: number,
  F: Float32Array,
  B: Float32Array,
): void {
  const near = new Int32Array(4);
  const weight = new Float64Array(4);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const a = alpha[i];
      const b = 1 - a;
      near[0] = x > 0 ? i - 1 : i;
      near[1] = x + 1 < w ? i + 1 : i;
      near[2] = y > 0 ? i - w : i;
      near[3] = y + 1 < h ? i + w : i;
      let sum = 0;
      for (let k = 0; k < 4; k++)
        sum += weight[k] = SMOOTHNESS + SMOOTHNESS_AT_EDGES * Math.abs(a - alpha[near[k]]);
      const [m00, m01, m11] = [a * a + sum, a * b, b * b + sum];
      const scale = 1 / (m00 * m11 - m01 * m01);
      for (let c = 0; c < 3; c++) {
        let [f, g] = [a * light[3 * i + c], b * light[3 * i + c]];
        for (let k = 0; k < 4; k++) {
          f += weight[k] * F[3 * near[k] + c];
          g += weight[k] * B[3 * near[k] + c];
        }
        F[3 * i + c] = Math.max(0, Math.min(1, (m11 * f - m01 * g) * scale));
        B[3 * i + c] = Math.max(0, Math.min(1, (m00 * g - m01 * f) * scale));
      }
    }
}
