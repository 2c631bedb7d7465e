import { fromLevel, type Matrix3, toLevel, transform, translation } from '../raster/matrix3';
import { gradientPoints } from './gradientPoints';
import { type Luminance } from './luminance';
import { localStructure } from './localStructure';
import { logLuminance, type Representation } from './logLuminance';
import { refineAlignment } from './refineAlignment';
import { correlationShifts, phaseShifts, type Shift } from './shiftCandidates';
import { tileCorrelation, voteOfTiles } from './tileCorrelation';
import { length2 } from '../raster/length';

/** The chosen start at the coarsest level, with the votes of the best and of the next different candidate. */
export interface CoarseStart {
  readonly map: Matrix3;
  readonly vote: number;
  readonly second: number;
}

/** The coarsest level of a picture and the next finer one. */
export interface TopLevels {
  readonly coarsest: Luminance;
  readonly finer: Luminance;
}

interface Candidate {
  readonly map: Matrix3;
  readonly vote: number;
}

const NOWHERE = [{ dx: 0, dy: 0 }];
const LEAST_SCORE = 6;
/** enough to tell places apart; the levels below use more */
const POINTS = 6000;
const MOST_TURNED = 3;
/** a vote that only the right place reaches */
const CLEAR = 0.5;

/** The vote of the best candidate that lands farther than `apart` from the winner at the picture's middle. */
function runnerUp(sorted: readonly Candidate[], width: number, height: number, apart: number): number {
  if (sorted.length === 0) return -1;
  const [u, v] = transform(sorted[0].map, width / 2, height / 2);
  for (const c of sorted.slice(1)) {
    const [x, y] = transform(c.map, width / 2, height / 2);
    if (length2(x - u, y - v) > apart) return c.vote;
  }
  return -1;
}

/**
 * Finds where the frame lies against the reference without any prior knowledge: shifts from phase correlation, from masked
 * correlation of two representations, and none at all, each briefly refined; the tiles vote, and a close vote is repeated one
 * level finer. A single global correlation locks onto a moving object.
 */
export function coarseStart(reference: TopLevels, frame: TopLevels, floor: number): CoarseStart {
  const { width, height, level: top } = reference.coarsest;
  const R = logLuminance(reference.coarsest, floor);
  const F = logLuminance(frame.coarsest, floor);
  const normalR = localStructure(R, 6, true);
  const normalF = localStructure(F, 6, true);
  const points = gradientPoints(R, { tilesX: 6, tilesY: 4, total: POINTS, leastScore: LEAST_SCORE });
  const vote = (map: Matrix3): number =>
    voteOfTiles(tileCorrelation(normalR, normalF, map, 8, 6, NOWHERE, 2));
  const refined = (shifts: readonly Shift[]): Candidate[] => {
    const moved: Candidate[] = [];
    for (const { dx, dy } of shifts) {
      const fit = refineAlignment(points, F, translation(dx, dy), 'shift', { width, height }, 0.05, 4);
      // several starts often end in one place
      if (!fit.solved || moved.some(({ map }) => length2(map[2] - fit.map[2], map[5] - fit.map[5]) < 0.5))
        continue;
      moved.push({ map: fit.map, vote: vote(fit.map) });
    }
    moved.sort((p, q) => q.vote - p.vote);
    const turned = moved.map((candidate, i): Candidate => {
      // a turn can halve the vote of the right place, hardly more
      if (i >= MOST_TURNED || candidate.vote < 0.4 * moved[0].vote) return candidate;
      const { solved, map } = refineAlignment(
        points,
        F,
        candidate.map,
        'similarity',
        { width, height },
        0.03,
        8,
      );
      const plausible = solved && Math.abs(length2(map[0], map[3]) - 1) < 0.06 && Math.abs(map[3]) < 0.1;
      return plausible ? { map, vote: vote(map) } : candidate;
    });
    return turned.sort((p, q) => q.vote - p.vote);
  };
  const first = [...phaseShifts(normalR, normalF, 4), ...NOWHERE];
  let candidates = refined(first);
  // the masked correlations cost as much as all the rest: only where phase correlation leaves a doubt
  if (!(candidates[0]?.vote > CLEAR && runnerUp(candidates, width, height, 1) < 0.6 * candidates[0].vote))
    candidates = refined([
      ...first,
      ...correlationShifts(localStructure(R, 12, false), localStructure(F, 12, false), 3),
      ...correlationShifts(normalR, normalF, 4),
    ]);
  let second = runnerUp(candidates, width, height, 1);
  if (candidates.length > 1 && second > 0.8 * candidates[0].vote) {
    const decided = voteOneFiner(reference.finer, frame.finer, floor, candidates, top);
    if (decided.length > 0) {
      candidates = decided;
      second = runnerUp(candidates, width, height, 0.6);
    }
  }
  return candidates.length > 0
    ? { map: candidates[0].map, vote: candidates[0].vote, second }
    : { map: translation(0, 0), vote: -1, second: -1 };
}

function voteOneFiner(
  reference: Luminance,
  frame: Luminance,
  floor: number,
  candidates: readonly Candidate[],
  top: number,
): Candidate[] {
  const level = top - 1;
  const R: Representation = logLuminance(reference, floor);
  const F: Representation = logLuminance(frame, floor);
  const normalR = localStructure(R, 8, true);
  const normalF = localStructure(F, 8, true);
  const points = gradientPoints(R, { tilesX: 8, tilesY: 6, total: 30000, leastScore: LEAST_SCORE });
  const out: Candidate[] = [];
  for (const c of candidates.slice(0, 6)) {
    if (c.vote < 0.7 * candidates[0].vote) break;
    const start = toLevel(fromLevel(c.map, top), level);
    const fit = refineAlignment(points, F, start, 'similarity', reference, 0.03, 10);
    if (!fit.solved) continue;
    const vote = voteOfTiles(tileCorrelation(normalR, normalF, fit.map, 12, 8, NOWHERE, 2));
    out.push({ map: toLevel(fromLevel(fit.map, level), top), vote });
  }
  return out.sort((p, q) => q.vote - p.vote);
}
