import { type LightColour } from './light';

/** share of the places above the horizon that are taken: reeds and houses cover the darker ones */
const BRIGHTEST = 1 / 3;

/** The colour of air that is endlessly thick: the middle of the brightest third of what is seen just above the horizon, linear light. */
export function airColour(planes: readonly ArrayLike<number>[]): LightColour {
  const [R, G, B] = planes;
  const places = Array.from({ length: R.length }, (_, i) => i).sort((a, b) => G[b] - G[a]);
  const taken = places.slice(0, Math.max(1, Math.round(BRIGHTEST * places.length)));
  const middle = (plane: ArrayLike<number>): number => {
    const sorted = Float64Array.from(taken, (i) => plane[i]).sort();
    return Math.max(0, sorted[sorted.length >> 1] ?? 0);
  };
  return [middle(R), middle(G), middle(B)];
}
