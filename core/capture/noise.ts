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
  const row = 3 * width;
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / (BLOCK * BLOCK * 12000))));
  for (let by = 1; by + BLOCK < height; by += BLOCK * stride)
    for (let bx = 1; bx + BLOCK < width; bx += BLOCK * stride) {
      // a look at the tone comes first: it costs a ninth
      let mean = 0;
      for (let y = by; y < by + BLOCK; y++)
        for (let i = (y * width + bx) * 3 + 1, end = i + 3 * BLOCK; i < end; i += 3) mean += data[i];
      mean /= BLOCK * BLOCK * white;
      if (mean < between[0] || mean > between[1]) continue;
      let sum = 0;
      for (let y = by; y < by + BLOCK; y++) {
        // the three columns of a row move along: their sum, one, minus two, one down each
        let i = (y * width + bx) * 3 + 1;
        let left = data[i - row - 3] - 2 * data[i - 3] + data[i + row - 3];
        let middle = data[i - row] - 2 * data[i] + data[i + row];
        for (const end = i + 3 * BLOCK; i < end; i += 3) {
          const right = data[i - row + 3] - 2 * data[i + 3] + data[i + row + 3];
          const mask = left - 2 * middle + right;
          sum += mask < 0 ? -mask : mask;
          left = middle;
          middle = right;
        }
      }
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
