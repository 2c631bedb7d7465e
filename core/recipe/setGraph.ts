import { type SetKind } from '../capture/setKind';
import { inTime } from '../capture/arrangeSet';
import { buildGraph, type Graph } from '../graph/graph';
import { versionOf } from '../graph/operators';
import { type Frame, type FrameMatch, type SetScope } from './project';
import { viewsOf } from './views';

/** Which nodes say how the frames of a set lie. */
export interface FitNodes {
  /** of all of them together */
  readonly hash: string;
  /** of each frame of a bracket against the reference, by its id, which that is made of */
  readonly pairs?: ReadonlyMap<string, string>;
}

/** What must be made of a set before its picture can be drawn, in order. All are hashes of nodes. */
export interface SetGraph {
  readonly graph: Graph;
  /** decoded frames, by the frame's id */
  readonly decoded: ReadonlyMap<string, string>;
  /** what the frames in use say of each other */
  readonly measures: string;
  /** frames as the set is prepared, by the frame's id; the decoded ones where it is not */
  readonly prepared: ReadonlyMap<string, string>;
  /** fits of frames to the head of their view, and the merged view, by the head's id */
  readonly views: ReadonlyMap<
    string,
    { readonly picture: string; readonly fits: ReadonlyMap<string, string> }
  >;
  readonly fits: FitNodes;
  /** how far parts of those frames lie from the reference that are not bent, where nothing is meant to move, by the frame's id */
  readonly aparts: ReadonlyMap<string, string>;
  /** what bends those frames that are bent, by the frame's id */
  readonly bends: ReadonlyMap<string, string>;
  /** frames as they are merged and laid as layers, by the frame's id: bent, or the prepared ones */
  readonly drawn: ReadonlyMap<string, string>;
  /** what bends a panorama's border; absent where it is cropped or the set is none */
  readonly border?: string;
  /** the merged picture; linear light where it is a radiance map */
  readonly merge: string;
  /** its noise, encoded 0…1 */
  readonly noise: string;
  /** large areas of light of a radiance map */
  readonly toneBase?: string;
  /** how far away the places of a focus set are */
  readonly distance?: string;
}

/** Kinds of sets whose frames can be bent: they lie on the grid of one of them, and are not the same exposure developed again. */
export const BENDING_KINDS: ReadonlySet<SetKind> = new Set(['bracket', 'moments', 'swap', 'focus', 'stack']);

/** Kinds of sets in which nothing is meant to move or be lit otherwise from frame to frame. */
export const STILL_KINDS: ReadonlySet<SetKind> = new Set(['bracket', 'focus']);

const made = new WeakMap<SetScope['set'], { readonly frames: readonly Frame[]; readonly graph: SetGraph }>();

/** The nodes of a set. Made once for the same set with the same frames: what is measured changes nothing in it. */
export function setGraph({ set, frames }: Pick<SetScope, 'set' | 'frames'>): SetGraph {
  const known = made.get(set);
  if (known && known.frames.length === frames.length && known.frames.every((f, i) => f === frames[i]))
    return known.graph;
  const graph = newSetGraph({ set, frames });
  made.set(set, { frames, graph });
  return graph;
}

/** A map without the frame's name: the same change is the same node. */
const likeOf = (map: FrameMatch | undefined): object =>
  map ? { like: { matrix: map.matrix, curves: map.curves } } : {};

function newSetGraph(scope: Pick<SetScope, 'set' | 'frames'>): SetGraph {
  const { set, frames } = scope;
  const g = buildGraph(versionOf);
  const used = frames.filter((f) => f.used);
  const reference = frames.find((f) => f.id === set.reference);
  const decoded = new Map(frames.map((f) => [f.id, g.add('frame', { hash: f.hash })]));
  const of = (map: ReadonlyMap<string, string>, id: string): string => map.get(id) ?? '';
  const measures = g.add(
    'measureSet',
    { reference: used.findIndex((f) => f === reference), stops: used.map((f) => f.stops) },
    used.map((f) => of(decoded, f.id)),
  );
  const { balance, lens, dust = false, like = [] } = set.prepare;
  const prepared = new Map(
    frames.map((f): [string, string] => {
      const own = of(decoded, f.id);
      const map = like.find((l) => l.frame === f.id);
      if (balance === 'shot' && !lens && !dust && !map) return [f.id, own];
      // a balance is evened out by what the set says of this frame
      const at = balance === 'even' ? used.indexOf(f) : -1;
      // named as before what is not done could be
      const how = { lens, balanceOf: at, ...(dust ? { dust } : {}), ...likeOf(map) };
      return [f.id, g.add('prepare', how, at >= 0 || dust ? [own, measures] : [own])];
    }),
  );
  const brackets = viewsOf(scope);
  const views = new Map(
    brackets.map(({ head, frames: own }) => {
      const fits = new Map(
        own.map((f) => [
          f.id,
          g.add('fitFrame', { motion: 'auto', stops: f.stops - head.stops }, [
            of(prepared, head.id),
            of(prepared, f.id),
          ]),
        ]),
      );
      const picture = g.add('mergeView', { measures: set.merge, stops: own.map((f) => f.stops) }, [
        of(prepared, head.id),
        ...own.flatMap((f) => [of(prepared, f.id), of(fits, f.id)]),
      ]);
      return [head.id, { picture, fits }];
    }),
  );
  const headOf = new Map(brackets.flatMap(({ head, frames: own }) => own.map((f) => [f.id, head.id])));
  const joined = used.filter((f) => (headOf.get(f.id) ?? f.id) === f.id);
  const pixels = (f: Frame): string => views.get(f.id)?.picture ?? of(prepared, f.id);
  const first =
    reference && (joined.find((f) => f.id === (headOf.get(reference.id) ?? reference.id)) ?? joined[0]);
  const fits = fitNodes();
  const { aparts, bends, drawn } = bendNodes();
  const merged = (f: Frame): string => views.get(f.id)?.picture ?? of(drawn, f.id);
  const border =
    set.kind === 'panorama' && set.other.border === 'warp'
      ? g.add('bendBorder', { projection: set.other.projection }, [fits.hash, ...joined.map(pixels)])
      : undefined;
  const merge = g.add('mergeSet', { ...mergeSettings(), stops: joined.map((f) => f.stops) }, [
    ...joined.map(merged),
    fits.hash,
    ...(border ? [border] : []),
  ]);
  const isRadiance = set.kind === 'bracket' && set.method === 'radiance';
  return {
    graph: g.graph,
    ...{ decoded, measures, prepared, views, fits, aparts, bends, drawn, merge },
    noise: g.add('noiseOf', {}, [merge]),
    ...(border ? { border } : {}),
    ...(isRadiance ? { toneBase: g.add('toneBaseOf', {}, [merge]) } : {}),
    ...(set.kind === 'focus' ? { distance: g.add('distanceOf', {}, [merge]) } : {}),
  };

  function bendNodes(): Pick<SetGraph, 'aparts' | 'bends' | 'drawn'> {
    const ids = new Set(set.bent);
    const against = (kind: string, some: readonly Frame[]): ReadonlyMap<string, string> =>
      new Map(
        some.map((f) => [
          f.id,
          g.add(kind, { frame: f.id, stops: f.stops - (reference?.stops ?? 0) }, [
            of(prepared, set.reference),
            of(prepared, f.id),
            fits.hash,
          ]),
        ]),
      );
    const others = BENDING_KINDS.has(set.kind) ? used.filter((f) => f !== reference) : [];
    const bends = against(
      'measureBend',
      others.filter((f) => ids.has(f.id)),
    );
    const aparts = against(
      'apartOf',
      others.filter((f) => STILL_KINDS.has(set.kind) && !ids.has(f.id)),
    );
    const drawn = new Map(
      frames.map((f): [string, string] => {
        const bend = bends.get(f.id);
        const own = of(prepared, f.id);
        return [f.id, bend === undefined ? own : g.add('bendFrame', {}, [own, bend])];
      }),
    );
    return { aparts, bends, drawn };
  }

  function fitNodes(): FitNodes {
    const wish = { motion: set.motion, region: set.region };
    if (set.kind === 'bracket') {
      const pairs = new Map(
        used.map((f) => [
          f.id,
          g.add('fitFrame', { ...wish, stops: f.stops - (reference?.stops ?? 0) }, [
            of(prepared, set.reference),
            of(prepared, f.id),
          ]),
        ]),
      );
      const settings = {
        ...wish,
        reference: set.reference,
        stops: used.map((f) => f.stops),
        ids: used.map((f) => f.id),
      };
      const inputs = [...used.map((f) => of(prepared, f.id)), ...pairs.values()];
      return { hash: g.add('joinFits', settings, inputs), pairs };
    }
    const order =
      set.kind === 'developments'
        ? joined
        : inTime(
            joined.map((_, i) => i),
            joined,
          ).map((i) => joined[i]);
    const settings = {
      ...wish,
      kind: set.kind,
      bend: set.kind === 'panorama' && set.other.bend,
      reference: first ? order.indexOf(first) : -1,
      stops: order.map((f) => f.stops),
      focal: first?.facts.focalLength,
      // which frame is which, so that what is kept by their ids is theirs
      ids: order.map((f) => f.id),
    };
    const through = brackets.flatMap(({ head }) => [...(views.get(head.id)?.fits.values() ?? [])]);
    return { hash: g.add('fitSet', settings, [...order.map(pixels), ...through]) };
  }

  /** What the merge of the set's kind looks at. */
  function mergeSettings(): object {
    const { kind, method, merge: by, response, movers, other, region, dabs } = set;
    const ids = joined.map((f) => f.id);
    const base = { kind, reference: first?.id, ids };
    switch (kind) {
      case 'bracket':
        return method === 'fusion'
          ? { ...base, method, measures: by, movers }
          : { ...base, method, response, movers };
      case 'developments':
        return { ...base, measures: by };
      case 'panorama':
        return { ...base, projection: other.projection, border: other.border };
      case 'focus':
        return { ...base, school: other.focus };
      case 'moments':
        return { ...base, taste: other.moments, seams: other.seams, dabs };
      case 'swap':
        return { ...base, region, dabs, sharpness: joined.map((f) => f.measures.sharpness) };
      case 'stack':
        return {
          ...base,
          method: other.stack,
          background: other.background,
          form: other.background === 'keep' ? undefined : other.backgroundForm,
          noise: joined.map((f) => [f.measures.darkNoise, f.measures.sharpness]),
        };
    }
  }
}
