import { oklabOf } from '../../colour/oklab';
import { type EncodedImage } from '../../raster/encodedImage';
import { linearTable } from '../../raster/srgb';
import { hueStep, wholeTurn } from './hueMove';
import { length2 } from '../../raster/length';

/** The hues of a picture: how much colour lies at each, and where most does. */
export interface HueShares {
  /** share of all chroma in each step of hue from 0° on, sum 1; all 0 for a picture without colour */
  readonly shares: readonly number[];
  /** hues that stand out, degrees of Oklab, and the share of all chroma that is nearest to each; by hue */
  readonly peaks: readonly { readonly at: number; readonly share: number }[];
  /** mean lightness and chroma of all colour, Oklab */
  readonly mean: { readonly lightness: number; readonly chroma: number };
}

/** degrees of a step */
const STEP = 5;
const COUNT = 360 / STEP;
/** chroma over lightness below which a colour has no hue to be counted: what is nearly grey is noise */
const LEAST = 0.035;
/** spread that hues are counted with, degrees: noise and the shades of one thing are one hue */
const SPREAD = 9;
/** hues stand at least this far apart, degrees */
const APART = 24;
/** a peak rises over the valley beside it by this part of the highest, by the root of their shares: flowers are few beside a lit wall */
const RISE = 0.04;
/** share of the colour below which a hue is not named */
const LEAST_SHARE = 0.003;
const MOST = 7;

/** Measures which hues a picture holds. */
export function huesOfPicture(image: EncodedImage): HueShares {
  const table = linearTable(image.white);
  const { data, alpha } = image;
  const counts = new Float64Array(COUNT);
  const [sum, seen] = [{ lightness: 0, chroma: 0 }, { weight: 0 }];
  for (let i = 0; i < data.length; i += 3) {
    if (alpha && alpha[i] < 128) continue;
    const [L, a, b] = oklabOf(table[data[i]], table[data[i + 1]], table[data[i + 2]]);
    const chroma = length2(a, b);
    if (chroma < LEAST * L || L <= 0) continue;
    const hue = wholeTurn((Math.atan2(b, a) * 180) / Math.PI) / STEP;
    const k = Math.floor(hue);
    // shared between two steps, so that none is favoured
    counts[k % COUNT] += chroma * (1 - hue + k);
    counts[(k + 1) % COUNT] += chroma * (hue - k);
    sum.lightness += chroma * L;
    sum.chroma += chroma * chroma;
    seen.weight += chroma;
  }
  const total = seen.weight;
  if (total === 0) return { shares: [...counts], peaks: [], mean: { lightness: 0.6, chroma: 0 } };
  const shares = [...counts].map((c) => c / total);
  return {
    shares,
    peaks: peaksOf(smoothed(shares).map(Math.sqrt), shares),
    mean: { lightness: sum.lightness / total, chroma: sum.chroma / total },
  };
}

function smoothed(shares: readonly number[]): number[] {
  const weights = shares.map((_, k) => Math.exp(-0.5 * (hueStep(0, k * STEP) / SPREAD) ** 2));
  const all = weights.reduce((a, b) => a + b);
  return shares.map((_, i) =>
    shares.reduce((s, _v, k) => s + (shares[(i + k) % COUNT] * weights[k]) / all, 0),
  );
}

/** Hues that stand out of their surroundings, the strongest first taken, none near another. */
function peaksOf(curve: readonly number[], shares: readonly number[]): HueShares['peaks'] {
  const highest = Math.max(...curve);
  const at = (i: number): number => curve[((i % COUNT) + COUNT) % COUNT];
  /** how far one must come down from a peak before one can go higher */
  const rise = (i: number): number => {
    const side = (way: 1 | -1): number => {
      let least = at(i);
      for (let k = 1; k < COUNT; k++) {
        if (at(i + way * k) > at(i)) return at(i) - least;
        least = Math.min(least, at(i + way * k));
      }
      return at(i) - least;
    };
    return Math.min(side(1), side(-1));
  };
  const tops = curve
    .map((value, i) => ({ i, value }))
    .filter(({ i, value }) => value > at(i - 1) && value >= at(i + 1) && rise(i) > RISE * highest)
    .sort((p, q) => q.value - p.value);
  const chosen = tops.reduce<number[]>((taken, { i }) => {
    // the top of the parabola through the step and its neighbours
    const bend = at(i - 1) - 2 * at(i) + at(i + 1);
    const hue = wholeTurn((i + (bend < 0 ? (0.5 * (at(i - 1) - at(i + 1))) / bend : 0)) * STEP);
    const near = taken.some((other) => Math.abs(hueStep(other, hue)) < APART);
    return near || taken.length === MOST ? taken : [...taken, hue];
  }, []);
  const peaks = chosen.sort((p, q) => p - q).map((hue) => ({ at: Math.round(hue) % 360, share: 0 }));
  shares.forEach((share, k) => {
    const nearest = peaks.reduce((best, peak) =>
      Math.abs(hueStep(peak.at, k * STEP)) < Math.abs(hueStep(best.at, k * STEP)) ? peak : best,
    );
    nearest.share += share;
  });
  return peaks.filter((p) => p.share >= LEAST_SHARE);
}
