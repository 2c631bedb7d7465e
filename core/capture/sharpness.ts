import { type EncodedImage } from '../raster/encodedImage';

/**
 * Sharpness of a picture: ratio of the gradient over one pixel to half that over two, at its strongest edges. About 1 for an edge of one
 * pixel, 0.5 where every edge is a ramp of several; independent of exposure and contrast.
 * @param image at full size
 */
export function sharpnessOf({ width, height, data, white }: EncodedImage): number | undefined {
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / 400000)));
  const found: { size: number; ratio: number }[] = [];
  for (let y = 4; y < height - 4; y += stride)
    for (let x = 4; x < width - 4; x += stride) {
      const i = (y * width + x) * 3 + 1;
      for (const step of [3, width * 3]) {
        const wide = Math.abs(data[i + 2 * step] - data[i - 2 * step]) / white;
        if (wide < 0.08) continue;
        const steps = [-2, -1, 0, 1].map(
          (k) => Math.abs(data[i + (k + 1) * step] - data[i + k * step]) / white,
        );
        found.push({ size: wide, ratio: Math.max(...steps) / wide });
      }
    }
  if (found.length < 50) return undefined;
  found.sort((a, b) => b.size - a.size);
  const best = found
    .slice(0, Math.max(50, found.length >> 2))
    .map((f) => f.ratio)
    .sort((a, b) => a - b);
  return best[Math.floor(0.9 * (best.length - 1))];
}
