import { asCodes, emptyImage, type EncodedImage } from '../raster/encodedImage';
import { boxMean } from '../raster/boxMean';
import { logFloor, logLuminance } from './logLuminance';
import { luminance } from './luminance';

/** window over which the strength of edges is evened out, pixels */
const AROUND = 16;
/** edges of this strength are half way up where nothing stronger is around, stops a pixel */
const FAINT = 0.02;
/** slopes of less than so many deviations of the noise are none */
const OF_NOISE = 2;
/** codes of no edge, and what the strongest adds: neither is clipped */
const [NONE, STRONGEST] = [0.2, 0.6];

/**
 * A picture as its edges: how steep its log luminance is against the mean around, whichever way it rises. Light that comes from elsewhere or has another
 * colour turns slopes round and changes their strength, and leaves them where they are.
 * @returns grey, 16 bits: 0.2 of white where there is no edge … 0.8
 */
export function edgePicture(image: EncodedImage): EncodedImage {
  const { width, height } = image;
  const { value, variance, valid } = logLuminance(luminance(asCodes(image), 0, 'all'), logFloor(0));
  const steep = new Float32Array(width * height);
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1, i = y * width + 1; x + 1 < width; x++, i++) {
      if (valid[i - 1] + valid[i + 1] + valid[i - width] + valid[i + width] < 4) continue;
      const across = (value[i + 1] - value[i - 1]) / 2;
      const down = (value[i + width] - value[i - width]) / 2;
      const noise = (variance[i - 1] + variance[i + 1] + variance[i - width] + variance[i + width]) / 4;
      steep[i] = Math.sqrt(Math.max(0, across * across + down * down - OF_NOISE * OF_NOISE * noise));
    }
  const around = boxMean(steep, width, height, AROUND);
  const edges = emptyImage(width, height, 65535);
  for (let i = 0; i < steep.length; i++) {
    const share = steep[i] / (steep[i] + around[i] + FAINT);
    edges.data.fill(Math.round(65535 * (NONE + STRONGEST * share)), 3 * i, 3 * i + 3);
  }
  return edges;
}
