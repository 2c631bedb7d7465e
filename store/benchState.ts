import { type StoreApi } from 'zustand/vanilla';
import { type ToneShares } from '@/core/finish/toneShares';
import { type CompiledPicture } from '@/core/graph/compiledPicture';
import { type Value, type Picture } from '@/core/graph/tile';
import { type Stroke } from '@/core/mask/stroke';
import { type SchoolChoice } from '@/core/merge/focus/chooseSchool';
import { type MarkSays } from '@/core/match/matchMark';
import { type MomentRegion } from '@/core/merge/moments/chooseMoments';
import { type Mover } from '@/core/merge/movers/mover';
import { type ToneBase, type ToneWish } from '@/core/merge/radiance/toneMap';
import { type PictureEffects } from '@/core/view/pictureEffects';
import { type Finding } from '@/core/proof/finding';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Rectangle } from '@/core/raster/raster';
import { type ViewScene, type SceneMerge } from '@/core/view/viewScene';
import { type DecodedFrame } from '@/engine/tasks';
import { type WorkerPool } from '@/engine/workerPool';
import { type FrameHome } from './edits/frames';
import { type RegionOwner } from './edits/regions';
import { type Change } from './edits/drafts';
import { type History } from './history';
import { type Session } from './session';
import { type Saving } from './keeping/autosave';
import { type JournalLine } from './keeping/journal';
import { type Originals } from './keeping/originals';
import { type StoredProject } from './storedProject';

/** Where pictures that came to a project with pictures may go: into a set, into one of their own, or each by itself. */
export type Destination = FrameHome | { readonly kind: 'own' };

/** An original that the browser could not keep. */
export interface Unkept {
  readonly name: string;
  readonly hash: string;
}

/** What the bench's state shows, and the only part of the picture that differs from what was shown before, where that is known. */
export interface ShownScene {
  readonly scene: ViewScene | undefined;
  readonly built?: BuiltPicture;
  /** the node of the picture without the work of a step, on the grid of the result or the finished one; undefined while it cannot be drawn */
  readonly before?: { readonly result: string; readonly finished: string };
  /** the set's picture merged as it is, and the other way, before its edits; while both are looked at */
  readonly methods?: { readonly own: string; readonly rival?: string };
  /** pixel edges of the picture */
  readonly dirty?: Rectangle;
}

/** A stroke that can change nothing where it is drawn. */
export interface IdleStroke {
  /** whose region it goes into */
  readonly layer: string;
  /** a layer that shows there, which was most likely meant */
  readonly meant?: string;
}

/** A stroke that is being drawn and is not part of the recipe yet. */
export interface LiveStroke {
  readonly owner: RegionOwner;
  readonly stroke: Stroke;
  /** what its last movement changed, pixel edges of the picture */
  readonly touched: Rectangle;
}

/** A recipe compiled with what is at hand, and what its nodes are evaluated with. */
export interface BuiltPicture {
  readonly compiled: CompiledPicture;
  /** what was made for a node; undefined while it is not */
  readonly valueOf: (hash: string) => Value | undefined;
}

/** What a bench may keep in memory, bytes. */
export interface MemoryBudget {
  /** frames that were taken out, or are away, and stay at hand for a step back */
  readonly beside: number;
  /** pixels of frames; where a project has more, only those that are worked on are held whole */
  readonly held: number;
  /** pixels of a frame's largest halving that stays when the frame is away */
  readonly staying: number;
  /** rows of frames that a merge reads at a time */
  readonly rows: number;
}

/** Something that takes a while. */
export interface Work {
  readonly text: string;
  /** 0…1 */
  readonly done: number;
  readonly cancel: () => void;
}

/** The merged picture of a set. */
export interface MergedState {
  /** hash of the node that it was made for */
  readonly key: string;
  /** its levels hold linear light, encoded unbounded, where it is a radiance map */
  readonly scene: SceneMerge;
  /** of a radiance map: its large areas of light */
  readonly toneBase?: ToneBase;
  /** of a radiance map: the tone map that its findings were measured under */
  readonly toned?: ToneWish;
  /** of a radiance map: how far the frames' response is off sRGB, stops */
  readonly responseOff?: number;
  readonly findings: readonly Finding[];
  readonly movers: readonly Mover[];
  /** which moment makes which part, cells of the moments' grid */
  readonly regions?: readonly MomentRegion[];
  /** of a focus set: which school suits it */
  readonly school?: SchoolChoice;
}

/** A file that was read and is not in the project yet. */
export interface Arriving {
  readonly file: string;
  /** the picture and its halvings, largest first */
  readonly levels: readonly EncodedImage[];
}

/** Pictures that came to a project with pictures, and where they went. */
export interface PlacedFrames {
  /** ids of the frames */
  readonly frames: readonly string[];
  readonly destination: Destination;
  /** what made it so, a part of a sentence */
  readonly why: string;
}

/** Something that was made for one state of the recipe. */
export interface Made<T> {
  readonly key: string;
  readonly made: T;
}

/** A drawing tool that is in hand; what it draws becomes an edit when the hand lets go. */
export type ToolInHand =
  | 'held'
  | 'patch'
  | 'level'
  | 'upright'
  | 'print'
  | 'subject'
  | 'watch'
  | 'place'
  | 'corners'
  | 'brush'
  | 'this'
  | 'not'
  | 'edge'
  | 'gradient'
  | 'ellipse'
  | 'polygon'
  | 'same'
  | `from ${string}`
  | `mark ${MarkSays}`
  | 'mark like'
  | 'chart'
  | 'ground'
  | 'yardstick'
  | 'ground line'
  | 'lit and shaded'
  | 'near and far';

/** The finished picture, small, of one state of the recipe. */
export interface FinishedState {
  readonly key: string;
  readonly image: EncodedImage;
  readonly findings: readonly Finding[];
  readonly tones: ToneShares;
}

/** Everything the bench shows. Pixels are derived from the recipe and never stored. */
export interface BenchState {
  readonly history: History;
  readonly session: Session;
  /** decoded frames by hash */
  readonly decoded: Readonly<Record<string, DecodedFrame>>;
  /** what was merged last of each set, by its id */
  readonly merged: Readonly<Record<string, MergedState>>;
  /** large sets merged small, until the whole is there, by the set's id */
  readonly proxies: Readonly<Record<string, { readonly key: string; readonly scene?: MergedState }>>;
  /** a set merged the other way, made when both are to be compared */
  readonly rival?: MergedState;
  /** everything else that was made beforehand: prepared frames, views, what a set says of itself, noise; by the hash of its node */
  readonly made: Readonly<Record<string, Value>>;
  /** things that were cut out of pictures, by the hash of their node */
  readonly cuts: Readonly<Record<string, Picture>>;
  readonly proofed?: Made<readonly Finding[]>;
  /** what each layer, edit and region does */
  readonly effects?: Made<PictureEffects>;
  readonly tool?: ToolInHand;
  /** whose region the tool in hand draws into, and which part of it; −1 for whichever takes strokes */
  readonly drawing?: { readonly owner: RegionOwner; readonly part: number };
  readonly finished?: FinishedState;
  /** the finished picture as it was when the project was opened, a small JPEG */
  readonly earlier?: Uint8Array;
  readonly work?: Work;
  /** the user cancelled; nothing starts by itself until asked for */
  readonly paused: boolean;
  readonly live?: LiveStroke;
  /** a stroke that is pointed at in its list */
  readonly pointed?: Stroke;
  /** the stroke that is drawn, or was drawn last, where it changes nothing */
  readonly idle?: IdleStroke;
  /** sentences to read, latest last */
  readonly problems: readonly string[];
  /** files that were read and wait for the others of their drop */
  readonly arriving: readonly Arriving[];
  /** where pictures went that came to others, until that was seen */
  readonly placed?: PlacedFrames;
  /** files of this session that could not be read */
  readonly unreadable: number;
  readonly saving: Saving;
  /** hashes of originals that the browser could not keep; they are gone with the page */
  readonly unkept: readonly string[];
}

export interface BenchActions {
  readonly edit: (label: string, change: Change, gesture?: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly go: (change: Partial<Session>) => void;
  readonly draw: (live?: LiveStroke) => void;
  /** marks a stroke on the picture */
  readonly pointStroke: (stroke?: Stroke) => void;
  /** says that a stroke changes nothing, or takes it back */
  readonly tellIdle: (idle?: IdleStroke) => void;
  readonly take: (tool?: ToolInHand, drawing?: BenchState['drawing']) => void;
  /** starts again what was cancelled */
  readonly resume: () => void;
  readonly report: (sentence: string) => void;
  readonly dismiss: (sentence: string) => void;
  /** where pictures went is as it should be */
  readonly placedSeen: () => void;
  /** a line for the record */
  readonly note: (text: string) => void;
  /** runs something with a progress line and a cancel button; undefined when it was cancelled or failed */
  readonly during: <T>(
    text: string,
    run: (signal: AbortSignal, progress: (done: number) => void) => Promise<T>,
  ) => Promise<T | undefined>;
  /** originals could not be kept: says so, and tries again until they are */
  readonly keepAgain: (originals: readonly Unkept[], why: unknown) => void;
  /** writes at once what waits to be written; settles when it is */
  readonly flush: () => Promise<void>;
  /** writes what waits, then nothing any more */
  readonly close: () => Promise<void>;
}

export interface BenchParts {
  readonly pool: WorkerPool;
  readonly stored: StoredProject;
  /** the store does not hold this state yet: it is written at once */
  readonly unsaved?: boolean;
  /** writes the project whole */
  readonly save: (stored: StoredProject) => Promise<void>;
  /** hands one change to the browser at once */
  readonly journal?: (line: JournalLine) => void;
  /** keeps the recipe a second time; asked for when it has been quiet */
  readonly mirror?: (state: StoredProject) => Promise<void>;
  readonly originals?: Originals;
  /** at once when left out */
  readonly screen?: Screen;
  /** whether someone waits for a first look; true when left out */
  readonly isSeen?: boolean;
  /** what may be kept in memory; {@link TAB_BUDGET} when left out */
  readonly budget?: MemoryBudget;
}

/** How what happens without a hand goes with the screen, whose thread must stay free for the hand. */
export interface Screen {
  /** makes a change that may be drawn in pieces, as there is time */
  readonly calmly: (change: () => void) => void;
  /** does something once what changed is drawn: workers would take the cores from it */
  readonly afterwards: (then: () => void) => void;
  /** does something once the hand has not moved for a while; asked again, it is put off */
  readonly whenStill: (then: () => void) => void;
}

export interface Bench {
  readonly pool: WorkerPool;
  readonly budget: MemoryBudget;
  readonly originals: Originals;
  readonly screen: Screen;
  /** what changes the frames of the set goes one after the other: what is measured of a set must not be of another */
  readonly inTurn: <T>(run: () => Promise<T>) => Promise<T>;
  /** whether it writes and reads nothing any more */
  readonly isClosed: () => boolean;
  readonly store: StoreApi<BenchState>;
  readonly actions: BenchActions;
  /** what a state shows */
  readonly shown: (state: BenchState) => ShownScene;
}
