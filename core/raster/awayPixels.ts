import { type EncodedImage } from './encodedImage';
import { IDENTITY, invert, levelToFull, type Matrix3, multiply } from './matrix3';

/** pixels up to which a halving of a frame stays at hand when the frame itself is away: what sets are measured, planned and looked at with */
export const STAYING = 5e6;

/**
 * The levels of a frame without the pixels of its largest ones, which are read again when a step needs them.
 * @param levels full size first @param name of what is read again @param staying pixels of the largest that stays
 */
export function putAway(
  levels: readonly EncodedImage[],
  name: string,
  staying = STAYING,
): readonly EncodedImage[] {
  return levels.map((level) => {
    const { width, height, white, data } = level;
    if (level.away !== undefined || width * height <= staying) return level;
    return { width, height, white, data: data.subarray(0, 0).slice(), away: name };
  });
}

/** Whether some of a frame's levels are away. */
export const isAway = (levels: readonly EncodedImage[]): boolean => levels[0].away !== undefined;

/** The finest level at hand that is no finer than the one asked for. */
export function levelAtHand(levels: readonly EncodedImage[], level: number): number {
  let own = Math.min(level, levels.length - 1);
  while (own + 1 < levels.length && levels[own].away !== undefined) own++;
  return own;
}

/** The finest picture at hand for a level. @returns with the map from the level's pixels to its own */
export function pictureAtHand(
  levels: readonly EncodedImage[],
  level: number,
): { readonly image: EncodedImage; readonly map: Matrix3 } {
  const wanted = Math.min(level, levels.length - 1);
  const own = levelAtHand(levels, level);
  const map = own === wanted ? IDENTITY : multiply(invert(levelToFull(own)), levelToFull(wanted));
  return { image: levels[own], map };
}
