import { srgbToLinear } from '../raster/srgb';
import { type Neutral } from './adjust';

/** Codes outside this range say little about colour: a channel clips or drowns. */
const LOW = 6;
const HIGH = 250;

/**
 * Gains that make a sampled patch neutral and keep its luminance.
 * @param codes mean codes of the patch, 0…255
 * @returns undefined where the patch is too dark or too light to know its colour
 */
export function neutralOf(
  x: number,
  y: number,
  codes: readonly [number, number, number],
): Neutral | undefined {
  if (codes.some((c) => c < LOW || c > HIGH)) return undefined;
  const [r, g, b] = codes.map((c) => srgbToLinear(c / 255));
  const grey = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return { x, y, before: codes, gains: [grey / r, grey / g, grey / b] };
}

/** How far a patch is from neutral: the largest difference of its channels, codes of 255. */
export function castOf(codes: readonly [number, number, number]): number {
  return Math.max(...codes) - Math.min(...codes);
}
