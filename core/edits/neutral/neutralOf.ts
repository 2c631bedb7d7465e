import { linearToSrgb, srgbToLinear } from '../../raster/srgb';
import { type NeutralSettings } from './neutral';

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
): NeutralSettings | undefined {
  if (codes.some((c) => c < LOW || c > HIGH)) return undefined;
  const [r, g, b] = codes.map((c) => srgbToLinear(c / 255));
  const grey = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return { x, y, before: codes, gains: [grey / r, grey / g, grey / b] };
}

/** How far a patch is from neutral: the largest difference of its channels, codes of 255. */
export function castOf(codes: readonly [number, number, number]): number {
  return Math.max(...codes) - Math.min(...codes);
}

/** What gains make of a colour. @param codes 0…255 */
export function balancedCodes(
  codes: readonly [number, number, number],
  { gains }: Pick<NeutralSettings, 'gains'>,
): [number, number, number] {
  const out = codes.map((c, i) => 255 * linearToSrgb(srgbToLinear(c / 255) * gains[i]));
  return [out[0], out[1], out[2]];
}
