import { type EncodedImage } from '../raster/encodedImage';
import { srgbToLinear } from '../raster/srgb';

const SAMPLES = 60000;
/** tones that are read, of white */
const [DARKEST, BRIGHTEST] = [0.08, 0.93];
const LEAST = 300;

/** Colour of one frame against another at the pixels that both hold, red and blue over green, stops: medians over a common grid. */
export function balanceBetween(a: EncodedImage, b: EncodedImage): [red: number, blue: number] | undefined {
  if (a.width !== b.width || a.height !== b.height) return undefined;
  const step = Math.max(1, Math.floor(a.data.length / 3 / SAMPLES)) * 3;
  const most = Math.ceil(a.data.length / step);
  const [red, blue] = [new Float64Array(most), new Float64Array(most)];
  const [stopsOfA, stopsOfB] = [stopsOf(a), stopsOf(b)];
  let count = 0;
  for (let i = 0; i < a.data.length; i += step) {
    if (!isHeld(a, i) || !isHeld(b, i)) continue;
    const green = stopsOfB(b.data[i + 1]) - stopsOfA(a.data[i + 1]);
    red[count] = stopsOfB(b.data[i]) - stopsOfA(a.data[i]) - green;
    blue[count++] = stopsOfB(b.data[i + 2]) - stopsOfA(a.data[i + 2]) - green;
  }
  if (count < LEAST) return undefined;
  const median = (v: Float64Array): number => v.subarray(0, count).sort()[count >> 1];
  return [median(red), median(blue)];
}

/** Whether all three samples of a pixel are neither dark nor bright. */
function isHeld({ data, white }: EncodedImage, i: number): boolean {
  const [low, high] = [DARKEST * white, BRIGHTEST * white];
  for (let c = i; c < i + 3; c++) if (!(data[c] > low && data[c] < high)) return false;
  return true;
}

/** Light of a sample, stops; by a table where there are codes. */
function stopsOf({ white }: EncodedImage): (sample: number) => number {
  const stops = (sample: number): number => Math.log2(srgbToLinear(sample / white));
  if (white === 1) return stops;
  const table = Float64Array.from({ length: white + 1 }, (_, code) => stops(code));
  return (code) => table[code];
}
