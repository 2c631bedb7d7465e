import { operator } from '../../graph/operator';
import { coveringAt, cutPlane, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { maskOf } from '../../graph/wanted';

/** largest window, pixels to each side; a wider one is looked at where the picture is smaller */
const WIDEST = 5;
/** values that are told apart when the middle one is looked for */
const BINS = 64;
/** a place that is less than this from the middle of its surroundings stays as it is: soft edges and gradients are no specks */
const SPECK = 0.25;

const levelOf = (radius: number, level: number): number => {
  let at = level;
  while (radius / 2 ** at > WIDEST) at++;
  return at;
};

const around = (radius: number, at: At): At => {
  const level = levelOf(radius, at.level);
  return coveringAt(at, level, Math.round(radius / 2 ** level) + 1);
};

/**
 * A mask without specks: holes, crumbs and fringes narrower than a window take the value that half of their surroundings have (a median filter, Tukey 1977, running over
 * histograms as Huang, Yang & Tang 1979); soft edges stay as they are. Inputs: the mask around a place, and at it.
 */
export const smoothMask = operator<{ readonly radius: number }>({
  kind: 'smoothMask',
  version: 1,
  gives: 'mask',
  needs: ({ radius }, at, input) => (input === 0 ? around(radius, at) : at),
  run: ([wide, own], { radius }, at) => {
    const from = around(radius, at);
    const { width, height } = from.area;
    const { plane } = maskOf(wide, 'a region made smooth');
    const half = Math.round(radius / 2 ** from.level);
    const middle = half < 1 ? plane : medianOf(plane, width, height, half);
    const here = from.level === at.level ? cutPlane(middle, from.area, at.area) : resampled(middle, from, at);
    const mask = maskOf(own, 'a region made smooth').plane;
    return { is: 'mask', plane: mask.map((v, i) => (Math.abs(v - here[i]) > SPECK ? here[i] : v)) };
  },
});

/** The middle value of a square window about each pixel, edges continued. */
export function medianOf(plane: Float32Array, width: number, height: number, half: number): Float32Array {
  const codes = Uint8Array.from(plane, (v) => Math.round(v * (BINS - 1)));
  const out = new Float32Array(plane.length);
  const counts = new Int32Array(BINS);
  const inside = (v: number, most: number): number => (v < 0 ? 0 : v > most ? most : v);
  const middle = ((2 * half + 1) ** 2 + 1) / 2;
  for (let y = 0; y < height; y++) {
    counts.fill(0);
    const rows = Array.from({ length: 2 * half + 1 }, (_, k) => inside(y + k - half, height - 1) * width);
    for (const row of rows) for (let k = -half; k <= half; k++) counts[codes[row + inside(k, width - 1)]]++;
    for (let x = 0; x < width; x++) {
      let [sum, bin] = [0, -1];
      while (sum < middle) sum += counts[++bin];
      out[y * width + x] = bin / (BINS - 1);
      const [gone, next] = [inside(x - half, width - 1), inside(x + half + 1, width - 1)];
      for (const row of rows) {
        counts[codes[row + gone]]--;
        counts[codes[row + next]]++;
      }
    }
  }
  return out;
}
