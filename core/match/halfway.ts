import { deltaE2000, type Lab, labOf } from '../colour/deltaE';
import { lightOf, mapSamples } from './mapSamples';
import { type MatchMap, withStrength } from './matchMap';
import { type Samples } from './samples';

/** samples that are looked at */
const LOOKED_AT = 1500;
const ROUNDS = 7;
/** a change smaller than this has no half that could be told, CIEDE2000 */
const LEAST_CHANGE = 0.3;

/**
 * The share of a map at which a picture lies as far from what it was as from what it becomes, in mean CIEDE2000: a straight line of its numbers is
 * not one of what is seen.
 * @returns 0.3…0.7; 0.5 where nothing is changed
 */
export function halfwayShare(map: MatchMap, samples: Samples): number {
  const step = Math.max(1, Math.floor(samples.length / 3 / LOOKED_AT));
  const few = samples.filter((_, i) => Math.floor(i / 3) % step === 0);
  const light = lightOf(few);
  const labsAt = (share: number): Lab[] => {
    const coded = mapSamples(withStrength(map, share), few, light).map((v) => Math.min(1, Math.max(0, v)));
    const out = lightOf(coded);
    return Array.from({ length: few.length / 3 }, (_, i) =>
      labOf(out[3 * i], out[3 * i + 1], out[3 * i + 2]),
    );
  };
  const apart = (a: readonly Lab[], b: readonly Lab[]): number =>
    a.reduce((sum, lab, i) => sum + deltaE2000(lab, b[i]), 0) / Math.max(1, a.length);
  const [none, full] = [labsAt(0), labsAt(1)];
  if (few.length === 0 || apart(none, full) < LEAST_CHANGE) return 0.5;
  let [low, high] = [0.3, 0.7];
  for (let i = 0; i < ROUNDS; i++) {
    const middle = (low + high) / 2;
    const there = labsAt(middle);
    if (apart(none, there) < apart(there, full)) low = middle;
    else high = middle;
  }
  // as fine as it is kept
  return Math.round(500 * (low + high)) / 1000;
}
