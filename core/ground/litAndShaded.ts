import { type LightColour, type LightDirection } from './light';

/** light that ground throws back on the whole, where nothing is known of it: mid grey (common practice) */
const ALBEDO = 0.18;
/** share of what falls on the ground that comes back up on what stands there */
const BACK = 0.5;
const LEAST_UP = 0.05;

/** Light of a scene as two places of the same ground tell it. */
export interface GroundLight {
  readonly sun: LightColour;
  readonly sky: LightColour;
  readonly bounce: LightColour;
}

/**
 * What sun and sky add, from a place in the sun and one in the shade of the same ground: in the shade there is the sky alone, beside it both (pairs of
 * regions after Guo, Dai, Hoiem, *Single-Image Shadow Detection and Removal using Paired Regions*, 2011).
 * @param lit linear light @param shaded of the same ground
 * @returns undefined where the shaded place is not darker
 */
export function litAndShaded(
  lit: LightColour,
  shaded: LightColour,
  { elevation }: LightDirection,
): GroundLight | undefined {
  const up = Math.max(LEAST_UP, Math.sin((elevation * Math.PI) / 180));
  const sun = lit.map((v, c) => (v - shaded[c]) / ALBEDO / up);
  if (sun.some((v) => !(v > 0))) return undefined;
  const of = (c: number): number => shaded[c] / ALBEDO;
  return {
    sun: [sun[0], sun[1], sun[2]],
    sky: [of(0), of(1), of(2)],
    bounce: [BACK * lit[0], BACK * lit[1], BACK * lit[2]],
  };
}
