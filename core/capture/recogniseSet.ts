import { type EncodedImage } from '../raster/encodedImage';
import { featurePoints } from '../register/features/featurePoints';
import { linkable, linkFrames } from '../register/features/linkFrames';
import { sharedPart } from '../register/rotation/startFocal';
import { findStars, isStarry } from '../register/stars/findStars';
import { type ArrangedMember, arrangeSet, inTime, timeOf } from './arrangeSet';
import { bracketOf } from './bracketOf';
import { measureStops } from './measureStops';
import { type SetKind } from './setKind';
import { sharpestTiles } from './sharpestTiles';

/** A frame as recognition sees it. */
export interface SetCandidate extends ArrangedMember {
  /** the picture and its halvings, largest first */
  readonly levels: readonly EncodedImage[];
}

/** What a drop of frames most likely is. */
export interface ProposedSet {
  readonly kind: SetKind;
  /** indices in the order that fits the kind: exposure for a bracket, time for the others */
  readonly order: readonly number[];
  readonly reference: number;
  /** frames that cannot belong: another size, or another view */
  readonly strangers: readonly number[];
  /** frames of one place each, when a panorama was bracketed */
  readonly places?: readonly (readonly number[])[];
  /** why this kind and this reference, a sentence */
  readonly why: string;
}

/** smallest spread of exposure that makes a bracket, stops */
const LEAST_SPREAD = 0.5;
/** frames that share less of the view than this were turned */
const SAME_VIEW = 0.82;
/** logarithm of the scale up to which two frames are of one lens */
const SAME_SCALE = 0.06;
/** share of the narrower of two views of different scale that the wider must show */
const INSIDE = 0.6;
/** shots farther apart than this are moments, seconds */
const LONG = 90;
const SMALL = 700;
const POINTS = 420;
/** share of the picture that a frame must show sharpest to make a focus set */
const SHARP_PART = 0.08;
const LEAST_STACK = 6;
/** frames no farther apart than this can be told by their points, stops */
const COMPARABLE = 1.2;

/**
 * Proposes what a set is from its files, pixels and times: frames of other sizes and other views are strangers; views that overlap in part
 * are a panorama; one exposure developed twice, several exposures, several focus distances, many equal frames, hours of one view, or a few
 * alternates follow from what differs.
 */
export function recogniseSet(frames: readonly SetCandidate[]): ProposedSet {
  const plain = bracketOf(frames);
  const timed = inTime(plain.order, frames);
  const { shares, isScaled } = overlaps(timed, frames);
  const others = strangersOf(timed, shares, frames);
  const order = timed.filter((i) => !others.includes(i));
  if (order.length < 2) return { ...plain, kind: 'bracket' };
  const members = order.map((i) => frames[i]);
  const proposal = (kind: SetKind, why: string, places?: ProposedSet['places']): ProposedSet => {
    const arranged = arrangeSet(kind, members);
    return {
      kind,
      order: arranged.order.map((k) => order[k]),
      reference: order[arranged.reference],
      strangers: [...plain.strangers, ...others],
      ...(places ? { places } : {}),
      why,
    };
  };
  const steps = sharesInTurn(order, shares, frames);
  const turned = steps.filter((s) => s < SAME_VIEW);
  const places = placesOf(order, steps);
  // brackets of equal length, one after the other, turn rarely from frame to frame
  const inBrackets = places.length > 1 && places.every((p) => p.length > 1 && p.length === places[0].length);
  if (turned.length > 0 && (inBrackets || turned.length >= steps.length / 3)) {
    const overlapping = turned.filter((s) => s > 0);
    const mean = overlapping.reduce((a, b) => a + b, 0) / overlapping.length;
    const stops = members.map((f) => f.stops);
    // frames of one view differ in exposure, or they are no bracket
    const bracketed = Math.max(...stops) - Math.min(...stops) >= LEAST_SPREAD;
    return bracketed && places.some((p) => p.length > 1)
      ? proposal(
          'panorama',
          `${places.length} views with ${places[0].length} frames each: the frames of a view are merged first, then the views are joined.`,
          places,
        )
      : proposal(
          'panorama',
          `${order.length} frames show neighbouring views that share ${Math.round(100 * mean)} % on average. The middle one is the reference.`,
        );
  }
  const range = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
  const spread = range(members.map((f) => f.stops));
  const first = smallLevel(members[0].levels);
  const spreadSeen = range(members.map((f) => measureStops(first, smallLevel(f.levels)) ?? 0));
  const times = members.map((f) => timeOf(f.facts)).filter((t): t is number => t !== undefined);
  const timeKnown = times.length === members.length;
  const span = timeKnown ? range(times) : 0;
  const apart = span / (members.length - 1);
  if (timeKnown && span === 0 && spread < 0.1 && spreadSeen > LEAST_SPREAD)
    return proposal(
      'developments',
      `${members.length} files of one exposure differ in brightness by ${spreadSeen.toFixed(1)} EV: one raw, developed more than once. No fit is needed.`,
    );
  if (spread >= LEAST_SPREAD)
    return apart > LONG
      ? proposal('moments', momentsWhy(members.length, span))
      : proposal('bracket', bracketOf(members).why);
  // places of frames of several scales are not the same places
  const parts = isScaled ? [] : sharpestTiles(members.map((f) => f.levels));
  if (parts.filter((p) => p >= SHARP_PART).length >= 2)
    return proposal(
      'focus',
      `${members.length} frames of one exposure are sharp in different places. The middle one is the reference.`,
    );
  const starry = members.length >= 3 && isStarry(first, findStars(first));
  if (members.length >= LEAST_STACK || starry)
    return proposal(
      'stack',
      `${members.length} equal frames${starry ? ' of a starry sky' : ''}: together they lower noise to ${Math.round(100 / Math.sqrt(members.length))} %. The sharpest is the reference.`,
    );
  if (apart > LONG) return proposal('moments', momentsWhy(members.length, span));
  return proposal(
    'swap',
    `${members.length} frames of one view, seconds apart: alternates of one subject. The first is the reference; mark the part to take from another.`,
  );
}

function momentsWhy(count: number, span: number): string {
  const minutes = Math.round(span / 60);
  const text = minutes >= 90 ? `${(minutes / 60).toFixed(1)} hours` : `${minutes} minutes`;
  return `${count} frames of one view over ${text}: moments to choose from. The least clipped is the reference.`;
}

function smallLevel(levels: readonly EncodedImage[]): EncodedImage {
  return levels.find((l) => Math.max(l.width, l.height) <= SMALL) ?? levels[levels.length - 1];
}

type Shares = Map<number, Map<number, number>>;

/**
 * Share of the view between neighbours in time and next-but-one, both ways; pairs without an entry could not be linked. And whether some
 * show their view at another scale.
 */
function overlaps(
  order: readonly number[],
  frames: readonly SetCandidate[],
): { readonly shares: Shares; readonly isScaled: boolean } {
  const seen = new Map(
    order.map((i) => {
      const image = smallLevel(frames[i].levels);
      return [i, { image, grey: linkable(image), points: featurePoints(image, POINTS) }];
    }),
  );
  const shares: Shares = new Map(order.map((i) => [i, new Map<number, number>()]));
  let isScaled = false;
  const link = (i: number, j: number): void => {
    const [a, b] = [seen.get(i), seen.get(j)];
    if (!a || !b) return;
    const found = linkFrames(a.grey, a.points, b.grey, b.points);
    if (!found) return;
    const part = sharedPart(found.fit.matrix, a.image.width, a.image.height);
    // a lens that is turned keeps its scale where both frames look; taken or cut at another size, one view lies in the other
    const scaled =
      Math.abs(Math.log(part.scale)) > SAME_SCALE &&
      Math.max(part.share, part.share * part.scale ** 2) > INSIDE;
    const share = scaled ? 1 : part.share;
    isScaled ||= scaled;
    shares.get(i)?.set(j, share);
    shares.get(j)?.set(i, share);
  };
  order.forEach((i, k) => {
    if (k > 0) link(order[k - 1], i);
  });
  order.forEach((i, k) => {
    // a neighbour without a link may be a dark or burnt frame, or a stranger: its far neighbour tells
    if (k > 1 && (shares.get(i)?.size === 0 || !shares.get(order[k - 1])?.has(i))) link(order[k - 2], i);
  });
  return { shares, isScaled };
}

/** Frames that link to nothing while most others link well are of another view, unless they are merely too dark or too light to tell. */
function strangersOf(order: readonly number[], shares: Shares, frames: readonly SetCandidate[]): number[] {
  const linked = (i: number): boolean => (shares.get(i)?.size ?? 0) > 0;
  const alone = order.filter(
    (i) =>
      !linked(i) && order.some((j) => linked(j) && Math.abs(frames[i].stops - frames[j].stops) < COMPARABLE),
  );
  return order.length >= 3 && alone.length <= order.length / 3 ? alone : [];
}

/**
 * Share of the view between each frame and the next. Two without a link show one view that light or depth hides, or none in common: the
 * latter where they could be told, each links to another, and most links of the set are of turned views, as at the end of a panorama's row.
 */
function sharesInTurn(order: readonly number[], shares: Shares, frames: readonly SetCandidate[]): number[] {
  const steps = order.slice(1).map((i, k) => shares.get(order[k])?.get(i));
  const links = steps.filter((s) => s !== undefined);
  const isTurned = links.filter((s) => s < SAME_VIEW).length > links.length / 2;
  return steps.map((share, k) => {
    if (share !== undefined) return share;
    const [a, b] = [order[k], order[k + 1]];
    const isTold = Math.abs(frames[a].stops - frames[b].stops) < COMPARABLE;
    const linked = [a, b].every((i) => (shares.get(i)?.size ?? 0) > 0);
    return isTurned && isTold && linked ? 0 : 1;
  });
}

/** Runs of neighbours that show one view. */
function placesOf(order: readonly number[], steps: readonly number[]): number[][] {
  const places: number[][] = [[order[0]]];
  steps.forEach((share, k) => {
    if (share >= SAME_VIEW) places[places.length - 1].push(order[k + 1]);
    else places.push([order[k + 1]]);
  });
  return places;
}
