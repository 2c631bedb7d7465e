import { type EncodedImage } from '../raster/encodedImage';

/** an edge counts from this contrast over four pixels on, of white */
const LEAST = 0.08;

/**
 * Sharpness of a picture: ratio of the gradient over one pixel to half that over two, at its strongest edges. About 1 for an edge of one
 * pixel, 0.5 where every edge is a ramp of several; independent of exposure and contrast.
 * @param image at full size
 */
export function sharpnessOf({ width, height, data, white }: EncodedImage): number | undefined {
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / 400000)));
  const sizes: number[] = [];
  const ratios: number[] = [];
  const least = LEAST * white;
  for (let y = 4; y < height - 4; y += stride)
    for (let x = 4; x < width - 4; x += stride) {
      const i = (y * width + x) * 3 + 1;
      for (let way = 0, step = 3; way < 2; way++, step = width * 3) {
        const [first, last] = [data[i - 2 * step], data[i + 2 * step]];
        const wide = Math.abs(last - first);
        if (wide < least) continue;
        const [before, middle, after] = [data[i - step], data[i], data[i + step]];
        const steepest = Math.max(
          Math.abs(before - first),
          Math.abs(middle - before),
          Math.abs(after - middle),
          Math.abs(last - after),
        );
        sizes.push(wide);
        ratios.push(steepest / wide);
      }
    }
  if (sizes.length < 50) return undefined;
  // the strongest quarter of the edges
  const strongest = Float32Array.from(sizes).sort()[sizes.length - Math.max(50, sizes.length >> 2)];
  const best = Float32Array.from(ratios.filter((_, k) => sizes[k] >= strongest)).sort();
  return best[Math.floor(0.9 * (best.length - 1))];
}
