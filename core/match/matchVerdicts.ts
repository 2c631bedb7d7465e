import { type Verdict } from '../proof/finding';
import { type MatchScore } from './matchScore';

/** A line of a score: how far it lies from what is alike, and from where on that is to be watched and to be mended. */
interface Line {
  readonly off: (score: MatchScore) => number;
  readonly watch: number;
  readonly fail: number;
}

const STOPS = { watch: 0.3, fail: 1 } as const;

/** Limits of each line (common practice: a third of a stop is seen side by side, as are 3 ΔE2000 of large areas). */
const LINES: Readonly<Record<keyof MatchScore, Line>> = {
  deltaE: { off: (s) => s.deltaE, watch: 3, fail: 8 },
  darks: { off: (s) => Math.abs(s.darks), ...STOPS },
  middles: { off: (s) => Math.abs(s.middles), ...STOPS },
  lights: { off: (s) => Math.abs(s.lights), ...STOPS },
  cast: { off: (s) => s.cast.strength, watch: 0.01, fail: 0.03 },
  chroma: { off: (s) => Math.abs(Math.log2(Math.max(1e-3, s.chroma))), watch: 0.25, fail: 0.8 },
};

/**
 * How one line of a score is judged.
 * @param paired whether both show the same: beside other things a difference may be what they show, and is only to be watched
 */
export function matchVerdict(line: keyof MatchScore, score: MatchScore, paired: boolean): Verdict {
  const { off, watch, fail } = LINES[line];
  const value = off(score);
  if (value <= watch) return 'pass';
  return paired && value > fail ? 'fail' : 'watch';
}
