import { Problem } from '../proof/problem';
import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3 } from '../raster/matrix3';
import { type MatchMap } from './matchMap';
import { pairedSamples, partsOf, rankCorrelation, type Samples, samplesOf } from './samples';
import { type Relation, solveAlike, solvePaired } from './solveMap';

/** How a match was solved, and by what. */
export interface SolvedMatch {
  readonly map: MatchMap;
  /** pixel on pixel, or by what two different pictures have in common */
  readonly how: 'paired' | 'alike';
  /** rank correlation of luma at the same places, −1…1; absent where the pictures were not laid over each other */
  readonly correlation?: number;
  /** part of the colours that both have, and how much the fit rests on them, 0…1; absent where it is paired */
  readonly share?: number;
  readonly trust?: number;
  readonly target: Samples;
  readonly reference: Samples;
}

/** What is known of two pictures beside themselves. */
export interface MatchKnowledge {
  /** pixel of the target → pixel of the reference, where the two were fitted to each other */
  readonly laidOver?: Matrix3;
  /** how they stand to each other where they show different things */
  readonly relation?: Relation;
}

/** samples that pictures are looked at with */
export const SAMPLE_COUNT = 24_000;
/** rank correlation above which two pictures show the same thing in the same place: graded pairs lie above 0.99, different pictures below 0.8 */
const SAME_PLACE = 0.93;
/** samples that a regression wants at least */
const LEAST_PAIRS = 500;

const isOneSize = (a: EncodedImage, b: EncodedImage): boolean => a.width === b.width && a.height === b.height;

/** Whether two pictures show the same thing at the same pixels, however they are graded. */
export function isSamePlace(target: EncodedImage, reference: EncodedImage): boolean {
  return (
    isOneSize(target, reference) &&
    rankCorrelation(samplesOf(target, SAMPLE_COUNT), samplesOf(reference, SAMPLE_COUNT)) > SAME_PLACE
  );
}

/** What two pictures are compared by. */
export interface SampledSides {
  readonly target: Samples;
  readonly reference: Samples;
  /** whether sample for sample shows the same */
  readonly paired: boolean;
  /** rank correlation of luma at the same places, −1…1; absent where the pictures were not laid over each other */
  readonly correlation?: number;
}

/**
 * Samples of two pictures: of the same places where both show the same thing there, else of each by itself.
 * @param laidOver pixel of the target → pixel of the reference, where the two were fitted to each other
 * @throws Problem where one of them shows nothing
 */
export function sampledSides(
  target: EncodedImage,
  reference: EncodedImage,
  laidOver?: Matrix3,
): SampledSides {
  const [own, other] = [samplesOf(target, SAMPLE_COUNT), samplesOf(reference, SAMPLE_COUNT)];
  if (own.length === 0 || other.length === 0)
    throw new Problem('Nothing is seen of one of the two pictures: give one that is not clear throughout.');
  const pairs = laidOver
    ? pairedSamples(target, reference, laidOver, SAMPLE_COUNT)
    : isOneSize(target, reference)
      ? { target: own, reference: other }
      : undefined;
  if (!pairs) return { target: own, reference: other, paired: false };
  const correlation = rankCorrelation(pairs.target, pairs.reference);
  return correlation > SAME_PLACE && pairs.target.length / 3 >= LEAST_PAIRS
    ? { ...pairs, paired: true, correlation }
    : { target: own, reference: other, paired: false, correlation };
}

/**
 * Solves the change of tone and colour that makes one picture look like another: pixel on pixel where they show the same, by the colours they share
 * and the part of their statistics that is grade where they do not.
 * @throws Problem where one of them shows nothing
 */
export function solveMatch(
  target: EncodedImage,
  reference: EncodedImage,
  { laidOver, relation }: MatchKnowledge = {},
): SolvedMatch {
  const seen = sampledSides(target, reference, laidOver);
  if (seen.paired) return { map: solvePaired(seen.target, seen.reference), how: 'paired', ...seen };
  const alike = solveAlike(
    { samples: seen.target, parts: partsOf(target, SAMPLE_COUNT) },
    { samples: seen.reference, parts: partsOf(reference, SAMPLE_COUNT) },
    relation,
  );
  return { ...alike, how: 'alike', ...seen };
}
