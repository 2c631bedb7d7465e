import { type EncodedImage, sharedCopy } from './encodedImage';

/** from this opacity on a pixel's own colour counts */
const SEEN = 8;

/**
 * A cut-out ready to be resampled: pixels that are not seen take the colour of those beside them, so that no edge mixes with whatever
 * lay behind (usually black).
 * @param alpha straight opacity, 0…255, one value a pixel
 * @returns the picture with its opacity; the picture alone when all of it is opaque
 */
export function cutOut(image: EncodedImage, alpha: Uint8Array): EncodedImage {
  if (alpha.every((v) => v === 255)) return image;
  const { width, height } = image;
  const data = image.data.slice();
  const known = Uint8Array.from(alpha, (v) => (v >= SEEN ? 1 : 0));
  // sweeps to and fro carry each colour into the empty part, mixing what comes from above and from beside
  for (const step of [1, -1]) {
    for (let k = 0; k < width * height; k++) {
      const i = step > 0 ? k : width * height - 1 - k;
      if (known[i]) continue;
      const x = i % width;
      const beside = step > 0 ? x > 0 : x < width - 1;
      const above = step > 0 ? i >= width : i < width * (height - 1);
      const from = [beside ? i - step : -1, above ? i - step * width : -1].filter((j) => j >= 0 && known[j]);
      if (from.length === 0) continue;
      for (let c = 0; c < 3; c++)
        data[i * 3 + c] = from.reduce((sum, j) => sum + data[j * 3 + c], 0) / from.length;
      known[i] = 1;
    }
  }
  const opacity = new Uint8Array(alpha.length * 3);
  alpha.forEach((v, i) => opacity.fill(v, 3 * i, 3 * i + 3));
  return { ...image, data: sharedCopy(data), alpha: sharedCopy(opacity) };
}
