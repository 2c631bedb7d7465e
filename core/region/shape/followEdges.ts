import { operator } from '../../graph/operator';
import { coveringAt, cutPlane, resampled } from '../../graph/resample';
import { type At } from '../../graph/tile';
import { lightOf, maskOf } from '../../graph/wanted';
import { guidedCoefficients } from '../../mask/guidedFilter';
import { tonesOf } from '../../merge/radiance/toneMap';

/** variance of the tones, stops², below which a place counts as even */
const EVEN = 0.06;
/** radius from which the filter's coefficients are found at half the size (He & Sun, Fast Guided Filter, 2015) */
const WIDE = 64;

function windowAt(radius: number, level: number): { readonly at: number; readonly pixels: number } {
  let at = level;
  while (radius / 2 ** at > WIDE) at++;
  return { at, pixels: Math.round(radius / 2 ** at) };
}

/** Where mask and picture are wanted: two windows around a place. */
function source(radius: number, at: At): At {
  const { at: level, pixels } = windowAt(radius, at.level);
  return coveringAt(at, level, 2 * pixels + (level === at.level ? 0 : 1));
}

/** A mask led to the edges of the picture by a guided filter of its tones (He, Sun & Tang 2010). Inputs: mask, picture, picture where it is looked at. */
export const followEdges = operator<{ readonly radius: number }>({
  kind: 'followEdges',
  version: 1,
  gives: 'mask',
  works: 'linear',
  needs: ({ radius }, at, input) => (input < 2 ? source(radius, at) : at),
  run: ([input, wide, own], { radius }, at) => {
    const from = source(radius, at);
    const { width, height } = from.area;
    const { pixels } = windowAt(radius, at.level);
    const { plane } = maskOf(input, 'a region led along edges');
    const guide = tonesOf(lightOf(wide, 'a region led along edges').planes);
    const { slope, offset } = guidedCoefficients(plane, guide, width, height, pixels, EVEN);
    const here = (p: Float32Array): Float32Array =>
      from.level === at.level ? cutPlane(p, from.area, at.area) : resampled(p, from, at);
    const [a, b] = [here(slope), here(offset)];
    const tones = tonesOf(lightOf(own, 'a region led along edges').planes);
    return { is: 'mask', plane: tones.map((t, i) => Math.min(1, Math.max(0, a[i] * t + b[i]))) };
  },
});
