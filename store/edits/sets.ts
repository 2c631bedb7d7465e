import { current, type Draft } from 'immer';
import { arrangeSet } from '@/core/capture/arrangeSet';
import { bracketOf } from '@/core/capture/bracketOf';
import { type LensCorrection } from '@/core/capture/lensFaults';
import { type ProposedSet } from '@/core/capture/recogniseSet';
import { KIND_NAMES, type SetKind } from '@/core/capture/setKind';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { firstPlace } from '@/core/layers/place';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { type RectangleMesh } from '@/core/merge/rectangle/rectangleMesh';
import { type Rectangle } from '@/core/raster/raster';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { emptySet, type Frame, type FrameSet, type Project, setScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type Change, framesOf, keepLayers, setOf, setOfFrame } from './drafts';

/** Proposes the reference anew from the frames in use, keeping one that the user chose. */
function propose(draft: Draft<Project>, set: Draft<FrameSet>): void {
  const members = framesOf(draft, set);
  const used = members.filter((f) => f.used);
  const candidates = used.length > 0 ? used : members;
  if (candidates.length === 0) {
    set.reference = '';
    set.why = '';
    return;
  }
  // what is left of a set whose other frames went is no panorama and no swap any more
  if (members.length === 1 && !set.kindChosen) set.kind = 'bracket';
  const { kind } = set;
  const proposal = arrangeSet(
    kind,
    candidates.map((f) => ({ ...f, sharpness: f.measures.sharpness })),
  );
  const chosen = set.referenceChosen && candidates.some((f) => f.id === set.reference);
  if (!chosen) {
    set.referenceChosen = false;
    set.reference = candidates[proposal.reference].id;
  }
  keepReference(draft, set);
  if (chosen) set.why = 'You chose the reference.';
  else if (set.kindChosen) set.why = `Merged as a ${KIND_NAMES[kind]}, as you chose.`;
  else if (kind === 'bracket') set.why = bracketOf(candidates).why;
}

/** The others lie on the reference: it cannot be left out. */
function keepReference(draft: Draft<Project>, { reference }: Draft<FrameSet>): void {
  const frame = draft.frames.find((f) => f.id === reference);
  if (frame) frame.used = true;
}

/** What was drawn on the picture's grid goes when that grid does. */
function dropPlaces(draft: Draft<Project>): void {
  delete draft.geometry.crop;
  delete draft.printRegion;
  draft.geometry.straighten = {};
  draft.watchPoints = [];
}

/** Places hold only on the reference they were made on. */
function dropPlacesIfMoved(draft: Draft<Project>, set: Draft<FrameSet>, before: string): void {
  if (set.reference === before) return;
  delete set.region;
  set.movers = [];
  if (set.id === draft.base) dropPlaces(draft);
}

/** A change of one set, after which its reference is proposed anew. */
function changeSet(id: string, change: (set: Draft<FrameSet>, draft: Draft<Project>) => void): Change {
  return (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    const before = set.reference;
    change(set, draft);
    propose(draft, set);
    dropPlacesIfMoved(draft, set, before);
  };
}

/** What the frames of a set, by their ids, are proposed to be. */
export interface Proposal {
  readonly set: ProposedSet;
  /** the frames that the proposal's numbers mean */
  readonly of: readonly string[];
}

/** What frames of a set were found to be, put into it. @param arrived ids of those that just came */
function takeProposal(
  draft: Draft<Project>,
  set: Draft<FrameSet>,
  { set: found, of }: Proposal,
  arrived: ReadonlySet<string>,
): void {
  if (set.kindChosen) return;
  const present = new Map(framesOf(draft, set).map((f) => [f.id, f]));
  set.kind = found.kind;
  set.why = found.why;
  set.views = (found.places ?? []).flatMap((place) => {
    const own = place.flatMap((i) => present.get(of[i]) ?? []);
    if (own.length === 0) return [];
    const { reference } = arrangeSet('bracket', own);
    return [{ head: own[reference].id, frames: own.map((f) => f.id) }];
  });
  // what came in this drop and does not belong stays, unused
  for (const i of found.strangers) {
    const stranger = present.get(of[i]);
    if (stranger && arrived.has(stranger.id)) stranger.used = false;
  }
}

/**
 * Adds frames to a set. Exposures and the proposal are told by frame, since others may have come or gone while they were measured.
 * @param stops of the frames of the set that were measured together, by id
 */
export const addFrames = (
  id: string,
  frames: readonly Frame[],
  stops: ReadonlyMap<string, FrameStops>,
  proposal?: Proposal,
): Change =>
  changeSet(id, (set, draft) => {
    draft.frames.push(...(frames as Draft<Frame>[]));
    set.frames.push(...frames.map((f) => f.id));
    setStops(stops)(draft);
    if (proposal) takeProposal(draft, set, proposal, new Set(frames.map((f) => f.id)));
  });

/** A set of its own, laid over the picture. */
export const addSet =
  (id: string, name: string): Change =>
  (draft) => {
    draft.sets.push(emptySet(id, name) as Draft<FrameSet>);
  };

/** Lays a set into the picture: as large as the picture, in its middle, where it is not the base. */
export const laySet =
  (id: string, layer: string): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    const grid = pictureGrid(current<unknown>(draft) as Project);
    const long = grid ? Math.max(grid.width, grid.height) : 1;
    const place =
      grid && id !== draft.base
        ? {
            place: {
              x: (0.5 * grid.width) / long,
              y: (0.5 * grid.height) / long,
              size: 1,
              turn: 0,
              mirrored: false,
            },
          }
        : {};
    draft.layers.push({
      ...PLAIN_LAYER,
      id: layer,
      name: set.name,
      kind: 'picture',
      source: { kind: 'set', set: id },
      ...place,
    } as Draft<Layer>);
  };

/** Takes a set out with its frames and the layers that show any of them. */
export const removeSet =
  (id: string): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set || draft.sets.length < 2) return;
    const own = new Set(set.frames);
    draft.frames = draft.frames.filter((f) => !own.has(f.id));
    draft.sets = draft.sets.filter((s) => s.id !== id);
    draft.layers = keepLayers(
      draft.layers,
      (l) =>
        l.kind !== 'picture' || (l.source.kind === 'set' ? l.source.set !== id : !own.has(l.source.frame)),
    );
    if (draft.base === id) setBase(draft.sets[0].id)(draft);
  };

export const renameSet =
  (id: string, name: string): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (set) set.name = name;
  };

/** The set that gives the picture its grid; the layer of the one before keeps its own place. */
export const setBase =
  (id: string): Change =>
  (draft) => {
    if (draft.base === id || !setOf(draft, id)) return;
    draft.base = id;
    dropPlaces(draft);
    // the base lies as it is
    const own = draft.layers.find(
      (l) => l.kind === 'picture' && l.source.kind === 'set' && l.source.set === id,
    );
    if (!own) return;
    delete own.place;
    draft.layers = [own, ...draft.layers.filter((l) => l !== own)];
  };

/** Where frames go: into a set, into one of their own, or by themselves. */
export type Destination = { readonly kind: 'set'; readonly id: string } | { readonly kind: 'plates' };

/** Moves frames from where they are to a set, or makes them pictures by themselves. */
export const moveFrames =
  (ids: readonly string[], to: Destination, proposal?: Proposal): Change =>
  (draft) => {
    const moved = new Set(ids);
    for (const set of draft.sets) {
      if (!set.frames.some((f) => moved.has(f))) continue;
      const before = set.reference;
      set.frames = set.frames.filter((f) => !moved.has(f));
      forgetFrames(set, moved);
      propose(draft, set);
      dropPlacesIfMoved(draft, set, before);
    }
    draft.layers = keepLayers(
      draft.layers,
      (l) => l.kind !== 'picture' || l.source.kind === 'set' || !moved.has(l.source.frame),
    );
    if (to.kind === 'plates') {
      for (const frame of draft.frames)
        if (moved.has(frame.id)) layPlate(draft, current<unknown>(frame) as Frame);
      return;
    }
    changeSet(to.id, (set) => {
      set.frames.push(...ids);
      for (const frame of draft.frames) if (moved.has(frame.id)) frame.used = true;
      if (proposal) takeProposal(draft, set, proposal, moved);
    })(draft);
  };

/** Adds pictures by themselves, each as the topmost layer. */
export const addPlates =
  (frames: readonly Frame[]): Change =>
  (draft) => {
    draft.frames.push(...(frames as Draft<Frame>[]));
    for (const frame of frames) layPlate(draft, frame);
  };

function layPlate(draft: Draft<Project>, frame: Frame): void {
  const grid = pictureGrid(current<unknown>(draft) as Project);
  const before = draft.layers.filter((l) => l.kind === 'picture' && l.source.kind === 'plate').length;
  const place = grid ? { place: firstPlace(frame, grid, before) } : {};
  draft.layers.push({
    ...PLAIN_LAYER,
    id: `plate-${frame.id}`,
    name: frame.file.replace(/\.[^.]+$/, ''),
    kind: 'picture',
    source: { kind: 'plate', frame: frame.id },
    ...place,
  } as Draft<Layer>);
}

function forgetFrames(set: Draft<FrameSet>, gone: ReadonlySet<string>): void {
  set.movers = set.movers.filter((m) => !gone.has(m.frame));
  for (const view of set.views) view.frames = view.frames.filter((f) => !gone.has(f));
}

/** What the set is for; the reference follows unless it was chosen. */
export const setKind = (id: string, kind: SetKind): Change =>
  changeSet(id, (set, draft) => {
    set.kind = kind;
    set.kindChosen = true;
    if (kind === 'panorama') delete set.region;
    // a panorama's canvas is a grid of its own
    if (id === draft.base) {
      delete draft.geometry.crop;
      draft.geometry.straighten = {};
    }
  });

/** How a set of another kind than a bracket is merged. */
export const setOther =
  (id: string, change: Partial<FrameSet['other']>): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    Object.assign(set.other, change);
    const moves = ['projection', 'border', 'bend', 'views'].some((key) => key in change);
    if (moves && id === draft.base) {
      delete draft.geometry.crop;
      draft.geometry.straighten = {};
      draft.watchPoints = [];
    }
  };

/** How a panorama's blank border goes. @param mesh what bends it, where that is known; it is sought otherwise */
export const setBorder =
  (id: string, border: FrameSet['other']['border'], mesh?: RectangleMesh): Change =>
  (draft) => {
    setOther(id, { border })(draft);
    if (border !== 'warp' || !mesh) return;
    const scope = setScope(current<unknown>(draft) as Project, id);
    const hash = scope && setGraph(scope).border;
    if (hash) draft.made[hash] = { of: 'mesh', mesh } as Draft<Project['made'][string]>;
  };

/** What a set's lens was measured to do; nothing where it is not to be taken back any more. */
export const setMeasuredLens =
  (id: string, lens: LensCorrection): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (set?.prepare.lens) set.prepare = { ...set.prepare, lens };
  };

/** Takes a frame out of the project, with the layers that show it. */
export const removeFrame =
  (id: string): Change =>
  (draft) => {
    const set = setOfFrame(draft, id);
    draft.frames = draft.frames.filter((f) => f.id !== id);
    draft.layers = keepLayers(
      draft.layers,
      (l) => l.kind !== 'picture' || l.source.kind === 'set' || l.source.frame !== id,
    );
    if (!set) return;
    changeSet(set.id, (own) => {
      own.frames = own.frames.filter((f) => f !== id);
      forgetFrames(own, new Set([id]));
    })(draft);
  };

/** Whether a frame is the only one of its set that takes part; it stays. */
export function isLastUsed({ sets, frames }: Pick<Project, 'sets' | 'frames'>, id: string): boolean {
  const members = new Set(sets.find((s) => s.frames.includes(id))?.frames);
  return frames.every((f) => !members.has(f.id) || f.used === (f.id === id));
}

export const setUsed =
  (id: string, used: boolean): Change =>
  (draft) => {
    const set = setOfFrame(draft, id);
    if (!set || (!used && isLastUsed(current<unknown>(draft) as Project, id))) return;
    changeSet(set.id, () => {
      const frame = draft.frames.find((f) => f.id === id);
      if (frame) frame.used = used;
    })(draft);
  };

export const setReference =
  (frame: string): Change =>
  (draft) => {
    const set = setOfFrame(draft, frame);
    if (!set) return;
    const before = set.reference;
    set.reference = frame;
    set.referenceChosen = true;
    set.why = 'You chose the reference.';
    keepReference(draft, set);
    dropPlacesIfMoved(draft, set, before);
  };

export const setMotion =
  (id: string, motion: FrameSet['motion']): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (set) set.motion = motion;
  };

export const setMeasure =
  (id: string, measure: keyof FrameSet['merge'], value: number): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (set) set.merge[measure] = value;
  };

/** Where something moved, takes it from one frame; an empty id blends all frames there. */
export const chooseMover =
  (id: string, x: number, y: number, frame: string): Change =>
  (draft) => {
    setOf(draft, id)?.movers.push({ x, y, frame });
  };

/** The part of the reference that the fit holds still; undefined holds all of it. */
export const setHeld =
  (id: string, region?: Rectangle): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    if (region) set.region = region;
    else delete set.region;
  };

/** Exposures of frames by their ids, as the files state them or as the pixels have them. */
export const setStops =
  (stops: ReadonlyMap<string, FrameStops>): Change =>
  (draft) => {
    for (const frame of draft.frames) {
      const found = stops.get(frame.id);
      if (found) Object.assign(frame, { stops: found.stops, stopsSource: found.source });
    }
  };

/** How the set is prepared and merged. A radiance map comes with its tone map, which is an edit of the set. */
export const setHow =
  (id: string, change: Partial<Pick<FrameSet, 'prepare' | 'method' | 'response'>>): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    Object.assign(set, change);
    if (change.method === 'radiance' && !set.edits.some((e) => e.kind === 'toneMap'))
      set.edits.push({
        id: `${id}-toneMap`,
        kind: 'toneMap',
        settings: { ...EDIT_KINDS.toneMap.plain },
        amount: 1,
        on: true,
      });
  };
