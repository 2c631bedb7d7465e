import { type Kernels, kernels } from '../../kernels/kernels';
import { gaussianBlur, gaussianWeights } from '../../raster/gaussianBlur';
import { type Rectangle } from '../../raster/raster';

/** sigma, level pixels, below which noise is white */
const WHITE = 0.25;
/** deviation of the sum of four bytes that are drawn evenly */
const DEVIATION = Math.fround(Math.sqrt((4 * (256 ** 2 - 1)) / 12));

/** Noise of a place: nearly normal, mean 0, deviation 1; see the kernel `noisePlane`. */
function noiseAt(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca77) ^ Math.imul(seed + 1, 0xc2b2ae3d);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  h ^= h >>> 15;
  return ((h & 255) + ((h >>> 8) & 255) + ((h >>> 16) & 255) + (h >>> 24) - 510) / DEVIATION;
}

/** Noise on a rectangle. @param compiled null for the plain form, which the compiled one is held against */
export function whiteNoise(
  { x, y, width, height }: Rectangle,
  seed: number,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const n = width * height;
  if (compiled)
    return compiled.borrow(() => {
      const out = compiled.take(4 * n);
      compiled.noisePlane(out, width, height, x, y, seed);
      return compiled.floats(out, n).slice();
    });
  const noise = new Float32Array(n);
  for (let v = 0; v < height; v++)
    for (let u = 0; u < width; u++) noise[v * width + u] = noiseAt(x + u, y + v, seed);
  return noise;
}

/**
 * Grain on a rectangle of a level: the same at the same place of it, and as much weaker as halving a picture makes it.
 * @param size sigma of the Gaussian that white noise is blurred by, full-size pixels
 * @param seed another one gives other grain
 * @returns deviation 1 at full size
 */
export function grainPlane(area: Rectangle, level: number, size: number, seed: number): Float32Array {
  const own = size / 2 ** level;
  const margin = own >= WHITE ? Math.ceil(3 * own) : 0;
  const { width, height } = area;
  const wide = {
    ...{ x: area.x - margin, y: area.y - margin },
    ...{ width: width + 2 * margin, height: height + 2 * margin },
  };
  const white = whiteNoise(wide, 4 * seed + level);
  // a mean of 4 ** level pixels, of which grain takes up some
  const left = 1 / Math.sqrt(1 + (4 ** level - 1) / (1 + 4 * Math.PI * size * size));
  const across =
    margin === 0 ? 1 : gaussianWeights(own).reduce((s, v, i) => s + (i === 0 ? 1 : 2) * v * v, 0);
  const soft = margin === 0 ? white : gaussianBlur(white, wide.width, wide.height, own);
  const out = new Float32Array(width * height);
  const gain = left / across;
  for (let v = 0; v < height; v++) {
    const from = (v + margin) * wide.width + margin;
    for (let u = 0; u < width; u++) out[v * width + u] = gain * soft[from + u];
  }
  return out;
}
