import { boxMean } from '../../raster/boxMean';
import { smoothStep } from '../../region/smoothRange';
import { type TakenColour } from './coloursAlong';
import { type LocalColour } from './localColour';
import { colourDistance } from './startColour';
import { length2 } from '../../raster/length';

/** spreads up to which a colour is the brush's own, and from which it is another's */
const [SAME, OTHER] = [2.2, 3.6];
/** pixels aside where texture is looked at too: at an edge the windows of both sides lie apart */
const ASIDE = 3;
/** pixels over which lonely ones are outvoted */
const VOTE = 1;

/** pixels around a place that its likeness looks at */
export const LIKENESS_REACH = ASIDE + VOTE;

/**
 * How much each pixel belongs to what a brush lies on, 0…1: by colour and texture, against the colour it started on and those taken near the pixel.
 * @param colours in the order of the stroke, the first where it started; `x`, `y` in pixels of the picture given
 * @param near pixels around where a colour was taken in which it counts
 */
export function likeness(picture: LocalColour, colours: readonly TakenColour[], near: number): Float32Array {
  const { width, height, L, a, b, texture } = picture;
  const out = new Float32Array(width * height);
  const aside = [
    0,
    -ASIDE - ASIDE * width,
    ASIDE - ASIDE * width,
    -ASIDE + ASIDE * width,
    ASIDE + ASIDE * width,
  ];
  colours.forEach(({ colour, x: cx, y: cy }, n) => {
    const reach = n === 0 ? Infinity : near;
    const [x0, x1] = [Math.max(0, Math.floor(cx - reach)), Math.min(width - 1, Math.ceil(cx + reach))];
    const [y0, y1] = [Math.max(0, Math.floor(cy - reach)), Math.min(height - 1, Math.ceil(cy + reach))];
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const i = y * width + x;
        if (out[i] === 1) continue;
        const d = colourDistance(colour, L[i], a[i], b[i]);
        if (d >= OTHER) continue;
        const inner = x >= ASIDE && y >= ASIDE && x < width - ASIDE && y < height - ASIDE;
        let apart = Infinity;
        for (let k = 0; k < (inner ? 5 : 1); k++)
          apart = Math.min(apart, Math.abs(texture[i + aside[k]] - colour.texture));
        const whole = length2(d, apart / colour.textureSpread);
        const like = smoothStep((OTHER - whole) / (OTHER - SAME));
        if (like > out[i]) out[i] = like;
      }
  });
  return boxMean(out, width, height, VOTE).map((v) => smoothStep((v - 0.2) / 0.6));
}
