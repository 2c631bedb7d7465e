import { lightOf, mapSamples } from './mapSamples';
import { type MatchMap, plainMap } from './matchMap';
import { type MatchMark, wantedOf } from './matchMark';
import { refineMap } from './refineMap';
import { type Samples } from './samples';
import { solvePaired } from './solveMap';

/** coefficients of each curve: few places say little */
const COEFFICIENTS = 8;
const STEPS = 10;
/** steps of curves alone */
const CURVES_FIRST = 2;
/** what holds the map back, for all marks together */
const PRIOR = { mixing: 0.02, bending: 0.01, standing: 1e-3, tie: 0.01 } as const;
const ROBUST = 0.05;
/** coefficients of the curves of a match with marks */
const JOINED = 15;
/** how many samples of the picture one mark counts for */
const COUNTS = 400;

/** The map that does what marks ask for, and little else. @param marks at least one */
export function solveMarks(marks: readonly MatchMark[]): MatchMap {
  const from: Samples = Float64Array.from(marks.flatMap((m) => m.from));
  const light = lightOf(from);
  // greys alone do not tell how channels mix
  const isMixed = marks.some((m) => m.says === 'same' || m.says === 'keep');
  const [mixing, bending, standing, tie] = [PRIOR.mixing, PRIOR.bending, PRIOR.standing, PRIOR.tie].map(
    (share) => share / marks.length,
  );
  let map = plainMap(COEFFICIENTS);
  for (let step = 0; step < STEPS; step++) {
    const now = mapSamples(map, from, light);
    const wanted = Float64Array.from(
      marks.flatMap((mark, i) => wantedOf(mark, [now[3 * i], now[3 * i + 1], now[3 * i + 2]])),
    );
    const withMatrix = isMixed && step >= CURVES_FIRST;
    map = refineMap(map, { light, wanted }, { withMatrix, mixing, bending, standing, tie, robust: ROBUST });
  }
  return map;
}

/**
 * A match mended by marks, which outrank it: they are solved on what it makes of the picture, and both become one map.
 * @param samples of the picture that is changed
 */
export function mendByMarks(map: MatchMap, samples: Samples, marks: readonly MatchMark[]): MatchMap {
  const from = Float64Array.from(marks.flatMap((m) => m.from));
  const moved = mapSamples(map, from);
  const mended = solveMarks(
    marks.map((mark, i) => ({
      says: mark.says === 'keep' ? 'same' : mark.says,
      from: [moved[3 * i], moved[3 * i + 1], moved[3 * i + 2]],
      to: mark.says === 'keep' ? mark.from : mark.to,
    })),
  );
  const repeated = Float64Array.from({ length: COUNTS * from.length }, (_, i) => from[i % from.length]);
  const own = new Float64Array(samples.length + repeated.length);
  own.set(samples);
  own.set(repeated, samples.length);
  const clip = (v: number): number => Math.min(1, Math.max(0, v));
  return solvePaired(own, mapSamples(mended, mapSamples(map, own).map(clip)).map(clip), JOINED);
}
