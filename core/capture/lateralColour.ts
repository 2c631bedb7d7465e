import { asCodes, type EncodedImage } from '../raster/encodedImage';
import { length2 } from '../raster/length';

/** How much larger than green a lens draws red and blue, as measured in a picture. */
export interface LateralColour {
  readonly red: number;
  readonly blue: number;
  /** places that told it; with few, nothing is known and both are 0 */
  readonly places: number;
}

/** side of a place, pixels */
const SIDE = 20;
/** places nearer to the middle than this share of the half diagonal tell next to nothing */
const INNER = 0.25;
/** share of a colour's variance that green must explain for the place to count */
const EXPLAINED = 0.8;
/** codes of 255 beyond which a colour is clipped, or too dark to tell */
const [DARK, LIGHT] = [6, 247];
/** least slope of a place, squared codes of 255 summed over it */
const LEAST_SLOPE = 4000;
const LEAST_PLACES = 30;
/** places farther off the rest than so many of their typical distances do not count */
const BEYOND = 2.5;

/**
 * Lateral colour error by least squares: in small places red is green times a factor, plus a step along its slope away from the middle; that
 * step grows with the distance from the middle by the error that is sought. The median over all places holds against coloured edges.
 * @param image as it was shot, not corrected
 */
export function lateralColour(image: EncodedImage): LateralColour {
  const { data, width, height, white } = asCodes(image);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const corner = length2(cx, cy);
  const found: { share: number; weight: number }[][] = [[], []];
  for (let top = 2; top + SIDE + 2 <= height; top += SIDE)
    for (let left = 2; left + SIDE + 2 <= width; left += SIDE) {
      const [dx, dy] = [left + SIDE / 2 - cx, top + SIDE / 2 - cy];
      const r = length2(dx, dy);
      if (r < INNER * corner) continue;
      [0, 2].forEach((c, k) => {
        const step = stepAlong(data, width, left, top, c, dx / r, dy / r, 255 / white);
        // drawn larger by a share, a colour shows at r what green shows at r · (1 − share)
        if (step) found[k].push({ share: -step.step / r, weight: step.slope * r * r });
      });
    }
  const places = Math.min(found[0].length, found[1].length);
  if (places < LEAST_PLACES) return { red: 0, blue: 0, places };
  return { red: middleOf(found[0]), blue: middleOf(found[1]), places };
}

/** By how many pixels a colour lies before green along a direction, in one place. */
function stepAlong(
  data: ArrayLike<number>,
  width: number,
  left: number,
  top: number,
  c: number,
  ux: number,
  uy: number,
  scale: number,
): { step: number; slope: number } | undefined {
  let [n, g, s, v, gg, gs, ss, gv, sv, vv] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  const row = 3 * width;
  for (let y = top; y < top + SIDE; y++)
    for (let x = left; x < left + SIDE; x++) {
      const o = (y * width + x) * 3 + 1;
      const green = data[o] * scale;
      const colour = data[o - 1 + c] * scale;
      if (green < DARK || colour < DARK || green > LIGHT || colour > LIGHT) return undefined;
      // over five samples: a difference of two would see fine detail too flat
      const across = 8 * (data[o + 3] - data[o - 3]) - data[o + 6] + data[o - 6];
      const down = 8 * (data[o + row] - data[o - row]) - data[o + 2 * row] + data[o - 2 * row];
      const slope = (scale * (ux * across + uy * down)) / 12;
      n++;
      g += green;
      s += slope;
      v += colour;
      gg += green * green;
      gs += green * slope;
      ss += slope * slope;
      gv += green * colour;
      sv += slope * colour;
      vv += colour * colour;
    }
  // about the means
  gg -= (g * g) / n;
  gs -= (g * s) / n;
  ss -= (s * s) / n;
  gv -= (g * v) / n;
  sv -= (s * v) / n;
  vv -= (v * v) / n;
  const det = gg * ss - gs * gs;
  if (!(det > 1e-3 * gg * ss) || ss < LEAST_SLOPE) return undefined;
  const factor = (gv * ss - sv * gs) / det;
  const along = (sv * gg - gv * gs) / det;
  if (factor < 0.1 || factor * gv + along * sv < EXPLAINED * vv) return undefined;
  return { step: along / factor, slope: ss - (gs * gs) / gg };
}

/** The weighted mean about the weighted median, without what is far off it. */
function middleOf(found: readonly { share: number; weight: number }[]): number {
  const sorted = found.slice().sort((a, b) => a.share - b.share);
  const all = sorted.reduce((sum, f) => sum + f.weight, 0);
  let passed = 0;
  const median = sorted.find((f) => (passed += f.weight) >= all / 2)?.share ?? 0;
  const off = sorted.map((f) => Math.abs(f.share - median)).sort((a, b) => a - b);
  const gate = BEYOND * off[off.length >> 1];
  const kept = sorted.filter((f) => Math.abs(f.share - median) <= gate);
  const weight = kept.reduce((sum, f) => sum + f.weight, 0);
  return weight > 0 ? kept.reduce((sum, f) => sum + f.weight * f.share, 0) / weight : median;
}
