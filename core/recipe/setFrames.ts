import { inTime } from '../capture/arrangeSet';
import { multiply, translation } from '../raster/matrix3';
import { anglesOf } from '../register/rotation/anglesOf';
import { type Apart } from '../register/parallax/apartOf';
import { type LocalBend } from '../register/parallax/localBend';
import { referenceRegistration, type Registration } from '../register/registration';
import { type Frame, type FrameSet, type KeptPanorama, type Project, type SetScope } from './project';
import { setGraph } from './setGraph';
import { standIns } from './views';

const scopes = new WeakMap<FrameSet, SetScope>();

/** A set by its id; the same object as long as neither it, its frames nor what was measured has changed. */
export function setScope(project: Project, id: string): SetScope | undefined {
  const set = project.sets.find((s) => s.id === id);
  if (!set) return undefined;
  const own = new Set(set.frames);
  const frames = project.frames.filter((f) => own.has(f.id));
  const known = scopes.get(set);
  const same =
    known?.made === project.made &&
    known.frames.length === frames.length &&
    known.frames.every((f, i) => f === frames[i]);
  if (same) return known;
  const scope = { set, frames, made: project.made };
  scopes.set(set, scope);
  return scope;
}

/** The set that gives the picture its grid. */
export function baseScope(project: Project): SetScope | undefined {
  return setScope(project, project.base);
}

/** Pictures that belong to no set. */
export function plates(project: Pick<Project, 'frames' | 'sets'>): Frame[] {
  const inSets = new Set(project.sets.flatMap((s) => s.frames));
  return project.frames.filter((f) => !inSets.has(f.id));
}

/** Frames from the darkest to the lightest. */
export function byExposure(frames: readonly Frame[]): Frame[] {
  return frames.slice().sort((a, b) => a.stops - b.stops);
}

export function referenceOf({ set, frames }: Pick<SetScope, 'set' | 'frames'>): Frame | undefined {
  return frames.find((f) => f.id === set.reference);
}

/** What a panorama's frames were found to be turned by, under the present settings. */
export function panoramaOf(scope: SetScope): KeptPanorama | undefined {
  if (scope.set.kind !== 'panorama') return undefined;
  const { fits } = setGraph(scope);
  const made = scope.made[fits.hash];
  return made?.of === 'fits' ? made.panorama : undefined;
}

/** The registration of a frame as one plane, if it has been measured under the present settings. */
export function planeFitOf(scope: SetScope, frame: Pick<Frame, 'id'>): Registration | undefined {
  const { fits } = setGraph(scope);
  const made = scope.made[fits.hash];
  return made?.of === 'fits' ? made.fits[frame.id] : undefined;
}

/** How far parts of a frame lie from the reference though the rest fits; undefined where none does, or that was not measured. */
export function apartIn(scope: SetScope, frame: Pick<Frame, 'id'>): Apart | undefined {
  const made = scope.made[setGraph(scope).aparts.get(frame.id) ?? ''];
  return made?.of === 'apart' ? made.apart : undefined;
}

/** What bends a frame so that near and far lie on the reference at once; undefined where it is not bent, or that is not measured. */
export function bendOf(scope: SetScope, frame: Pick<Frame, 'id'>): LocalBend | undefined {
  const made = scope.made[setGraph(scope).bends.get(frame.id) ?? ''];
  return made?.of === 'bend' ? made.bend : undefined;
}

/** How a frame lies as it is merged: as it was registered, or as it is bent, which also lays a frame that no plane does. */
export function fitOf(scope: SetScope, frame: Pick<Frame, 'id'>): Registration | undefined {
  const plane = planeFitOf(scope, frame);
  const bend = bendOf(scope, frame);
  if (!plane || !bend) return plane;
  const { x, y } = bend.inside;
  const lies = plane.fitted ? plane : referenceRegistration();
  return {
    ...lies,
    matrix: multiply(translation(-x, -y), lies.matrix),
    residual: bend.residual,
    // what the tiles still were off is what the bend takes away
    tiles: [],
  };
}

/**
 * Frames as the tray lays them out: a bracket and developments from the darkest to the lightest, a fitted panorama by where its frames look,
 * everything else by time.
 */
export function inOrder(scope: SetScope): Frame[] {
  const { set, frames } = scope;
  if (set.kind === 'bracket' || set.kind === 'developments') return byExposure(frames);
  const timed = inTime(
    frames.map((_, i) => i),
    frames,
  ).map((i) => frames[i]);
  const panorama = panoramaOf(scope);
  if (!panorama) return timed;
  const along = new Map(anglesOf(panorama.fit).map((angle, i) => [panorama.frames[i], angle]));
  const standsFor = standIns(scope);
  const place = (f: Frame): number => along.get(standsFor(f.id)) ?? Infinity;
  return timed.sort((a, b) => place(a) - place(b));
}

/** Frames that fit and merge look at, in their order: those in use, and of a bracketed view its head only. */
export function joinedFrames(scope: SetScope): Frame[] {
  const standsFor = standIns(scope);
  return inOrder(scope).filter((f) => f.used && standsFor(f.id) === f.id);
}

/** A frame as the merge uses it. */
export interface MergedFrame {
  readonly frame: Frame;
  readonly registration: Registration;
  /** pixels of it as it is drawn: a bent one is smaller by what the bend would have to make up */
  readonly width: number;
  readonly height: number;
}

/** Frames that the merge uses: in use, measured and fitted, in their order; of a bracketed view its head only. */
export function mergedFrames(scope: SetScope): MergedFrame[] {
  return joinedFrames(scope).flatMap((frame) => {
    const registration = fitOf(scope, frame);
    return registration?.fitted ? [{ frame, registration, ...drawnSizeOf(scope, frame) }] : [];
  });
}

/** Pixels of a frame as it is merged and laid as a layer. */
export function drawnSizeOf(
  scope: SetScope,
  frame: Frame,
): { readonly width: number; readonly height: number } {
  const { width, height } = bendOf(scope, frame)?.inside ?? frame;
  return { width, height };
}
