import { type ClippedShares } from './clippedShares';

/** A frame as the grouping sees it. */
export interface BracketMember {
  readonly width: number;
  readonly height: number;
  /** relative to any common zero */
  readonly stops: number;
  readonly clipped: ClippedShares;
}

/** A bracket in order of exposure. */
export interface BracketOrder {
  /** indices from the darkest to the lightest */
  readonly order: readonly number[];
  readonly reference: number;
  /** frames that cannot belong: another size or shape */
  readonly strangers: readonly number[];
  /** why this reference, a sentence */
  readonly why: string;
}

/** Smallest spread of exposure that makes a bracket, stops. */
const LEAST_SPREAD = 0.5;

/** Difference of exposure over which two frames of a scene still share enough usable tones to be fitted to each other, stops. */
const REACH = 4;

/**
 * Proposes the bracket: frames of one size in order of exposure. The reference is the frame from which most others are within reach of a
 * direct fit; of those the one that loses least to clipping at either end, the nearest to the middle of equals. It is never the darkest
 * or the lightest of three exposures or more: what is farthest from it would have to be fitted through others.
 */
export function bracketOf(frames: readonly BracketMember[]): BracketOrder {
  const sizes = new Map<string, number[]>();
  frames.forEach((f, i) => {
    const key = `${f.width}×${f.height}`;
    sizes.set(key, [...(sizes.get(key) ?? []), i]);
  });
  const members = [...sizes.values()].reduce<number[]>((best, m) => (m.length > best.length ? m : best), []);
  const order = members.slice().sort((a, b) => frames[a].stops - frames[b].stops);
  const strangers = frames.map((_, i) => i).filter((i) => !members.includes(i));
  const loss = (i: number): number => frames[i].clipped.light + frames[i].clipped.dark;
  const off = (i: number): number => Math.abs(order.indexOf(i) - (order.length - 1) / 2);
  const stops = order.map((i) => frames[i].stops);
  const within = order.filter(
    (i) =>
      frames[i].stops - stops[0] > LEAST_SPREAD && stops[stops.length - 1] - frames[i].stops > LEAST_SPREAD,
  );
  const candidates = within.length > 0 ? within : order;
  const reached = (i: number): number =>
    stops.filter((s) => Math.abs(s - frames[i].stops) <= REACH + 0.1).length - 1;
  const most = Math.max(...candidates.map(reached));
  const reference = candidates
    .filter((i) => reached(i) === most)
    .reduce((best, i) => {
      const [ours, theirs] = [loss(i) + 0.02 * off(i), loss(best) + 0.02 * off(best)];
      return ours < theirs || (ours === theirs && off(i) < off(best)) ? i : best;
    });
  const spread = frames[order[order.length - 1]].stops - frames[order[0]].stops;
  const lost = `${(100 * loss(reference)).toFixed(1)} %`;
  const why = whyOf(order.length, spread, order.indexOf(reference) + 1, most, lost);
  return { order, reference, strangers, why };
}

function whyOf(count: number, spread: number, reference: number, reached: number, lost: string): string {
  if (count === 1) return 'One frame: it is used as it is.';
  if (spread < LEAST_SPREAD)
    return `The ${count} frames have the same exposure; merging them lowers noise only.`;
  const others = reached === count - 1 ? 'all' : reached;
  return `${count} frames of one size span ${spread.toFixed(1)} EV. Frame ${reference} is the reference: ${others} of the others are within ${REACH} EV of it, and of such frames it loses least to clipping (${lost}).`;
}

/** The widest step between neighbours in order of exposure, stops; 0 for fewer than two. */
export function widestSpacing(stops: readonly number[]): number {
  const sorted = stops.slice().sort((a, b) => a - b);
  return sorted.slice(1).reduce((widest, s, i) => Math.max(widest, s - sorted[i]), 0);
}
