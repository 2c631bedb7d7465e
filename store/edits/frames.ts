import { current, type Draft } from 'immer';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { firstPlace } from '@/core/layers/place';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { type Frame, type FrameSet, type Project } from '@/core/recipe/project';
import { type Change, keepLayers, setOfFrame } from './drafts';
import {
  type Proposal,
  changeSet,
  dropPlacesIfMoved,
  keepReference,
  propose,
  takeProposal,
} from './changeSet';

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

/** What frames belong to: a set, or nothing but their own layers. */
export type FrameHome = { readonly kind: 'set'; readonly id: string } | { readonly kind: 'plates' };

/** Moves frames from where they are to a set, or makes them pictures by themselves. */
export const moveFrames =
  (ids: readonly string[], to: FrameHome, proposal?: Proposal): Change =>
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
  const dabs = set.dabs?.filter((d) => !gone.has(d.frame)) ?? [];
  if (dabs.length > 0) set.dabs = dabs;
  else delete set.dabs;
  for (const view of set.views) view.frames = view.frames.filter((f) => !gone.has(f));
}

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

/** Exposures of frames by their ids, as the files state them or as the pixels have them. */
export const setStops =
  (stops: ReadonlyMap<string, FrameStops>): Change =>
  (draft) => {
    for (const frame of draft.frames) {
      const found = stops.get(frame.id);
      if (found) Object.assign(frame, { stops: found.stops, stopsSource: found.source });
    }
  };
