import { current, type Draft } from 'immer';
import { type LensCorrection } from '@/core/capture/lensFaults';
import { type SetKind } from '@/core/capture/setKind';
import { EDIT_KINDS } from '@/core/edits/editKinds';
import { type Layer, PLAIN_LAYER } from '@/core/layers/layer';
import { type RectangleMesh } from '@/core/merge/rectangle/rectangleMesh';
import { type FrameDab } from '@/core/merge/seams/frameDab';
import { type Rectangle } from '@/core/raster/raster';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { emptySet } from '@/core/recipe/emptyProject';
import { type FrameSet, type Project } from '@/core/recipe/project';
import { setScope } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { type Change, keepLayers, setOf } from './drafts';
import { changeSet, dropPlaces } from './changeSet';

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

/** Which frames of a set are bent so that near and far lie on the reference at once. @param frames their ids */
export const setBent =
  (id: string, frames: readonly string[]): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    if (frames.length > 0) set.bent = [...frames];
    else delete set.bent;
  };

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

/** Points out which frame makes which places of a set; no dabs leaves it to the merge. */
export const setFrameDabs =
  (id: string, dabs: readonly FrameDab[]): Change =>
  (draft) => {
    const set = setOf(draft, id);
    if (!set) return;
    if (dabs.length > 0) set.dabs = [...dabs] as Draft<FrameDab>[];
    else delete set.dabs;
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
