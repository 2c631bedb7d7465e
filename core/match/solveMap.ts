import { linearOfOklab, oklabOf } from '../colour/oklab';
import { linearToSrgb } from '../raster/srgb';
import { commonSupport } from './commonSupport';
import { lightOf, mapSamples } from './mapSamples';
import { type MatchMap, plainMap } from './matchMap';
import { refineMap, type StepOptions } from './refineMap';
import { type PartedSamples, type Samples } from './samples';
import { slicedTransport, TURNED } from './slicedTransport';
import { length2 } from '../raster/length';

const clip = (v: number): number => Math.min(1, Math.max(0, v));

/** Steps of a fit to paired samples: curves alone, then with the matrix, then finely. */
const PAIRED: readonly (readonly [times: number, step: StepOptions])[] = [
  [2, { withMatrix: false, mixing: 1e-3, bending: 1e-4, standing: 1e-5, tie: 0, robust: 0.1 }],
  [2, { withMatrix: true, mixing: 1e-3, bending: 2e-5, standing: 1e-5, tie: 0, robust: 0.05 }],
  [6, { withMatrix: true, mixing: 1e-4, bending: 2e-5, standing: 1e-6, tie: 3e-4, robust: 0.015 }],
];

/** The map that takes samples to their partners: regression with slow start and robust weights. @param coefficients of each curve */
export function solvePaired(
  own: Samples,
  partners: Samples,
  coefficients = 15,
  last: Partial<StepOptions> = {},
): MatchMap {
  const light = lightOf(own);
  let map = plainMap(coefficients);
  PAIRED.forEach(([times, step], k) => {
    const options = k === PAIRED.length - 1 ? { ...step, ...last } : step;
    for (let i = 0; i < times; i++) map = refineMap(map, { light, wanted: partners }, options);
  });
  return map;
}

/** How distributions are matched. */
interface Transport {
  readonly coefficients: number;
  readonly rounds: number;
  readonly turned: number;
  readonly step: Omit<StepOptions, 'withMatrix'>;
  /** only what both sides have counts */
  readonly common: boolean;
}

/** For pictures that show the same things, and for such as share only some. */
const SAME: Transport = {
  coefficients: 13,
  rounds: 16,
  turned: 3,
  step: { mixing: 2e-3, bending: 2e-5, standing: 2e-4, tie: 1e-3, robust: 0.06 },
  common: false,
};
const ALIKE: Transport = {
  coefficients: 11,
  rounds: 10,
  turned: 2,
  step: { mixing: 0.05, bending: 1e-3, standing: 5e-3, tie: 0.03, robust: 0.06 },
  common: true,
};
/** rounds of curves alone */
const CURVES_FIRST = 2;
const REACH = 1.6;
const LEAST_WEIGHT = 0.02;

/** Alternates where samples should go to be distributed as the reference, and the map of its kind that comes nearest to that. */
function solveTransport(own: Samples, reference: Samples, how: Transport): MatchMap {
  const light = lightOf(own);
  let map = plainMap(how.coefficients);
  for (let round = 0; round < how.rounds; round++) {
    const now = mapSamples(map, own, light).map(clip);
    const weights = how.common ? commonSupport(now, reference, LEAST_WEIGHT) : undefined;
    const turned = Array.from({ length: how.turned }, (_, j) => 2 + ((round * how.turned + j) % TURNED));
    const wanted = slicedTransport(now, reference, [0, 1, ...turned], REACH, weights);
    const options = { ...how.step, withMatrix: round >= CURVES_FIRST };
    map = refineMap(map, { light, wanted, weight: weights?.own }, options);
  }
  return map;
}

/** The map between two pictures of the same things that are not laid over each other. */
export function solveSame(own: Samples, reference: Samples): MatchMap {
  return solveTransport(own, reference, SAME);
}

/** Five numbers that say how a picture is lit and coloured, in Oklab. */
interface Statistics {
  readonly light: number;
  /** log deviation of lightness */
  readonly contrast: number;
  /** log mean distance from the median colour */
  readonly chroma: number;
  readonly a: number;
  readonly b: number;
}

/** How far grades move them: standard deviations over 270 planted grades of 30 photographs. */
const GRADED: Statistics = { light: 0.038, contrast: 0.104, chroma: 0.167, a: 0.0099, b: 0.0113 };
/** How two pictures that show different things stand to each other. */
export type Relation =
  /** nothing is known of it */
  | 'other'
  /** the same place in the same light, as someone says who knows */
  | 'place'
  /** a plate and what lies about it: in one light, however the plate was shot */
  | 'plate';

interface Prior {
  /** how many times the variance over a picture's parts two pictures may differ in content */
  readonly apart: number;
  /** how many times as far as a grade the one may be from the other */
  readonly spread: number;
  /** part of a difference beyond what content explains that counts as grade */
  readonly evidence: number;
  /** shares of common colours between which a fit to them is trusted more and more, and how much at most */
  readonly trust: { readonly from: number; readonly to: number; readonly most: number };
}

/** Chosen on 31 photographs; the plate's spread is one of a stop and a half, common practice. */
const PRIORS: Readonly<Record<Relation, Prior>> = {
  other: { apart: 2.5, spread: 1, evidence: 0, trust: { from: 0.6, to: 0.9, most: 0.5 } },
  place: { apart: 1.4, spread: 1, evidence: 0, trust: { from: 0.5, to: 0.8, most: 0.5 } },
  plate: { apart: 1.4, spread: 5, evidence: 0.5, trust: { from: 0.6, to: 0.9, most: 0.5 } },
};
const NAMES = ['light', 'contrast', 'chroma', 'a', 'b'] as const;
/** samples that a part needs to be told by */
const LEAST_IN_PART = 40;

/** Colours in Oklab, three a sample. */
function oklabColours(samples: Samples): Float64Array {
  const light = lightOf(samples);
  const colours = new Float64Array(samples.length);
  for (let i = 0; i < samples.length; i += 3) colours.set(oklabOf(light[i], light[i + 1], light[i + 2]), i);
  return colours;
}

/** @param of indices of the samples that count */
function statisticsOf(colours: Float64Array, of: readonly number[]): Statistics {
  const n = of.length;
  const mean = (c: number): number => of.reduce((sum, i) => sum + colours[3 * i + c], 0) / n;
  const [light, a, b] = [mean(0), mean(1), mean(2)];
  const median = (c: number): number => Float64Array.from(of, (i) => colours[3 * i + c]).sort()[n >> 1];
  const [p, q] = [median(1), median(2)];
  let [spread, chroma] = [0, 0];
  for (const i of of) {
    spread += (colours[3 * i] - light) ** 2 / n;
    chroma += length2(colours[3 * i + 1] - p, colours[3 * i + 2] - q) / n;
  }
  return { light, contrast: Math.log(Math.sqrt(spread) + 0.01), chroma: Math.log(chroma + 0.005), a, b };
}

/** A picture's statistics, and how much they vary over its parts. */
interface Side {
  readonly colours: Float64Array;
  readonly whole: Statistics;
  readonly variance: Statistics;
}

function sideOf({ samples, parts }: PartedSamples): Side {
  const colours = oklabColours(samples);
  const members: number[][] = [];
  parts.forEach((part, i) => (members[part] ??= []).push(i));
  const each = members.filter((m) => m.length >= LEAST_IN_PART).map((m) => statisticsOf(colours, m));
  const variance = (name: keyof Statistics): number => {
    const mean = each.reduce((sum, s) => sum + s[name], 0) / Math.max(1, each.length);
    return each.reduce((sum, s) => sum + (s[name] - mean) ** 2, 0) / Math.max(1, each.length);
  };
  const of = Object.fromEntries(NAMES.map((name) => [name, variance(name)])) as Record<
    keyof Statistics,
    number
  >;
  return { colours, whole: statisticsOf(colours, Array.from(parts.keys())), variance: of };
}

/**
 * What samples become when five statistics move towards the reference's, each by the part of the difference that is likely grade: the more a
 * statistic varies from part to part of either picture, the less a difference between the two says (empirical Bayes; Efron & Morris 1973).
 */
function shrunkStatistics(own: PartedSamples, reference: PartedSamples, prior: Prior): Samples {
  const [p, q] = [sideOf(own), sideOf(reference)];
  const move = (name: keyof Statistics): number => {
    const content = prior.apart * (p.variance[name] + q.variance[name]);
    const apart = q.whole[name] - p.whole[name];
    const grade = Math.max((prior.spread * GRADED[name]) ** 2, prior.evidence * (apart ** 2 - content));
    return (apart * grade) / (grade + content);
  };
  const [contrast, chroma] = [Math.exp(move('contrast')), Math.exp(move('chroma'))];
  const [light, a, b] = [move('light'), move('a'), move('b')];
  const out = new Float64Array(own.samples.length);
  for (let i = 0; i < out.length; i += 3)
    linearOfOklab(
      contrast * (p.colours[i] - p.whole.light) + p.whole.light + light,
      chroma * (p.colours[i + 1] - p.whole.a) + p.whole.a + a,
      chroma * (p.colours[i + 2] - p.whole.b) + p.whole.b + b,
    ).forEach((v, c) => (out[i + c] = clip(linearToSrgb(v))));
  return out;
}

/** A map between pictures of like scenes, and how much of it rests on colours that both have. */
export interface AlikeMap {
  readonly map: MatchMap;
  /** part of the picture's colours that the reference has too, as they came */
  readonly share: number;
  /** 0 by statistics alone, 1 by common colours alone */
  readonly trust: number;
}

/** The map between pictures that share some content: shrunk statistics and, where much is shared, a fit to common colours, blended in Oklab. */
export function solveAlike(
  own: PartedSamples,
  reference: PartedSamples,
  relation: Relation = 'other',
): AlikeMap {
  // as the pictures came: after a fit it is high for any two
  const { share } = commonSupport(own.samples, reference.samples, 0);
  const prior = PRIORS[relation];
  const { from, to, most } = prior.trust;
  const trust = most * clip((share - from) / (to - from));
  const moved = shrunkStatistics(own, reference, prior);
  const wanted =
    trust > 0
      ? blended(
          moved,
          mapSamples(solveTransport(own.samples, reference.samples, ALIKE), own.samples).map(clip),
          trust,
        )
      : moved;
  return { map: solvePaired(own.samples, wanted, 11, { bending: 1e-4, tie: 1e-4 }), share, trust };
}

/** Part of the way from some samples to others, in Oklab. */
function blended(from: Samples, to: Samples, part: number): Samples {
  const out = new Float64Array(from.length);
  const [p, q] = [oklabColours(from), oklabColours(to)];
  for (let i = 0; i < out.length; i += 3)
    linearOfOklab(
      p[i] + part * (q[i] - p[i]),
      p[i + 1] + part * (q[i + 1] - p[i + 1]),
      p[i + 2] + part * (q[i + 2] - p[i + 2]),
    ).forEach((v, c) => (out[i + c] = clip(linearToSrgb(v))));
  return out;
}
