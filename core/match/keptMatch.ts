import { type MatchMap } from './matchMap';

/** A change of tone and colour as plain numbers, as a recipe keeps it. */
export interface KeptMatch {
  readonly matrix: readonly number[];
  readonly curves: readonly (readonly number[])[];
}

/** A map out of what is kept of it. */
export const matchMapFrom = ({ matrix, curves }: KeptMatch): MatchMap => ({
  matrix,
  curves: curves.map((c) => Float64Array.from(c)),
});

/** What is kept of a map. */
export const keptMatch = ({ matrix, curves }: MatchMap): KeptMatch => ({
  matrix: [...matrix],
  curves: curves.map((c) => [...c]),
});
