import { linearOfOklab } from '@/core/colour/oklab';
import { linearToSrgb } from '@/core/raster/srgb';

/** Linear light as a style; what a screen cannot show is cut off. */
export function lightInk(light: readonly number[]): string {
  const codes = light.map((v) => Math.round(255 * linearToSrgb(Math.min(1, Math.max(0, v)))));
  return `rgb(${codes.join(' ')})`;
}

/** A colour of Oklab as a style. */
export const oklabInk = (L: number, a: number, b: number): string => lightInk(linearOfOklab(L, a, b));

/** A hue as a style, the same lightness and chroma for all. @param hue degrees of Oklab */
export function hueInk(hue: number, chroma = 0.11): string {
  const angle = (hue * Math.PI) / 180;
  return oklabInk(0.68, chroma * Math.cos(angle), chroma * Math.sin(angle));
}
