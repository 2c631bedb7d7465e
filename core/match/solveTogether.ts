import { Problem } from '../proof/problem';
import { type EncodedImage } from '../raster/encodedImage';
import { lightOf, mapSamples } from './mapSamples';
import { solvePaired } from './solveMap';
import { type MatchKnowledge, type SolvedMatch, solveMatch } from './solveMatch';
import { type Samples } from './samples';

/** A picture to look like, and how much it counts. */
export interface WeighedPicture {
  readonly picture: EncodedImage;
  /** what is known of it and the target */
  readonly knowledge?: MatchKnowledge;
  /** against the others; 0 not at all */
  readonly weight: number;
}

/**
 * Solves the change that makes a picture look like several others, weighed: a map is solved to each by itself, and one is fitted to their weighed mean.
 * @throws Problem where none of them counts, or one of the pictures shows nothing
 */
export function solveTogether(target: EncodedImage, references: readonly WeighedPicture[]): SolvedMatch {
  const counted = references.filter((r) => r.weight > 0);
  const [first, ...others] = counted.map((r) => ({
    ...{ solved: solveMatch(target, r.picture, r.knowledge), weight: r.weight },
  }));
  if (!first)
    throw new Problem('None of the pictures to look like counts: give at least one of them a weight.');
  if (others.length === 0) return first.solved;
  const all = [first, ...others];
  const total = all.reduce((sum, { weight }) => sum + weight, 0);
  // every map is asked at the colours that the first one was solved on
  const own = first.solved.target;
  const light = lightOf(own);
  const wanted = new Float64Array(own.length);
  for (const { solved, weight } of all)
    mapSamples(solved.map, own, light).forEach((v, i) => {
      wanted[i] += (weight / total) * v;
    });
  const mean = (of: 'share' | 'trust'): number =>
    all.reduce((sum, { solved, weight }) => sum + (weight / total) * (solved[of] ?? 1), 0);
  return {
    map: solvePaired(own, wanted),
    ...{ how: 'alike', share: mean('share'), trust: mean('trust'), target: own },
    reference: pooled(
      all.map(({ solved, weight }) => ({ samples: solved.reference, share: weight / total })),
    ),
  };
}

/** Samples of several pictures, as many of each as it counts. */
function pooled(parts: readonly { readonly samples: Samples; readonly share: number }[]): Samples {
  const most = Math.min(...parts.map(({ samples, share }) => samples.length / 3 / share));
  return Float64Array.from(
    parts.flatMap(({ samples, share }) => {
      const count = Math.max(1, Math.floor(share * most));
      const step = samples.length / 3 / count;
      return Array.from({ length: count }, (_, i) => {
        const at = 3 * Math.floor(i * step);
        return [samples[at], samples[at + 1], samples[at + 2]];
      }).flat();
    }),
  );
}
