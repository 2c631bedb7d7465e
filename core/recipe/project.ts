import { type CaptureFacts, type FrameMeasures } from '../capture/captureFacts';
import { type ClippedShares } from '../capture/clippedShares';
import { type LensCorrection } from '../capture/lensFaults';
import { type SetKind } from '../capture/setKind';
import { type Edit } from '../edits/edit';
import { type CropRatio } from '../finish/cropRatio';
import { type Straighten } from '../finish/straighten';
import { type Space } from '../ground/space';
import { type Layer } from '../layers/layer';
import { type KeptMatch } from '../match/keptMatch';
import { type FocusSchool } from '../merge/focus/chooseSchool';
import { type FusionMeasures } from '../merge/mertensWeight';
import { type MomentTaste } from '../merge/moments/momentTastes';
import { type ProjectionKind } from '../merge/panorama/projection';
import { type FrameDab } from '../merge/seams/frameDab';
import { type RectangleMesh } from '../merge/rectangle/rectangleMesh';
import { type BackgroundForm } from '../merge/stack/skyBackground';
import { type StackMethod } from '../merge/stack/stackMethod';
import { type Verdict } from '../proof/finding';
import { type Rectangle } from '../raster/raster';
import { type Region } from '../region/region';
import { type PanoramaFit } from '../register/rotation/fitPanorama';
import { type MotionModel } from '../register/motionModel';
import { type Apart } from '../register/parallax/apartOf';
import { type LocalBend } from '../register/parallax/localBend';
import { type Registration } from '../register/registration';
import { type EditKindName } from '../edits/editKinds';
import { type ToneWish } from '../merge/radiance/toneMap';

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
  /** takes part in fit and merge of its set; a picture by itself belongs to none */
  readonly used: boolean;
}

/** The frames that make one picture, and how. */
export interface FrameSet {
  readonly id: string;
  readonly name: string;
  /** ids of its frames, in the order they came */
  readonly frames: readonly string[];
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
  /** ids of the frames that are bent so that near and far lie on the reference at once */
  readonly bent?: readonly string[];
  /** what is done to all frames alike before they are used */
  readonly prepare: Preparation;
  readonly method: MergeMethod;
  readonly merge: FusionMeasures;
  /** the curve by which codes became light: what the files say, or recovered from the set */
  readonly response: 'srgb' | 'recovered';
  /** how a set of another kind than a bracket is merged */
  readonly other: OtherMerge;
  /** what the user chose where something moved, latest last */
  readonly movers: readonly ChosenMover[];
  /** which frame the user pointed out where, in moments and swaps, latest last */
  readonly dabs?: readonly FrameDab[];
  /** which frames of a panorama look the same way, when it was bracketed; empty otherwise */
  readonly views: readonly BracketedView[];
  /** what is changed in everything that comes from it; the tone map of a radiance merge is one of them */
  readonly edits: readonly Edit[];
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
  /** joints of moments are cut where they show least; absent where each place is chosen for itself, as in sets of earlier versions */
  readonly seams?: 'cut';
  /** how the lens bends is solved with a panorama's turns */
  readonly bend: boolean;
  /** the brackets of a panorama's views are merged first, or all its frames joined apart from each other */
  readonly views: 'merged' | 'apart';
}

/** How the frames of a panorama were turned, and which they are, in the order of the fit. */
export interface KeptPanorama {
  readonly frames: readonly string[];
  readonly fit: PanoramaFit;
}

/** Something that was measured and is kept with the recipe, so that every machine shows the same picture. */
export type MadeFact =
  /** how one frame lies on its reference */
  | { readonly of: 'fit'; readonly fit: Registration }
  /** how all frames of a set lie on its reference, by their ids */
  | {
      readonly of: 'fits';
      readonly fits: Readonly<Record<string, Registration>>;
      readonly panorama?: KeptPanorama;
    }
  /** what bends a panorama's paper to a rectangle; none where there is nothing to bend */
  | { readonly of: 'mesh'; readonly mesh?: RectangleMesh }
  /** how far parts of a frame lie from the reference though the rest fits; none where all of it does */
  | { readonly of: 'apart'; readonly apart?: Apart }
  /** what bends a frame so that near and far lie on the reference; none where it was not fitted */
  | { readonly of: 'bend'; readonly bend?: LocalBend };

/** How frames become one picture. */
export type MergeMethod = 'fusion' | 'radiance';

/** Belongs to the set: a frame cannot drift from its siblings. */
export interface Preparation {
  /** white balance as it was shot, or evened out to the reference’s */
  readonly balance: 'shot' | 'even';
  /** what the lens did to every frame, taken back */
  readonly lens?: LensCorrection;
  /** the light that dust on the sensor took is given back */
  readonly dust?: boolean;
  /** frames whose tone and colour are made like their neighbours' */
  readonly like?: readonly FrameMatch[];
}

/** What makes a frame like its neighbours. */
export interface FrameMatch extends KeptMatch {
  /** frame id */
  readonly frame: string;
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

/** How the picture lies and what of it is kept. */
export interface Geometry {
  readonly straighten: Straighten;
  readonly ratio: CropRatio;
  /** stand the ratio upright */
  readonly upright: boolean;
  /** full-size pixels of the straightened picture; undefined means the proposed rectangle */
  readonly crop?: Rectangle;
}

/**
 * A project: frames and a recipe. The picture is a pure function of both. Plain JSON; {@link parseProject} is the gate at load.
 */
export interface Project {
  readonly format: 'marsh-project';
  /** `PROJECT_VERSION` */
  readonly version: 9;
  readonly id: string;
  readonly title: string;
  /** what is to be made, where it was set as a task */
  readonly task?: string;
  readonly created: string;
  readonly changed: string;
  /** in the order they came; those in no set are pictures by themselves */
  readonly frames: readonly Frame[];
  readonly sets: readonly FrameSet[];
  /** id of the set that gives the picture its grid */
  readonly base: string;
  /** regions with names, for layers and edits alike */
  readonly regions: readonly Region[];
  /** farthest first */
  readonly layers: readonly Layer[];
  /** what is changed in the whole picture */
  readonly edits: readonly Edit[];
  readonly geometry: Geometry;
  /** region whose darks must stay printable, full-size pixels of the straightened picture; all of it when absent */
  readonly printRegion?: Rectangle;
  /** the space, light and air that plates are stood in */
  readonly space?: Space;
  readonly watchPoints: readonly WatchPoint[];
  /** what was measured, by the hash of the node that asks for it */
  readonly made: Readonly<Record<string, MadeFact>>;
  readonly log: readonly LogEntry[];
}

/** A set with its frames and what was measured of them: what fit and merge look at. */
export interface SetScope {
  readonly set: FrameSet;
  /** of the set, in the order they came */
  readonly frames: readonly Frame[];
  readonly made: Project['made'];
}

/** Frames of one direction of a bracketed panorama, as the recipe keeps them. */
export interface BracketedView {
  /** the frame that the others are fitted to and that stands for the view; frame ids */
  readonly head: string;
  readonly frames: readonly string[];
}

/** The settings of one step, as they are kept in the record and applied again, also in another project. */
export type Settings =
  | { readonly of: 'fit'; readonly motion: MotionModel | 'auto' }
  | {
      readonly of: 'merge';
      readonly method: MergeMethod;
      readonly merge: FusionMeasures;
      readonly tone?: ToneWish;
      readonly response: 'srgb' | 'recovered';
    }
  | {
      readonly of: 'edits';
      /** what they are the whole truth about */
      readonly kinds: readonly EditKindName[];
      readonly set: readonly Edit[];
      readonly whole: readonly Edit[];
      readonly ratio?: CropRatio;
      readonly upright?: boolean;
    };
