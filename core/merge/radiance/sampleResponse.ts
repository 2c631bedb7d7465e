import { type EncodedImage } from '../../raster/encodedImage';
import { transform } from '../../raster/matrix3';
import { type RadianceFrame } from './radianceBand';
import { type Sample } from './response';

const COLUMNS = 16;
const ROWS = 12;
/** spread of the codes of a 3 × 3 patch, of 255, above which a place is too busy to sample */
const BUSY = 10;

/** Codes of fitted frames at evenly spread quiet places, for the recovery of the response. */
export function sampleResponse(frames: readonly RadianceFrame[], width: number, height: number): Sample[] {
  const samples: Sample[] = [];
  for (let row = 0; row < ROWS; row++)
    for (let column = 0; column < COLUMNS; column++) {
      const x = ((column + 0.5) / COLUMNS) * width;
      const y = ((row + 0.5) / ROWS) * height;
      const sample = frames.map(({ image, matrix }) => {
        const [u, v] = transform(matrix, x, y);
        return patchOf(image, Math.round(u), Math.round(v));
      });
      if (sample.every((s) => s !== undefined)) samples.push(sample);
    }
  return samples;
}

/** Mean codes of a 3 × 3 patch, of 255; undefined outside the frame or where it is busy. */
function patchOf(
  { width, height, data, white }: EncodedImage,
  x: number,
  y: number,
): [number, number, number] | undefined {
  if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) return undefined;
  const sums: [number, number, number] = [0, 0, 0];
  let [low, high] = [Infinity, -Infinity];
  for (let j = -1; j <= 1; j++)
    for (let i = -1; i <= 1; i++) {
      const at = ((y + j) * width + x + i) * 3;
      for (let c = 0; c < 3; c++) sums[c] += (data[at + c] * 255) / white / 9;
      low = Math.min(low, (data[at + 1] * 255) / white);
      high = Math.max(high, (data[at + 1] * 255) / white);
    }
  return high - low <= BUSY
    ? (sums.map((s) => Math.min(255, Math.max(0, s))) as [number, number, number])
    : undefined;
}
