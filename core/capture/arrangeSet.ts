import { bracketOf, type BracketMember } from './bracketOf';
import { type CaptureFacts } from './captureFacts';
import { type SetKind } from './setKind';

/** A frame as the arrangement sees it. */
export interface ArrangedMember extends BracketMember {
  readonly facts: CaptureFacts;
  /** 0…1, see sharpnessOf */
  readonly sharpness?: number;
}

/** Frames in the order that fits their kind, and the one that the others are fitted to. */
export interface Arrangement {
  readonly order: readonly number[];
  readonly reference: number;
  /** frames of another size or shape */
  readonly strangers: readonly number[];
}

/** Time of a shot, seconds; undefined when the file does not say. */
export function timeOf({ taken }: CaptureFacts): number | undefined {
  const t = taken ? Date.parse(`${taken}Z`) : NaN;
  return Number.isNaN(t) ? undefined : t / 1000;
}

/** Frames by time where all know theirs, else as they came. */
export function inTime(
  members: readonly number[],
  frames: readonly { readonly facts: CaptureFacts }[],
): number[] {
  const given = members.slice().sort((a, b) => a - b);
  const times = frames.map((f) => timeOf(f.facts));
  if (given.some((i) => times[i] === undefined)) return given;
  return given.sort((a, b) => (times[a] ?? 0) - (times[b] ?? 0) || a - b);
}

/**
 * Arranges frames of one size for a kind of set: a bracket by exposure, everything else by time. The reference is the frame that loses least
 * to clipping (bracket, developments, moments), the middle one (panorama, focus), the sharpest (stack), or the first (swap: what it lacks comes from the others).
 */
export function arrangeSet(kind: SetKind, frames: readonly ArrangedMember[]): Arrangement {
  const { order: byStops, reference, strangers } = bracketOf(frames);
  if (byStops.length === 0) return { order: [], reference: 0, strangers };
  if (kind === 'bracket') return { order: byStops, reference, strangers };
  const order = inTime(byStops, frames);
  return { order, reference: REFERENCES[kind](order, frames), strangers };
}

type Choice = (order: readonly number[], frames: readonly ArrangedMember[]) => number;

const largest = (order: readonly number[], of: (i: number) => number): number =>
  order.reduce((best, i) => (of(i) > of(best) ? i : best), order[0]);
const middle: Choice = (order) => order[order.length >> 1];
const sharpest: Choice = (order, frames) => largest(order, (i) => frames[i].sharpness ?? 0);
const leastClipped: Choice = (order, frames) =>
  largest(order, (i) => -(frames[i].clipped.light + frames[i].clipped.dark));

const REFERENCES: Readonly<Record<Exclude<SetKind, 'bracket'>, Choice>> = {
  developments: leastClipped,
  focus: middle,
  panorama: middle,
  moments: leastClipped,
  swap: (order) => order[0],
  stack: sharpest,
};
