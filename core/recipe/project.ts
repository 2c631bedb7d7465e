import { inTime } from '../capture/arrangeSet';
import { type CaptureFacts, type FrameMeasures } from '../capture/captureFacts';
import { type ClippedShares } from '../capture/clippedShares';
import { type LensCorrection } from '../capture/lensFaults';
import { type SetKind } from '../capture/setKind';
import { type Finish, FINISH } from '../finish/finish';
import { type Layer } from '../layers/layer';
import { type PlatePlace } from '../layers/platePlace';
import { PLAIN_MASK } from '../mask/mask';
import { type Adjust, NO_ADJUST } from '../match/adjust';
import { type FocusSchool } from '../merge/focus/chooseSchool';
import { type MomentTaste } from '../merge/moments/momentTastes';
import { type ProjectionKind } from '../merge/panorama/projection';
import { type RectangleMesh } from '../merge/rectangle/rectangleMesh';
import { type BackgroundForm } from '../merge/stack/skyBackground';
import { type StackMethod } from '../merge/stack/stackBand';
import { NATURAL, type ToneWish } from '../merge/radiance/toneMap';
import { type Verdict } from '../proof/finding';
import { type Settings } from './settings';
import { type BracketedView, standIns, viewKey, viewsOf } from './views';
import { type FusionMeasures, PAPER_MEASURES } from '../merge/mertensWeight';
import { type Rectangle } from '../raster/raster';
import { anglesOf } from '../register/rotation/anglesOf';
import { type PanoramaFit } from '../register/rotation/fitPanorama';
import { type MotionModel } from '../register/motionModel';
import { type Registration } from '../register/registration';

/** of the recipe as it is stored; earlier ones are brought up to it by {@link migrateProject} */
export const PROJECT_VERSION = 8;

/** A frame as the project knows it; its bytes are kept beside the project under `hash`. */
export interface Frame {
  readonly id: string;
  /** file name as it came */
  readonly file: string;
  /** SHA-256 of the file, hexadecimal */
  readonly hash: string;
  readonly bytes: number;
  /** upright */
  readonly width: number;
  readonly height: number;
  readonly depth: 8 | 16 | 32;
  readonly facts: CaptureFacts;
  /** exposure relative to a zero that all frames share, EV */
  readonly stops: number;
  readonly stopsSource: 'exif' | 'measured';
  readonly clipped: ClippedShares;
  readonly measures: FrameMeasures;
  /** takes part in fit and merge */
  readonly used: boolean;
  /** of a cut-out: where it is laid into the picture; it never takes part in fit and merge */
  readonly plate?: PlatePlace;
}

/** The frames that make one picture, and how. */
export interface FrameSet {
  readonly kind: SetKind;
  /** the user chose the kind; otherwise it follows the proposal */
  readonly kindChosen: boolean;
  /** frame id; empty while there are no frames */
  readonly reference: string;
  /** the user chose the reference; otherwise it follows the proposal */
  readonly referenceChosen: boolean;
  /** why this kind and reference, a sentence */
  readonly why: string;
  readonly motion: MotionModel | 'auto';
  /** the part of the reference that is held still, full-size pixels; all of it when absent */
  readonly region?: Rectangle;
  /** what is done to all frames alike before they are used */
  readonly prepare: Preparation;
  readonly method: MergeMethod;
  readonly merge: FusionMeasures;
  /** tone map of the radiance merge */
  readonly tone: ToneWish;
  /** the curve by which codes became light: what the files say, or recovered from the set */
  readonly response: 'srgb' | 'recovered';
  /** how a set of another kind than a bracket is merged */
  readonly other: OtherMerge;
  /** what the user chose where something moved, latest last */
  readonly movers: readonly ChosenMover[];
  /** which frames of a panorama look the same way, when it was bracketed; empty otherwise */
  readonly views: readonly BracketedView[];
}

/** What is chosen for the merges of the other kinds; each kind looks at its own. */
export interface OtherMerge {
  readonly projection: ProjectionKind | 'auto';
  /** how a panorama's blank border goes: cropped, or its paper bent to a rectangle */
  readonly border: 'crop' | 'warp';
  readonly stack: StackMethod;
  readonly background: 'keep' | 'subtract' | 'divide';
  readonly backgroundForm: BackgroundForm;
  readonly focus: FocusSchool | 'auto';
  readonly moments: MomentTaste;
  /** how the lens bends is solved with a panorama's turns */
  readonly bend: boolean;
  /** the brackets of a panorama's views are merged first, or all its frames joined apart from each other */
  readonly views: 'merged' | 'apart';
}

/** A panorama's fit, and the frames it is about, in its order. */
export interface KeptPanorama {
  readonly frames: readonly string[];
  readonly fit: PanoramaFit;
  /** bends its paper to a rectangle, once that was wished for */
  readonly mesh?: RectangleMesh;
}

/** How frames become one picture. */
export type MergeMethod = 'fusion' | 'radiance';

/** Belongs to the set: a frame cannot drift from its siblings. */
export interface Preparation {
  /** white balance as it was shot, or evened out to the reference’s */
  readonly balance: 'shot' | 'even';
  /** what the lens did to every frame, taken back */
  readonly lens?: LensCorrection;
}

/** At a place of the reference (full-size pixels) one frame makes what moved; an empty id blends all frames there. */
export interface ChosenMover {
  readonly x: number;
  readonly y: number;
  readonly frame: string;
}

/** What was done when; times are ISO 8601. */
export interface LogEntry {
  readonly time: string;
  readonly text: string;
  /** seconds that the computation took, or that the user spent on the step */
  readonly seconds?: number;
  /** what was found when it was made, worst first */
  readonly findings?: readonly LoggedFinding[];
  /** the settings of the step as they then were, to be applied again */
  readonly settings?: Settings;
}

export interface LoggedFinding {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly verdict: Verdict;
}

/** A pinned place that is watched at 1:1, full-size pixels of the reference. */
export interface WatchPoint {
  readonly id: string;
  readonly x: number;
  readonly y: number;
}

/**
 * A project: frames and a recipe. The picture is a pure function of both. Plain JSON; {@link parseProject} is the gate at load.
 */
export interface Project {
  readonly format: 'marsh-project';
  readonly version: typeof PROJECT_VERSION;
  readonly id: string;
  readonly title: string;
  /** what is to be made, where it was set as a task */
  readonly task?: string;
  readonly created: string;
  readonly changed: string;
  /** in the order they came */
  readonly frames: readonly Frame[];
  readonly set: FrameSet;
  /** bottom first */
  readonly layers: readonly Layer[];
  /** tone and colour of everything that comes from the set, and of the whole picture */
  readonly match: { readonly set: Adjust; readonly whole: Adjust };
  readonly finish: Finish;
  /** region whose darks must stay printable, full-size pixels of the straightened picture; all of it when absent */
  readonly printRegion?: Rectangle;
  readonly watchPoints: readonly WatchPoint[];
  /** measured registrations by {@link fitKey}, so that every machine shows the same picture */
  readonly fits: Readonly<Record<string, Registration>>;
  /** how the frames of a panorama were turned; absent for every other kind */
  readonly panorama?: KeptPanorama;
  readonly log: readonly LogEntry[];
}

/** The layer every project starts with. */
export const MERGE_LAYER: Layer = {
  id: 'merge',
  name: 'Merge',
  source: { kind: 'merge' },
  visible: true,
  opacity: 1,
  blend: 'normal',
  stops: 0,
  mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
  adjust: NO_ADJUST,
};

export const PLAIN_OTHER: OtherMerge = {
  projection: 'auto',
  border: 'crop',
  stack: 'clip',
  background: 'keep',
  backgroundForm: 'curve',
  focus: 'auto',
  moments: 'evening',
  bend: false,
  views: 'merged',
};

/** A project without frames. `now` is ISO 8601. */
export function emptyProject(id: string, title: string, now: string): Project {
  return {
    format: 'marsh-project',
    version: PROJECT_VERSION,
    id,
    title,
    created: now,
    changed: now,
    frames: [],
    set: {
      kind: 'bracket',
      kindChosen: false,
      reference: '',
      referenceChosen: false,
      why: '',
      motion: 'auto',
      prepare: { balance: 'shot' },
      method: 'fusion',
      merge: PAPER_MEASURES,
      tone: NATURAL,
      response: 'srgb',
      other: PLAIN_OTHER,
      movers: [],
      views: [],
    },
    layers: [MERGE_LAYER],
    match: { set: NO_ADJUST, whole: NO_ADJUST },
    finish: FINISH,
    watchPoints: [],
    fits: {},
    log: [],
  };
}

/** Frames from the darkest to the lightest. */
export function byExposure(frames: readonly Frame[]): Frame[] {
  return frames.slice().sort((a, b) => a.stops - b.stops);
}

export function referenceOf(project: Project): Frame | undefined {
  return project.frames.find((f) => f.id === project.set.reference);
}

/** Everything a registration depends on. */
export function fitKey(
  reference: Frame,
  frame: Frame,
  {
    motion,
    region,
    prepare,
    kind = 'bracket',
  }: Pick<FrameSet, 'motion' | 'region'> & Partial<Pick<FrameSet, 'prepare' | 'kind'>>,
): string {
  // how a bracket is fitted is how everything once was
  const how = kind === 'bracket' ? '' : `/${kind}`;
  const held = region
    ? `/${[region.x, region.y, region.width, region.height].map(Math.round).join(',')}`
    : '';
  return `${reference.hash.slice(0, 16)}>${frame.hash.slice(0, 16)}@${(frame.stops - reference.stops).toFixed(3)}/${motion}${held}${how}${lensKey(prepare)}`;
}

/** Everything that the registration of a frame to its view's head depends on. */
export function viewFitKey({ prepare }: Pick<FrameSet, 'prepare'>, head: Frame, frame: Frame): string {
  return fitKey(head, frame, { motion: 'auto', prepare });
}

/** A lens correction as part of a key; empty where there is none. */
export function lensKey(prepare?: Preparation): string {
  const { lens } = prepare ?? {};
  return lens ? `/lens ${[lens.distortion, lens.vignette, lens.red, lens.blue].join(' ')}` : '';
}

/** The registration of a frame, if it has been measured under the present settings. */
export function fitOf(project: Project, frame: Frame): Registration | undefined {
  const reference = referenceOf(project);
  return reference && project.fits[fitKey(reference, frame, project.set)];
}

/**
 * Frames as the tray lays them out: a bracket and developments from the darkest to the lightest, a fitted panorama by where its frames look,
 * everything else by time.
 */
export function inOrder(project: Project): Frame[] {
  const { set, panorama } = project;
  const frames = project.frames.filter((f) => !f.plate);
  if (set.kind === 'bracket' || set.kind === 'developments') return byExposure(frames);
  const timed = inTime(
    frames.map((_, i) => i),
    frames,
  ).map((i) => frames[i]);
  if (set.kind !== 'panorama' || !panorama) return timed;
  const along = new Map(anglesOf(panorama.fit).map((angle, i) => [panorama.frames[i], angle]));
  const standsFor = standIns(project);
  const place = (f: Frame): number => along.get(standsFor(f.id)) ?? Infinity;
  return timed.sort((a, b) => place(a) - place(b));
}

/** Frames that fit and merge look at, in their order: those in use, and of a bracketed view its head only. */
export function joinedFrames(project: Project): Frame[] {
  const standsFor = standIns(project);
  return inOrder(project).filter((f) => f.used && standsFor(f.id) === f.id);
}

/** Frames that the merge uses: in use, measured and fitted, in their order; of a bracketed view its head only. */
export function mergedFrames(project: Project): { frame: Frame; registration: Registration }[] {
  return joinedFrames(project).flatMap((frame) => {
    const registration = fitOf(project, frame);
    return registration?.fitted ? [{ frame, registration }] : [];
  });
}

/** Everything a merge by a method depends on, as text; undefined while a frame in use has not been fitted. */
export function mergeKey(project: Project, method: MergeMethod = project.set.method): string | undefined {
  const used = project.frames.filter((f) => f.used);
  if (used.length === 0 || used.some((f) => !fitOf(project, f))) return undefined;
  const frames = mergedFrames(project).map(
    ({ frame, registration }) => `${frame.hash}:${registration.matrix.join(',')}`,
  );
  const { merge, tone, response, prepare, kind, other, region } = project.set;
  if (kind !== 'bracket') {
    const wished = {
      ...other,
      ...(kind === 'developments' || viewsOf(project).length > 0 ? { merge } : {}),
      ...(region ? { region } : {}),
    };
    return [
      project.set.reference,
      prepare.balance + lensKey(prepare),
      kind,
      JSON.stringify(wished),
      ...viewsOf(project).map(viewKey),
      ...frames,
    ].join('|');
  }
  const how =
    method === 'fusion'
      ? [merge.contrast, merge.saturation, merge.exposedness]
      : [tone.strength, tone.detail, response];
  const movers = project.set.movers.map((m) => `${m.x},${m.y}:${m.frame}`);
  return [
    project.set.reference,
    prepare.balance + lensKey(prepare),
    method,
    ...how,
    ...movers,
    ...frames,
  ].join('|');
}
