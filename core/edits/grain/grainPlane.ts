import { gaussianBlur, gaussianWeights } from '../../raster/gaussianBlur';
import { type Rectangle } from '../../raster/raster';

/** sigma, level pixels, below which noise is white */
const WHITE = 0.25;
/** standard deviation of the sum of four bytes that are drawn evenly */
const FOUR_BYTES = Math.sqrt((4 * (256 ** 2 - 1)) / 12);

/** Noise of a place: nearly normal, mean 0, deviation 1. */
function noiseAt(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca77) ^ Math.imul(seed + 1, 0xc2b2ae3d);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  h ^= h >>> 15;
  return ((h & 255) + ((h >>> 8) & 255) + ((h >>> 16) & 255) + (h >>> 24) - 510) / FOUR_BYTES;
}

/**
 * Grain on a rectangle of a level: the same at the same place of it, and as much weaker as halving a picture makes it.
 * @param size sigma of the Gaussian that white noise is blurred by, full-size pixels
 * @param seed another one gives other grain
 * @returns deviation 1 at full size
 */
export function grainPlane(
  { x, y, width, height }: Rectangle,
  level: number,
  size: number,
  seed: number,
): Float32Array {
  const own = size / 2 ** level;
  const margin = own >= WHITE ? Math.ceil(3 * own) : 0;
  const [w, h] = [width + 2 * margin, height + 2 * margin];
  const white = new Float32Array(w * h);
  for (let v = 0; v < h; v++)
    for (let u = 0; u < w; u++) white[v * w + u] = noiseAt(x + u - margin, y + v - margin, 4 * seed + level);
  // a mean of 4 ** level pixels, of which grain takes up some
  const left = 1 / Math.sqrt(1 + (4 ** level - 1) / (1 + 4 * Math.PI * size * size));
  if (margin === 0) return white.map((v) => v * left);
  const weights = gaussianWeights(own);
  const across = weights.reduce((s, v, i) => s + (i === 0 ? 1 : 2) * v * v, 0);
  const soft = gaussianBlur(white, w, h, own);
  const out = new Float32Array(width * height);
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++)
      out[v * width + u] = (soft[(v + margin) * w + u + margin] * left) / across;
  return out;
}
