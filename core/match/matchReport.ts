import { oklabOf } from '../colour/oklab';
import { srgbToLinear } from '../raster/srgb';
import { mapSamples } from './mapSamples';
import { mapColour, type MatchMap } from './matchMap';
import { type MatchScore, matchScore, pairedDifference } from './matchScore';
import { type Samples } from './samples';
import { type SolvedMatch } from './solveMatch';
import { length2 } from '../raster/length';

/** What a match did, in numbers. */
export interface MatchReport {
  readonly how: SolvedMatch['how'];
  /** what was compared with what, and how far it can be trusted, a sentence */
  readonly why: string;
  readonly correlation?: number;
  readonly share?: number;
  readonly scores: { readonly before: MatchScore; readonly after: MatchScore };
  /** CIEDE2000 pixel on pixel, where that could be measured */
  readonly pixels?: {
    readonly before: { readonly mean: number; readonly most: number };
    readonly after: { readonly mean: number; readonly most: number };
  };
  /** steepest and flattest slope of the curves, and the largest Oklab chroma that a grey takes on */
  readonly risk: { readonly steepest: number; readonly flattest: number; readonly greyChroma: number };
  /** what no such change can mend, sentences */
  readonly cannot: readonly string[];
}

const FULL = 0.995;
/** more of the picture than this that is full where the reference is not is lost light, a share */
const LOST = 0.01;
const GREYS = 16;
const SLOPES = 255;
/** slopes beyond these pull noise and steps of codes into sight, or press tones together; proposals of the study */
const STEEP = 3;
const FLAT = 0.3;

/** Measures what a map makes of its samples. @param map the one that is used: the solved one, or a part of it */
export function matchReport(solved: SolvedMatch, map: MatchMap): MatchReport {
  const { how, target, reference, correlation, share } = solved;
  const after = mapSamples(map, target).map((v) => Math.min(1, Math.max(0, v)));
  const risk = riskOf(map);
  return {
    how,
    why: whyOf(solved),
    ...(correlation === undefined ? {} : { correlation }),
    ...(share === undefined ? {} : { share }),
    scores: { before: matchScore(target, reference), after: matchScore(after, reference) },
    ...(how === 'paired'
      ? { pixels: { before: pairedDifference(target, reference), after: pairedDifference(after, reference) } }
      : {}),
    risk,
    cannot: cannotMend(target, reference, risk),
  };
}

function whyOf({ how, share = 0, trust = 0 }: SolvedMatch): string {
  if (how === 'paired') return 'Both show the same things in the same places: solved pixel on pixel.';
  const percent = (v: number): string => `${Math.round(100 * v)} %`;
  const rest = `The pictures show different things: ${percent(share)} of the colours are in both`;
  return trust < 0.05
    ? `${rest}, too few to go by. Only the part of their difference that is likely grade was taken over; the rest may be what they show.`
    : `${rest}; the change rests on these to ${percent(trust)}, else on the part of their difference that is likely grade; the rest was left, as it may be what they show.`;
}

function riskOf(map: MatchMap): MatchReport['risk'] {
  let [steepest, flattest, greyChroma] = [0, Infinity, 0];
  const grey = (v: number) => mapColour(map, [v, v, v]);
  for (let i = 0; i < SLOPES; i++) {
    const [a, b] = [grey(i / SLOPES), grey((i + 1) / SLOPES)];
    for (let c = 0; c < 3; c++) {
      const slope = (b[c] - a[c]) * SLOPES;
      steepest = Math.max(steepest, slope);
      // the ends are often flat by intent
      if (i > 5 && i < SLOPES - 5) flattest = Math.min(flattest, slope);
    }
  }
  for (let i = 1; i < GREYS; i++) {
    const [r, g, b] = grey(i / GREYS).map((v) => srgbToLinear(Math.min(1, Math.max(0, v))));
    const [, p, q] = oklabOf(r, g, b);
    greyChroma = Math.max(greyChroma, length2(p, q));
  }
  return { steepest, flattest, greyChroma };
}

function cannotMend(target: Samples, reference: Samples, risk: MatchReport['risk']): string[] {
  const full = (samples: Samples): number => {
    let count = 0;
    for (let i = 0; i < samples.length; i += 3)
      if (Math.max(samples[i], samples[i + 1], samples[i + 2]) > FULL) count++;
    return (3 * count) / samples.length;
  };
  const [own, other] = [full(target), full(reference)];
  return [
    ...(own - other > LOST
      ? [
          `${(100 * own).toFixed(1)} % of the picture is full, of the reference ${(100 * other).toFixed(1)} %: lights that were lost do not come back. Use a darker exposure.`,
        ]
      : []),
    ...(risk.steepest > STEEP
      ? [
          `Tones are pulled apart ${risk.steepest.toFixed(1)} ×: look for noise and steps there, or take less of it.`,
        ]
      : []),
    ...(risk.flattest < FLAT
      ? [
          `Tones are pressed together to ${risk.flattest.toFixed(2)} ×: detail is lost there, or take less of it.`,
        ]
      : []),
  ];
}
