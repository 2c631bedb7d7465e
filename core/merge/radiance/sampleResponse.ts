import { type EncodedImage } from '../../raster/encodedImage';
import { transform } from '../../raster/matrix3';
import { type RadianceFrame } from './radianceBand';
import { type Sample } from './response';

const COLUMNS = 16;
const ROWS = 12;
/** spread of the codes of a 3 × 3 patch, of 255, above which a place is too busy to sample */
const BUSY = 10;

/** Mean codes, of 255, at each of the places that are sampled; undefined outside the frame or where it is busy. */
export type FramePatches = readonly (readonly [number, number, number] | undefined)[];

/** Codes of a fitted frame at evenly spread places of the reference's grid. */
export function framePatches(
  { image, matrix }: Pick<RadianceFrame, 'image' | 'matrix'>,
  width: number,
  height: number,
): FramePatches {
  return Array.from({ length: ROWS * COLUMNS }, (_, k) => {
    const x = (((k % COLUMNS) + 0.5) / COLUMNS) * width;
    const y = ((Math.floor(k / COLUMNS) + 0.5) / ROWS) * height;
    const [u, v] = transform(matrix, x, y);
    return patchOf(image, Math.round(u), Math.round(v));
  });
}

/** What all frames of a set show at the places that are quiet in every one, for the recovery of the response. */
export function sampleResponse(frames: readonly FramePatches[]): Sample[] {
  const samples: Sample[] = [];
  frames[0]?.forEach((_, k) => {
    const sample = frames.map((patches) => patches[k]);
    if (sample.every((s) => s !== undefined)) samples.push(sample);
  });
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
