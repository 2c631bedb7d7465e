import { deltaE2000, type Lab, labOf } from '../colour/deltaE';
import { srgbToLinear } from '../raster/srgb';
import { mapColour, type MatchMap } from './matchMap';

/** Three sRGB codes, 0…1. */
export type Code = readonly [r: number, g: number, b: number];

/** What is known of a place: that it is white, or a grey without a colour, that it is right as it is (skin, leaves), or what it is to look like. */
export type MarkSays = 'white' | 'grey' | 'keep' | 'same';

/** A colour of which something is known. */
export interface MatchMark {
  readonly says: MarkSays;
  /** as it is before the match */
  readonly from: Code;
  /** of “same”: what it is to become */
  readonly to?: Code;
}

/** code of a white wall that is not burnt */
export const WHITE = 0.97;

const luma = ([r, g, b]: Code): number => 0.299 * r + 0.587 * g + 0.114 * b;

/** What a mark asks a colour to be. @param now what it is with the map so far: a grey keeps its lightness */
export function wantedOf({ says, from, to }: MatchMark, now: Code): Code {
  switch (says) {
    case 'white':
      return [WHITE, WHITE, WHITE];
    case 'grey': {
      const grey = luma(now);
      return [grey, grey, grey];
    }
    case 'keep':
      return from;
    case 'same':
      return to ?? from;
  }
}

/** What became of a mark. */
export interface MarkCheck {
  readonly now: Code;
  /** CIEDE2000 from what it asks for */
  readonly off: number;
}

/** times the median by which a mark is off that contradicts the others, and how far it is off at least, CIEDE2000; study of matching */
const [TIMES, LEAST] = [3, 2];

/** Which marks contradict the others, by how far each is off. */
export function contradicting(off: readonly number[]): boolean[] {
  const median = off.toSorted((a, b) => a - b)[off.length >> 1] ?? 0;
  return off.map((v) => off.length > 2 && v > Math.max(LEAST, TIMES * median));
}

const labOfCode = (code: Code): Lab => {
  const [r, g, b] = code.map((v) => srgbToLinear(Math.min(1, Math.max(0, v))));
  return labOf(r, g, b);
};

/** What a map makes of a mark. @param map none for a match that is not solved */
export function checkMark(mark: MatchMark, map: MatchMap | undefined): MarkCheck {
  const now = map ? mapColour(map, [...mark.from]) : mark.from;
  return { now, off: deltaE2000(labOfCode(now), labOfCode(wantedOf(mark, now))) };
}
