import { boxMean } from '../raster/boxMean';
import { EDGE, type Seeds } from './dab';

/** Codes of a trimap. */
export const NOT = 0;
export const UNKNOWN = 128;
export const THIS = 255;

/** px on either side of the cut that are never taken as known */
const COLLAR = 6;
const MIX_RADIUS = 10;
/** a place is mixed where its surroundings are this much of one side and of the other */
const MIXED = 0.06;

/**
 * What is known of each pixel, and what a matte must decide: a collar along the cut, and from there on everything near whose surroundings have
 * colours of both sides.
 * @param label [pixel] the cut
 * @param distance2 [pixel] to the cut's edge, px²
 * @param odds [pixel] logarithmic odds of “this”, read where it is near
 * @param near [pixel] 1 where the unknown may reach
 * @returns [pixel] NOT, UNKNOWN or THIS
 */
export function trimap(
  label: Uint8Array,
  distance2: Float32Array,
  odds: Float32Array,
  near: Uint8Array,
  seeds: Seeds,
  width: number,
  height: number,
): Uint8Array {
  const likely = new Float32Array(odds.length);
  for (let i = 0; i < likely.length; i++) likely[i] = near[i] ? 1 / (1 + Math.exp(-odds[i])) : label[i];
  const mean = boxMean(likely, width, height, MIX_RADIUS);
  const map = label.map((l) => (l ? THIS : NOT));
  const stack: number[] = [];
  const open = (i: number): void => {
    map[i] = UNKNOWN;
    stack.push(i);
  };
  for (let i = 0; i < map.length; i++) if (distance2[i] <= COLLAR * COLLAR) open(i);
  const spread = (i: number): void => {
    if (map[i] !== UNKNOWN && near[i] && mean[i] > MIXED && mean[i] < 1 - MIXED) open(i);
  };
  for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
    const x = i % width;
    if (x > 0) spread(i - 1);
    if (x + 1 < width) spread(i + 1);
    if (i >= width) spread(i - width);
    if (i + width < map.length) spread(i + width);
  }
  for (let i = 0; i < map.length; i++) {
    if (seeds[i] === EDGE) map[i] = UNKNOWN;
    else if (seeds[i] >= 0) map[i] = seeds[i] ? THIS : NOT;
  }
  return map;
}
