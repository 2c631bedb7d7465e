import { type Kernels, kernels } from '../kernels/kernels';

/** Weights of a normalised Gaussian, from the middle outwards, to three sigmas. */
export function gaussianWeights(sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const weights = Float32Array.from({ length: reach + 1 }, (_, i) =>
    Math.exp(-(i * i) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0) * 2 - weights[0];
  return weights.map((w) => w / sum);
}

/** pixels up to which the kernels' memory, which is never given back, is asked for: three planes */
const MOST_COMPILED = 8_000_000;

/**
 * Gaussian blur of a plane, edges continued.
 * @param sigma in pixels
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function gaussianBlur(
  plane: Float32Array,
  width: number,
  height: number,
  sigma: number,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const weights = gaussianWeights(sigma);
  const reach = weights.length - 1;
  const n = plane.length;
  if (compiled && n <= MOST_COMPILED)
    return compiled.borrow(() => {
      const source = compiled.upload(plane);
      const [out, across, line] = [n, n, width + 2 * reach].map((count) => compiled.take(4 * count));
      const table = compiled.upload(weights);
      compiled.blurPlane(source, width, height, table, reach, out, across, line);
      return compiled.floats(out, n).slice();
    });
  const across = new Float32Array(plane.length);
  const padded = new Float32Array(width + 2 * reach);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    padded.set(plane.subarray(row, row + width), reach);
    padded.fill(plane[row], 0, reach);
    padded.fill(plane[row + width - 1], reach + width);
    for (let x = 0; x < width; x++) {
      let sum = weights[0] * padded[x + reach];
      for (let k = 1; k <= reach; k++) sum += weights[k] * (padded[x + reach - k] + padded[x + reach + k]);
      across[row + x] = sum;
    }
  }
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let k = -reach; k <= reach; k++) {
      const from = Math.min(height - 1, Math.max(0, y + k)) * width;
      const w = weights[Math.abs(k)];
      for (let x = 0; x < width; x++) out[row + x] += w * across[from + x];
    }
  }
  return out;
}
