import { linearOfOklab, oklabOf } from '../colour/oklab';
import { linearToSrgb } from '../raster/srgb';
import { commonSupport } from './commonSupport';
import { lightOf, mapSamples } from './mapSamples';
import { type MatchMap, plainMap } from './matchMap';
import { refineMap, type StepOptions } from './refineMap';
import { type Samples } from './samples';
import { slicedTransport, TURNED } from './slicedTransport';

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

/** Parts of a difference between pictures of like scenes that are, on average, grade and not content (measured over 756 pairs). */
const GRADE = { light: 0.48, contrast: 0.19, chroma: 0.2, a: 0.57, b: 0.28 };

interface Statistics {
  /** Oklab, three a sample */
  readonly colours: Float64Array;
  readonly mean: readonly number[];
  readonly contrast: number;
  readonly chroma: number;
}

function statisticsOf(samples: Samples): Statistics {
  const light = lightOf(samples);
  const n = samples.length / 3;
  const colours = new Float64Array(samples.length);
  for (let i = 0; i < samples.length; i += 3) colours.set(oklabOf(light[i], light[i + 1], light[i + 2]), i);
  const channel = (c: number): Float64Array => Float64Array.from({ length: n }, (_, i) => colours[3 * i + c]);
  const mean = [0, 1, 2].map((c) => channel(c).reduce((sum, v) => sum + v, 0) / n);
  const [a, b] = [1, 2].map((c) => channel(c).sort()[n >> 1]);
  let [spread, chroma] = [0, 0];
  for (let i = 0; i < samples.length; i += 3) {
    spread += (colours[i] - mean[0]) ** 2 / n;
    chroma += Math.hypot(colours[i + 1] - a, colours[i + 2] - b) / n;
  }
  return { colours, mean, contrast: Math.sqrt(spread) + 1e-4, chroma: chroma + 0.005 };
}

/** What samples become when five statistics move by the part of their difference that is grade. */
function shrunkStatistics(own: Samples, reference: Samples): Samples {
  const [p, q] = [statisticsOf(own), statisticsOf(reference)];
  const contrast = (q.contrast / p.contrast) ** GRADE.contrast;
  const chroma = (q.chroma / p.chroma) ** GRADE.chroma;
  const moves = [GRADE.light, GRADE.a, GRADE.b].map((part, c) => part * (q.mean[c] - p.mean[c]));
  const out = new Float64Array(own.length);
  for (let i = 0; i < own.length; i += 3) {
    const [L, a, b] = [0, 1, 2].map(
      (c) => (c === 0 ? contrast : chroma) * (p.colours[i + c] - p.mean[c]) + p.mean[c] + moves[c],
    );
    linearOfOklab(L, a, b).forEach((v, c) => (out[i + c] = clip(linearToSrgb(v))));
  }
  return out;
}

/** Shares of common colours between which a fit to them is trusted more and more. */
const TRUST = { from: 0.5, to: 0.95 };

/** A map between pictures of like scenes, and how much of it rests on colours that both have. */
export interface AlikeMap {
  readonly map: MatchMap;
  /** part of the picture's colours that the reference has too, after the fit */
  readonly share: number;
  /** 0 by statistics alone, 1 by common colours alone */
  readonly trust: number;
}

/** The map between pictures that share some content: a fit to common colours and shrunk statistics, blended in Oklab by how much is shared. */
export function solveAlike(own: Samples, reference: Samples): AlikeMap {
  const common = mapSamples(solveTransport(own, reference, ALIKE), own).map(clip);
  const { share } = commonSupport(common, reference, 0);
  const trust = clip((share - TRUST.from) / (TRUST.to - TRUST.from));
  const moved = mapSamples(solvePaired(own, shrunkStatistics(own, reference), 9, { bending: 1e-4 }), own).map(
    clip,
  );
  const wanted = new Float64Array(own.length);
  const [from, to] = [lightOf(moved), lightOf(common)];
  for (let i = 0; i < own.length; i += 3) {
    const [A, B] = [from, to].map((l) => oklabOf(l[i], l[i + 1], l[i + 2]));
    linearOfOklab(
      A[0] + trust * (B[0] - A[0]),
      A[1] + trust * (B[1] - A[1]),
      A[2] + trust * (B[2] - A[2]),
    ).forEach((v, c) => (wanted[i + c] = clip(linearToSrgb(v))));
  }
  return { map: solvePaired(own, wanted, 11, { bending: 1e-4, tie: 1e-4 }), share, trust };
}
