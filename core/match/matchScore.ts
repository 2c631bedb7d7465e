import { deltaE2000, labOf } from '../colour/deltaE';
import { oklabOf } from '../colour/oklab';
import { lightOf } from './mapSamples';
import { type Samples } from './samples';
import { length2 } from '../raster/length';

/** How one picture stands to another in tone and colour; 0, or 1 for the ratio, where they are alike. */
export interface MatchScore {
  /** mean CIEDE2000 between the mean colours of twentieths by lightness */
  readonly deltaE: number;
  /** darkest tenth, middle fifth and lightest tenth against the reference's, stops */
  readonly darks: number;
  readonly middles: number;
  readonly lights: number;
  /** colour of the whole against the reference's: direction, degrees of Oklab, and length */
  readonly cast: { readonly hue: number; readonly strength: number };
  /** chroma over the reference's */
  readonly chroma: number;
}

const GROUPS = 20;
/** light that still counts as dark, so that black is not infinitely far from nearly black */
const LEAST_LIGHT = 1e-3;

type Light = readonly [number, number, number];

interface Side {
  /** mean linear light of twentieths, darkest first */
  readonly groups: readonly Light[];
  readonly a: number;
  readonly b: number;
  readonly chroma: number;
}

const luminance = ([r, g, b]: Light): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

function sideOf(samples: Samples): Side {
  const light = lightOf(samples);
  const n = samples.length / 3;
  const at = (i: number): Light => [light[3 * i], light[3 * i + 1], light[3 * i + 2]];
  const bright = Float64Array.from({ length: n }, (_, i) => luminance(at(i)));
  const order = Uint32Array.from(bright.keys()).sort((i, j) => bright[i] - bright[j] || i - j);
  const groups = Array.from({ length: GROUPS }, (_, k): Light => {
    const members = order.slice(Math.floor((k * n) / GROUPS), Math.floor(((k + 1) * n) / GROUPS));
    const mean = (c: number): number =>
      members.reduce((sum, i) => sum + light[3 * i + c], 0) / members.length;
    return [mean(0), mean(1), mean(2)];
  });
  let [a, b, chroma] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const colour = oklabOf(...at(i));
    a += colour[1] / n;
    b += colour[2] / n;
    chroma += length2(colour[1], colour[2]) / n;
  }
  return { groups, a, b, chroma };
}

/** Compares two pictures by their samples. */
export function matchScore(own: Samples, reference: Samples): MatchScore {
  const [p, q] = [sideOf(own), sideOf(reference)];
  const stops = (from: number, to: number): number => {
    const mean = ({ groups }: Side): number =>
      groups.slice(from, to).reduce((sum, g) => sum + luminance(g), 0) / (to - from);
    return Math.log2((mean(p) + LEAST_LIGHT) / (mean(q) + LEAST_LIGHT));
  };
  const [a, b] = [p.a - q.a, p.b - q.b];
  return {
    deltaE: p.groups.reduce((sum, g, k) => sum + deltaE2000(labOf(...g), labOf(...q.groups[k])), 0) / GROUPS,
    darks: stops(0, 2),
    middles: stops(8, 12),
    lights: stops(GROUPS - 2, GROUPS),
    cast: { hue: ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360, strength: length2(a, b) },
    chroma: p.chroma / Math.max(1e-6, q.chroma),
  };
}

/** Mean CIEDE2000 of samples that belong together, and the 99th hundredth. */
export function pairedDifference(own: Samples, reference: Samples): { mean: number; most: number } {
  const [p, q] = [lightOf(own), lightOf(reference)];
  const lab = (l: Float64Array, i: number) => labOf(l[i], l[i + 1], l[i + 2]);
  const each: number[] = [];
  for (let i = 0; i < own.length; i += 3) each.push(deltaE2000(lab(p, i), lab(q, i)));
  each.sort((x, y) => x - y);
  return {
    mean: each.reduce((sum, v) => sum + v, 0) / Math.max(1, each.length),
    most: each[Math.floor(0.99 * each.length)] ?? 0,
  };
}
