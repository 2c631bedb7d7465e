import { type Draft } from 'immer';
import { arrangeSet } from '@/core/capture/arrangeSet';
import { bracketOf } from '@/core/capture/bracketOf';
import { type LensCorrection } from '@/core/capture/lensFaults';
import { type ProposedSet } from '@/core/capture/recogniseSet';
import { type FrameStops } from '@/core/capture/stopsOfSet';
import { KIND_NAMES, type SetKind } from '@/core/capture/setKind';
import { type Finish } from '@/core/finish/finish';
import { type Layer } from '@/core/layers/layer';
import { type PlatePlace } from '@/core/layers/platePlace';
import { type Mask, PLAIN_MASK } from '@/core/mask/mask';
import { type Stroke } from '@/core/mask/stroke';
import { type Adjust, NO_ADJUST } from '@/core/match/adjust';
import { type ToneWish } from '@/core/merge/radiance/toneMap';
import { type RectangleMesh } from '@/core/merge/rectangle/rectangleMesh';
import { type Frame, type FrameSet, type Project } from '@/core/recipe/project';
import { type Settings } from '@/core/recipe/settings';
import { type Rectangle } from '@/core/raster/raster';

/** An edit of a project, made on a draft of it. */
export type Edit = (draft: Draft<Project>) => void;

/** Proposes the reference anew from the frames in use, keeping one that the user chose. */
function propose(draft: Draft<Project>): void {
  const members = draft.frames.filter((f) => !f.plate);
  const used = members.filter((f) => f.used);
  const candidates = used.length > 0 ? used : members;
  if (candidates.length === 0) {
    draft.set.reference = '';
    draft.set.why = '';
    return;
  }
  const { kind } = draft.set;
  const proposal = arrangeSet(
    kind,
    candidates.map((f) => ({ ...f, sharpness: f.measures.sharpness })),
  );
  const chosen = draft.set.referenceChosen && candidates.some((f) => f.id === draft.set.reference);
  if (!chosen) {
    draft.set.referenceChosen = false;
    draft.set.reference = candidates[proposal.reference].id;
  }
  if (chosen) draft.set.why = 'You chose the reference.';
  else if (draft.set.kindChosen) draft.set.why = `Merged as a ${KIND_NAMES[kind]}, as you chose.`;
  else if (kind === 'bracket') draft.set.why = bracketOf(candidates).why;
}

/** Places hold only on the reference they were made on. */
function dropPlacesIfMoved(draft: Draft<Project>, before: string): void {
  if (draft.set.reference === before) return;
  delete draft.finish.crop;
  delete draft.set.region;
  delete draft.printRegion;
  draft.finish.straighten = {};
  draft.watchPoints = [];
  draft.set.movers = [];
}

/** What the frames of a set, by their ids, are proposed to be. */
export interface Proposal {
  readonly set: ProposedSet;
  /** the frames that the proposal's numbers mean */
  readonly of: readonly string[];
}

/**
 * Adds frames. Exposures and the proposal are told by frame, since others may have come or gone while they were measured. A cut-out is laid
 * on top as a layer.
 * @param stops of the frames of the set that were measured together, by id
 */
export const addFrames =
  (frames: readonly Frame[], stops: ReadonlyMap<string, FrameStops>, proposal?: Proposal): Edit =>
  (draft) => {
    const before = draft.set.reference;
    draft.frames.push(...(frames as Draft<Frame>[]));
    for (const frame of draft.frames) {
      const measured = frame.plate ? undefined : stops.get(frame.id);
      if (measured) Object.assign(frame, { stops: measured.stops, stopsSource: measured.source });
    }
    if (proposal && !draft.set.kindChosen) {
      const { set, of } = proposal;
      const present = new Map(draft.frames.map((f) => [f.id, f]));
      const arrived = new Set(frames.map((f) => f.id));
      draft.set.kind = set.kind;
      draft.set.why = set.why;
      draft.set.views = (set.places ?? []).flatMap((place) => {
        const own = place.flatMap((i) => present.get(of[i]) ?? []);
        if (own.length === 0) return [];
        const { reference } = arrangeSet('bracket', own);
        return [{ head: own[reference].id, frames: own.map((f) => f.id) }];
      });
      // what came in this drop and does not belong stays, unused
      for (const i of set.strangers) {
        const stranger = present.get(of[i]);
        if (stranger && arrived.has(stranger.id)) stranger.used = false;
      }
    }
    propose(draft);
    dropPlacesIfMoved(draft, before);
    for (const frame of frames) if (frame.plate) layPlate(draft, frame);
  };

/** A cut-out as the topmost layer, shown wherever it is opaque. */
function layPlate(draft: Draft<Project>, frame: Frame): void {
  addFrameLayer(`plate-${frame.id}`, frame)(draft);
  draft.layers[draft.layers.length - 1].mask.base = 'shown';
}

/** Lays a cut-out elsewhere. */
export const setPlate =
  (frame: string, change: Partial<PlatePlace>): Edit =>
  (draft) => {
    const found = draft.frames.find((f) => f.id === frame);
    if (found?.plate) Object.assign(found.plate, change);
  };

/** What the set is for; the reference follows unless it was chosen. */
export const setKind =
  (kind: SetKind): Edit =>
  (draft) => {
    const before = draft.set.reference;
    draft.set.kind = kind;
    draft.set.kindChosen = true;
    delete draft.panorama;
    if (kind === 'panorama') delete draft.set.region;
    propose(draft);
    dropPlacesIfMoved(draft, before);
    // a panorama's canvas is a grid of its own
    delete draft.finish.crop;
    draft.finish.straighten = {};
  };

/** How a set of another kind than a bracket is merged. */
export const setOther =
  (change: Partial<FrameSet['other']>): Edit =>
  (draft) => {
    Object.assign(draft.set.other, change);
    const again = change.bend !== undefined || change.views !== undefined;
    if (again) delete draft.panorama;
    if (change.projection || change.border || again) {
      delete draft.finish.crop;
      draft.finish.straighten = {};
      draft.watchPoints = [];
    }
  };

/** How a panorama's blank border goes. @param mesh what bends it, where that is known; it is sought otherwise */
export const setBorder =
  (border: FrameSet['other']['border'], mesh?: RectangleMesh): Edit =>
  (draft) => {
    setOther({ border })(draft);
    if (border === 'warp' && mesh && draft.panorama) draft.panorama.mesh = mesh as typeof draft.panorama.mesh;
  };

/** What a set's lens was measured to do; nothing where it is not to be taken back any more. */
export const setMeasuredLens =
  (lens: LensCorrection): Edit =>
  (draft) => {
    if (draft.set.prepare.lens) setHow({ prepare: { ...draft.set.prepare, lens } })(draft);
  };

export const removeFrame =
  (id: string): Edit =>
  (draft) => {
    const before = draft.set.reference;
    draft.frames = draft.frames.filter((f) => f.id !== id);
    draft.layers = draft.layers.filter((l) => l.source.kind !== 'frame' || l.source.frame !== id);
    draft.set.movers = draft.set.movers.filter((m) => m.frame !== id);
    for (const view of draft.set.views) view.frames = view.frames.filter((f) => f !== id);
    propose(draft);
    dropPlacesIfMoved(draft, before);
  };

export const setUsed =
  (id: string, used: boolean): Edit =>
  (draft) => {
    const before = draft.set.reference;
    const frame = draft.frames.find((f) => f.id === id);
    if (frame) frame.used = used;
    propose(draft);
    dropPlacesIfMoved(draft, before);
  };

export const setReference =
  (id: string): Edit =>
  (draft) => {
    const before = draft.set.reference;
    draft.set.reference = id;
    draft.set.referenceChosen = true;
    draft.set.why = 'You chose the reference.';
    dropPlacesIfMoved(draft, before);
  };

export const setMotion =
  (motion: FrameSet['motion']): Edit =>
  (draft) => {
    draft.set.motion = motion;
  };

export const setMeasure =
  (measure: keyof FrameSet['merge'], value: number): Edit =>
  (draft) => {
    draft.set.merge[measure] = value;
  };

/** Where something moved, takes it from one frame; an empty id blends all frames there. */
export const chooseMover =
  (x: number, y: number, frame: string): Edit =>
  (draft) => {
    draft.set.movers.push({ x, y, frame });
  };

export const rename =
  (title: string): Edit =>
  (draft) => {
    draft.title = title;
  };

/** Puts a layer on top, hidden, to be revealed with the brush. */
export const addFrameLayer =
  (id: string, frame: Frame): Edit =>
  (draft) => {
    draft.layers.push({
      id,
      name: frame.file.replace(/\.[^.]+$/, ''),
      source: { kind: 'frame', frame: frame.id },
      visible: true,
      opacity: 1,
      blend: 'normal',
      stops: 0,
      mask: { ...PLAIN_MASK, base: 'hidden', strokes: [] },
      adjust: NO_ADJUST as Draft<Adjust>,
    });
  };

export const removeLayer =
  (id: string): Edit =>
  (draft) => {
    const { source } = draft.layers.find((l) => l.id === id) ?? {};
    draft.layers = draft.layers.filter((l) => l.id !== id);
    // a cut-out is nowhere but in its layer
    if (source?.kind !== 'frame') return;
    const shown = draft.layers.some((l) => l.source.kind === 'frame' && l.source.frame === source.frame);
    if (!shown) draft.frames = draft.frames.filter((f) => f.id !== source.frame || !f.plate);
  };

/** Moves a layer up (+1) or down (−1) in the stack. */
export const moveLayer =
  (id: string, by: 1 | -1): Edit =>
  (draft) => {
    const at = draft.layers.findIndex((l) => l.id === id);
    const to = at + by;
    if (at < 0 || to < 0 || to >= draft.layers.length) return;
    const [layer] = draft.layers.splice(at, 1);
    draft.layers.splice(to, 0, layer);
  };

export const setLayer =
  (id: string, change: Partial<Pick<Layer, 'opacity' | 'blend' | 'visible' | 'stops' | 'name'>>): Edit =>
  (draft) => {
    const layer = draft.layers.find((l) => l.id === id);
    if (layer) Object.assign(layer, change);
  };

export const addStroke =
  (id: string, stroke: Stroke): Edit =>
  (draft) => {
    draft.layers.find((l) => l.id === id)?.mask.strokes.push(stroke as Draft<Stroke>);
  };

/** Hides or shows the layer everywhere and drops its strokes. */
export const fillMask =
  (id: string, base: 'hidden' | 'shown'): Edit =>
  (draft) => {
    const layer = draft.layers.find((l) => l.id === id);
    if (layer) Object.assign(layer.mask, { base, strokes: [], inverted: false });
  };

/** Where a layer is shown beyond its strokes; a range of undefined lets all tones in. */
export const setMask =
  (id: string, change: Partial<Pick<Mask, 'range' | 'feather' | 'follow' | 'inverted'>>): Edit =>
  (draft) => {
    const layer = draft.layers.find((l) => l.id === id);
    if (!layer) return;
    Object.assign(layer.mask, change);
    if ('range' in change && change.range === undefined) delete layer.mask.range;
  };

export const setFinish =
  (change: Partial<Finish>): Edit =>
  (draft) => {
    Object.assign(draft.finish, change);
    if ('crop' in change && change.crop === undefined) delete draft.finish.crop;
  };

/** The part of the reference that the fit holds still; undefined holds all of it. */
export const setRegion =
  (region?: Rectangle): Edit =>
  (draft) => {
    if (region) draft.set.region = region;
    else delete draft.set.region;
  };

/** Exposures of the frames as the files state them or as the pixels have them, EV by frame id. */
export const setStops =
  (stops: ReadonlyMap<string, number>, source: Frame['stopsSource']): Edit =>
  (draft) => {
    for (const frame of draft.frames) {
      const found = stops.get(frame.id);
      if (found === undefined) continue;
      frame.stops = found;
      frame.stopsSource = source;
    }
  };

/** How the set is prepared and merged. */
export const setHow =
  (change: Partial<Pick<FrameSet, 'prepare' | 'method' | 'response'>> & { tone?: Partial<ToneWish> }): Edit =>
  (draft) => {
    const { tone, ...rest } = change;
    Object.assign(draft.set, rest);
    if (tone) Object.assign(draft.set.tone, tone);
  };

/** What an adjustment applies to: everything from the set, the whole picture, or one layer by its id. */
export type AdjustTarget =
  { readonly kind: 'set' } | { readonly kind: 'whole' } | { readonly kind: 'layer'; readonly id: string };

/** The adjustment of a target; none for a layer that is gone. */
export function adjustOf(project: Project, target: AdjustTarget): Adjust | undefined {
  if (target.kind === 'layer') return project.layers.find((l) => l.id === target.id)?.adjust;
  return project.match[target.kind];
}

export const setAdjust =
  (target: AdjustTarget, change: Partial<Adjust>): Edit =>
  (draft) => {
    const held =
      target.kind === 'layer'
        ? draft.layers.find((l) => l.id === target.id)?.adjust
        : draft.match[target.kind];
    if (!held) return;
    const next = { ...held, ...change } as Draft<Adjust>;
    if ('neutral' in change && change.neutral === undefined) delete next.neutral;
    if (target.kind === 'layer') {
      const layer = draft.layers.find((l) => l.id === target.id);
      if (layer) layer.adjust = next;
    } else draft.match[target.kind] = next;
  };

export const setPrintRegion =
  (region?: Rectangle): Edit =>
  (draft) => {
    if (region) draft.printRegion = region;
    else delete draft.printRegion;
  };

const MOST_WATCHED = 6;

/** Pins a place; the oldest of seven gives way. */
export const addWatchPoint =
  (id: string, x: number, y: number): Edit =>
  (draft) => {
    draft.watchPoints.push({ id, x, y });
    if (draft.watchPoints.length > MOST_WATCHED) draft.watchPoints.shift();
  };

export const removeWatchPoint =
  (id: string): Edit =>
  (draft) => {
    draft.watchPoints = draft.watchPoints.filter((p) => p.id !== id);
  };

/** Puts a step back to kept settings. */
export const applySettings =
  (settings: Settings): Edit =>
  (draft) => {
    switch (settings.of) {
      case 'fit':
        draft.set.motion = settings.motion;
        return;
      case 'merge': {
        const { method, merge, tone, response } = settings;
        Object.assign(draft.set, { method, merge, tone, response });
        return;
      }
      case 'match':
        draft.match = settings.match as Draft<Project>['match'];
        return;
      case 'finish': {
        const { exposure, noise, sharpen, ratio, upright } = settings;
        Object.assign(draft.finish, { exposure, noise, sharpen, ratio, upright });
      }
    }
  };
