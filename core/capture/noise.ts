import { type EncodedImage } from '../raster/encodedImage';

const BLOCK = 8;

/**
 * Noise of a picture: Immerkær's difference of Laplacians (1996) in blocks of the green channel, the lower tenth of the blocks so that
 * texture does not count.
 * @param between tones of the blocks that count, encoded 0…1
 * @returns standard deviation, encoded 0…1; undefined where too few blocks have such tones
 */
export function noiseSigma(
  { width, height, data, white }: EncodedImage,
  between: readonly [low: number, high: number] = [0.02, 0.9],
): number | undefined {
  const sigmas: number[] = [];
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / (BLOCK * BLOCK * 12000))));
  for (let by = 1; by + BLOCK < height; by += BLOCK * stride)
    for (let bx = 1; bx + BLOCK < width; bx += BLOCK * stride) {
      let [sum, mean] = [0, 0];
      for (let y = by; y < by + BLOCK; y++)
        for (let x = bx; x < bx + BLOCK; x++) {
          const i = (y * width + x) * 3 + 1;
          const [u, d] = [i - width * 3, i + width * 3];
          mean += data[i];
          sum += Math.abs(
            data[u - 3] +
              data[u + 3] +
              data[d - 3] +
              data[d + 3] -
              2 * (data[u] + data[d] + data[i - 3] + data[i + 3]) +
              4 * data[i],
          );
        }
      mean /= BLOCK * BLOCK * white;
      if (mean < between[0] || mean > between[1]) continue;
      sigmas.push((Math.sqrt(Math.PI / 2) * sum) / (6 * BLOCK * BLOCK * white));
    }
  if (sigmas.length < 12) return undefined;
  sigmas.sort((a, b) => a - b);
  // the lower tenth of sample deviations lies below their mean: 0.8 of it for 64 samples (simulated)
  return sigmas[Math.floor(sigmas.length * 0.1)] / 0.8;
}

/** Variance of a picture's noise, encoded; 0 where it cannot be told. */
export function noiseVariance(image: EncodedImage): number {
  return (noiseSigma(image) ?? 0) ** 2;
}
