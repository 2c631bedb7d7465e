import { type LightColour } from './light';
import { type Air } from './standing';

/** Light of a place, and how far it is. */
export interface PlaceInAir {
  readonly colour: LightColour;
  /** metres */
  readonly distance: number;
}

/** the thickest air that is believed, by metre */
const THICKEST = 1;
const LEAST = 1e-4;

const grey = ([r, g, b]: LightColour): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/**
 * How thick the air is between two places of the same material: I = J·t + A·(1 − t), t = e^(−β·d) (Koschmieder 1924), so that
 * β = −ln[(1 − v/A) ∕ (1 − v₀/A)] ∕ (d − d₀).
 * @param colour of air that is endlessly thick
 * @returns undefined where the farther place is not nearer to the air's colour, or both are equally far
 */
export function airBetween(colour: LightColour, a: PlaceInAir, b: PlaceInAir): Air | undefined {
  const [near, far] = a.distance <= b.distance ? [a, b] : [b, a];
  const way = far.distance - near.distance;
  const air = grey(colour);
  const [p, q] = [1 - grey(near.colour) / air, 1 - grey(far.colour) / air];
  const share = q / p;
  if (way < LEAST || !(share > LEAST) || share >= 1) return undefined;
  return { colour, beta: Math.min(THICKEST, -Math.log(share) / way) };
}
