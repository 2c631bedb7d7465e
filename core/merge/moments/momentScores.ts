import { boxMean } from '../../raster/boxMean';
import { type GridFrame } from '../frameOnGrid';

/** What makes a moment the better one at a place. */
export type MomentWish = 'lit' | 'sharp' | 'unclipped' | 'calm' | 'smooth' | 'lively';

/** [wish][frame][cell] how good a frame is at a place, larger is better, comparable within a wish. */
export type MomentScores = Readonly<Record<MomentWish, readonly Float32Array[]>>;

const WINDOW = 3;
const LIGHT = 0.965;
const DARK = 0.02;
/** spread of the best exposure, as in exposure fusion */
const SIGMA = 0.22;

/**
 * Scores of every moment at every place: how well lit (exposed near the middle, and coloured), how sharp, how little clipped, how near to
 * what most moments show (calm: no passer-by), and how smooth or lively what moves is.
 */
export function momentScores(frames: readonly GridFrame[], width: number, height: number): MomentScores {
  const n = width * height;
  const mean = (plane: Float32Array): Float32Array => boxMean(plane, width, height, WINDOW);
  const grey = frames.map(({ planes: [R, G, B] }) =>
    R.map((r, i) => 0.299 * r + 0.587 * G[i] + 0.114 * B[i]),
  );
  const middle = medianOf(grey, frames, n);
  const structure = grey.map((g) => mean(laplacian(g, width, height)));
  return {
    lit: frames.map(({ planes: [R, G, B] }) => {
      const own = new Float32Array(n);
      for (let i = 0; i < n; i++) {
        const off = (v: number): number => Math.exp(-0.5 * ((v - 0.5) / SIGMA) ** 2);
        const colour = Math.max(R[i], G[i], B[i]) - Math.min(R[i], G[i], B[i]);
        own[i] = off(R[i]) * off(G[i]) * off(B[i]) * (0.4 + colour);
      }
      return mean(own);
    }),
    sharp: structure,
    unclipped: frames.map(({ planes }) => {
      const own = new Float32Array(n);
      for (let i = 0; i < n; i++)
        own[i] = planes.some((p) => p[i] > LIGHT) || planes.every((p) => p[i] < DARK) ? 0 : 1;
      return mean(own);
    }),
    calm: grey.map((g, f) => {
      const gain = levelOf(middle, g, frames[f].seen);
      return mean(g.map((v, i) => -Math.abs(v * gain - middle[i])));
    }),
    smooth: structure.map((s) => s.map((v) => -v)),
    lively: structure,
  };
}

/** Brightness of the median over a frame's, so that a darker moment is not a moving one; what passes must not count. */
function levelOf(middle: Float32Array, own: Float32Array, seen: Float32Array): number {
  const ratios: number[] = [];
  for (let i = 0; i < own.length; i += 7)
    if (seen[i] > 0 && own[i] > DARK && own[i] < LIGHT) ratios.push(middle[i] / own[i]);
  ratios.sort((a, b) => a - b);
  return ratios.length > 0 ? ratios[ratios.length >> 1] : 1;
}

function medianOf(grey: readonly Float32Array[], frames: readonly GridFrame[], n: number): Float32Array {
  const out = new Float32Array(n);
  const values: number[] = [];
  for (let i = 0; i < n; i++) {
    values.length = 0;
    for (let f = 0; f < grey.length; f++) if (frames[f].seen[i] > 0) values.push(grey[f][i]);
    values.sort((a, b) => a - b);
    const m = values.length >> 1;
    out[i] = values.length === 0 ? 0 : values.length % 2 ? values[m] : 0.5 * (values[m - 1] + values[m]);
  }
  return out;
}

function laplacian(g: Float32Array, w: number, h: number): Float32Array {
  const out = new Float32Array(g.length);
  for (let y = 1; y + 1 < h; y++)
    for (let x = 1, i = y * w + 1; x + 1 < w; x++, i++)
      out[i] = Math.abs(4 * g[i] - g[i - 1] - g[i + 1] - g[i - w] - g[i + w]);
  return out;
}
