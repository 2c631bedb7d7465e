import { curveAt, type MatchMap, shareOfStrength, straightCurve } from '../../match/matchMap';
import { checkMark, type MarkCheck, type MatchMark } from '../../match/matchMark';
import { type MatchScore } from '../../match/matchScore';
import { linearToSrgb, srgbToLinear } from '../../raster/srgb';

/** What was measured when a match was solved. */
export interface MatchedScores {
  readonly before: MatchScore;
  readonly after: MatchScore;
  /** whether both showed the same things in the same places, so that what is left is a fault and not another subject */
  readonly paired: boolean;
  /** whether someone said that two different pictures show one place in one light */
  readonly samePlace?: boolean;
  /** what was compared with what, a sentence */
  readonly why: string;
  /** what no such change can mend, sentences */
  readonly cannot: readonly string[];
}

/** A change that makes a picture look like another, and how much of it is taken. */
export interface MatchSettings {
  /** what it was matched to; empty while it was to nothing */
  readonly to: string;
  /** where it is like several: what they are called, and how much each counts; `to` names them all */
  readonly weighed?: readonly WeighedName[];
  /** see MatchMap */
  readonly matrix: readonly number[];
  readonly curves: readonly (readonly number[])[];
  /** 0…1: how bright middle grey is, how far tones stand apart, and what differs between the channels */
  readonly tone: number;
  readonly contrast: number;
  readonly colour: number;
  /** share of its numbers at which the picture lies half way, see halfwayShare; 0.5 where it is not said */
  readonly halfway?: number;
  readonly scores?: MatchedScores;
  /** what is known of places of the picture: it outranks what it is matched to, and stays as a check */
  readonly marks?: readonly PlacedMark[];
}

/** Something to look like, and how much it counts, 0…1. */
export interface WeighedName {
  readonly to: string;
  readonly weight: number;
}

/** most pictures that a match is like */
export const MOST_REFERENCES = 6;

/** A mark, and where it lies: full-size pixels of the picture. */
export interface PlacedMark extends MatchMark {
  readonly x: number;
  readonly y: number;
}

/** most marks of a match */
export const MOST_MARKS = 40;

/** What became of a mark, with as much of the match as is taken. */
export const markCheck = (mark: MatchMark, settings: MatchSettings): MarkCheck =>
  checkMark(mark, settings.curves.length === 3 ? matchMapOf(settings) : undefined);

const IDENTITY = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;
/** code of middle grey, light 0.18 */
const GREY = linearToSrgb(0.18);

/**
 * The change that is made: the solved one as the sum of a change of exposure, one of contrast, and what is left for colour, each as much as wished.
 * It rises wherever the solved one does.
 */
export function matchMapOf({ matrix, curves, halfway, ...parts }: MatchSettings): MatchMap {
  const [tone, contrast, colour] = [parts.tone, parts.contrast, parts.colour].map((strength) =>
    shareOfStrength(strength, halfway),
  );
  const count = curves[0]?.length ?? 0;
  const straight = straightCurve(count);
  const mean = straight.map((_, i) => curves.reduce((sum, c) => sum + c[i], 0) / curves.length);
  // the gain of light that takes middle grey where the mean curve takes it
  const gain = srgbToLinear(Math.max(1e-4, curveAt(mean, GREY))) / 0.18;
  const exposed = straight.map((code) => codeOf(gain * lightOf(code)));
  return {
    matrix: IDENTITY.map((v, i) => v + colour * (matrix[i] - v)),
    curves: curves.map((curve) => {
      let least = -Infinity;
      return Float64Array.from(curve, (v, i) => {
        const moved =
          straight[i] +
          tone * (exposed[i] - straight[i]) +
          contrast * (mean[i] - exposed[i]) +
          colour * (v - mean[i]);
        return (least = Math.max(least, moved));
      });
    }),
  };
}

// sRGB's coding, continued as an odd function
const lightOf = (code: number): number => Math.sign(code) * srgbToLinear(Math.abs(code));
const codeOf = (light: number): number => Math.sign(light) * linearToSrgb(Math.abs(light));
