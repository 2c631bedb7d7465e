import { hatch } from './hatch';
import { type Rectangle } from '../raster/raster';

/** How a mask is seen: lines over the picture, alone, the picture cut out before grey, or the line of its edge. */
export const MASK_FORMS = ['hatched', 'alone', 'cut', 'edge'] as const;

export type MaskForm = (typeof MASK_FORMS)[number];

/** code of middle grey, 18 % of the light of white (sRGB, IEC 61966-2-1) */
const GREY = 118;
const LIGHT = 245;
const DARK = 20;

/** pixels beyond an area that a form looks at */
export const maskMargin = (form: MaskForm): number => (form === 'edge' ? 1 : 0);

/**
 * Shows a mask on a picture, in place.
 * @param rgba R G B A of `area`
 * @param mask 0…1 of `area` and of {@link maskMargin} pixels around it
 */
export function showMask(rgba: Uint8ClampedArray, mask: Float32Array, form: MaskForm, area: Rectangle): void {
  switch (form) {
    case 'hatched':
      return hatch(rgba, area.width, mask, true, area.x, area.y);
    case 'alone':
      for (let i = 0; i < mask.length; i++) rgba.fill(Math.round(255 * mask[i]), 4 * i, 4 * i + 3);
      return;
    case 'cut':
      for (let i = 0; i < mask.length; i++)
        for (let c = 4 * i; c < 4 * i + 3; c++) rgba[c] = GREY + (rgba[c] - GREY) * mask[i];
      return;
    case 'edge':
      return edgeLine(rgba, mask, area);
  }
}

/** Where a mask crosses a half: a light line within, a dark one without, so that it is seen on any picture. */
function edgeLine(rgba: Uint8ClampedArray, mask: Float32Array, { width, height }: Rectangle): void {
  const stride = width + 2;
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const i = (y + 1) * stride + x + 1;
      const isIn = mask[i] >= 0.5;
      const beside = [mask[i - 1], mask[i + 1], mask[i - stride], mask[i + stride]];
      if (beside.some((m) => m >= 0.5 !== isIn)) rgba.fill(isIn ? LIGHT : DARK, o, o + 3);
    }
}
