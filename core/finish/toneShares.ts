import { type EncodedImage } from '../raster/encodedImage';
import { linearTable } from '../raster/srgb';

/** Share of the pixels in each third of a stop of luminance, from −10 to +2.67 stops of middle grey 0.18; the ends hold the rest. */
export interface ToneShares {
  readonly first: number;
  readonly shares: readonly number[];
}

const FIRST = -10;
const COUNT = 39;

/** opacity from which a pixel is seen */
const SEEN = 128;

/** The histogram of a picture in stops from middle grey; of a cut-out that of what is seen of it. */
export function toneShares(image: EncodedImage): ToneShares {
  const table = linearTable(image.white);
  const counts = new Float64Array(COUNT);
  const { data, alpha } = image;
  let n = 0;
  for (let i = 0; i < data.length; i += 3) {
    if (alpha && alpha[i] < SEEN) continue;
    n++;
    const y = 0.2126 * table[data[i]] + 0.7152 * table[data[i + 1]] + 0.0722 * table[data[i + 2]];
    const step = y > 0 ? Math.round((Math.log2(y / 0.18) - FIRST) * 3) : 0;
    counts[Math.min(COUNT - 1, Math.max(0, step))]++;
  }
  return { first: FIRST, shares: [...counts].map((c) => c / Math.max(1, n)) };
}
