import { type EncodedImage } from '../raster/encodedImage';
import { mapSamples } from './mapSamples';
import { type MatchMap } from './matchMap';
import { matchScore } from './matchScore';
import { samplesOf } from './samples';
import { SAMPLE_COUNT } from './solveMatch';

/** How far a picture is from another that shows something else, mean ΔE2000 of their tones, as it is and through a map: what a change that many share leaves of one. */
export function apartThrough(
  own: EncodedImage,
  about: EncodedImage,
  map: MatchMap,
): { readonly before: number; readonly after: number } {
  const [samples, reference] = [samplesOf(own, SAMPLE_COUNT), samplesOf(about, SAMPLE_COUNT)];
  return {
    before: matchScore(samples, reference).deltaE,
    after: matchScore(mapSamples(map, samples), reference).deltaE,
  };
}
