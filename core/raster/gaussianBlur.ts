/** Weights of a normalised Gaussian, from the middle outwards, to three sigmas. */
function gaussianWeights(sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const weights = Float32Array.from({ length: reach + 1 }, (_, i) =>
    Math.exp(-(i * i) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0) * 2 - weights[0];
  return weights.map((w) => w / sum);
}

/** Gaussian blur of a plane, edges continued. @param sigma in pixels */
export function gaussianBlur(
  plane: Float32Array,
  width: number,
  height: number,
  sigma: number,
): Float32Array {
  const weights = gaussianWeights(sigma);
  const reach = weights.length - 1;
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
