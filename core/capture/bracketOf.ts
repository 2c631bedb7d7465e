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

/**
 * Proposes the bracket: frames of one size in order of exposure. The reference is the frame that loses least to clipping at either
 * end, the nearest to the middle of equals, since every other frame then shares the most usable tones with it.
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
  const reference = order.reduce(
    (best, i) => (loss(i) + 0.02 * off(i) < loss(best) + 0.02 * off(best) ? i : best),
    order[Math.floor((order.length - 1) / 2)],
  );
  const spread = frames[order[order.length - 1]].stops - frames[order[0]].stops;
  const lost = `${(100 * loss(reference)).toFixed(1)} %`;
  const why =
    spread < LEAST_SPREAD
      ? `The ${order.length} frames have the same exposure; merging them lowers noise only.`
      : `${order.length} frames of one size span ${spread.toFixed(1)} EV. Frame ${order.indexOf(reference) + 1} is the reference: it loses least to clipping (${lost}).`;
  return { order, reference, strangers, why };
}

/** The widest step between neighbours in order of exposure, stops; 0 for fewer than two. */
export function widestSpacing(stops: readonly number[]): number {
  const sorted = stops.slice().sort((a, b) => a - b);
  return sorted.slice(1).reduce((widest, s, i) => Math.max(widest, s - sorted[i]), 0);
}
