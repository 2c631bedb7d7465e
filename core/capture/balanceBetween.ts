import { type EncodedImage } from '../raster/encodedImage';
import { srgbToLinear } from '../raster/srgb';

const SAMPLES = 60000;

/** Colour of one frame against another at the pixels that both hold, red and blue over green, stops: medians over a common grid. */
export function balanceBetween(a: EncodedImage, b: EncodedImage): [red: number, blue: number] | undefined {
  if (a.width !== b.width || a.height !== b.height) return undefined;
  const red: number[] = [];
  const blue: number[] = [];
  const step = Math.max(1, Math.floor(a.data.length / 3 / SAMPLES)) * 3;
  const held = (p: EncodedImage, i: number): boolean =>
    [0, 1, 2].every((c) => p.data[i + c] > 0.08 * p.white && p.data[i + c] < 0.93 * p.white);
  const over = (p: EncodedImage, i: number, c: number): number =>
    Math.log2(srgbToLinear(p.data[i + c] / p.white) / srgbToLinear(p.data[i + 1] / p.white));
  for (let i = 0; i < a.data.length; i += step) {
    if (!held(a, i) || !held(b, i)) continue;
    red.push(over(b, i, 0) - over(a, i, 0));
    blue.push(over(b, i, 2) - over(a, i, 2));
  }
  if (red.length < 300) return undefined;
  const median = (v: number[]): number => v.sort((p, q) => p - q)[v.length >> 1];
  return [median(red), median(blue)];
}
