import { createStore, type StoreApi } from 'zustand/vanilla';
import { type SchoolChoice } from '@/core/merge/focus/chooseSchool';
import { type ToneShares } from '@/core/finish/toneShares';
import { type MomentRegion } from '@/core/merge/moments/chooseMoments';
import { type Mover } from '@/core/merge/movers/mover';
import { type Finding } from '@/core/proof/finding';
import { problemSentence } from '@/core/proof/problem';
import { type Picture, type Value } from '@/core/graph/tile';
import { type ToneBase, type ToneWish } from '@/core/merge/radiance/toneMap';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { limitExceeded } from '@/core/recipe/projectLimits';
import { type SceneMerge } from '@/core/view/viewScene';
import { type DecodedFrame } from '@/engine/tasks';
import { isCancelled, type WorkerPool } from '@/engine/workerPool';
import { type Stroke } from '@/core/mask/stroke';
import { type LiveStroke } from './buildScene';
import { type StoredProject } from './database';
import { restoreFrames } from './addFiles';
import { type Change } from './edits/drafts';
import { type RegionOwner } from './edits/regions';
import { frameReader } from '@/engine/frameReader';
import { isAway } from '@/core/raster/awayPixels';
import { forgotten } from './forget';
import { heldFrames, isCrowded, type MemoryBudget, TAB_BUDGET } from './memory';
import { readFrame } from './readFrames';
import { type History, record, redo, undo } from './history';
import { logEdit, logJoined, logNote } from './log';
import { type Saving } from './keeping/autosave';
import { type JournalLine } from './keeping/journal';
import { keepProject, type Unkept } from './keeping/keepProject';
import { oneAtATime } from './keeping/oneAtATime';
import { type Originals, originalsOf, type OriginalStore } from './keeping/originals';
import { type Destination } from './placeFrames';
import { nextStage } from './stages/nextStage';
import { type Session } from './session';
import { followScene, type ShownScene } from './shownScene';
import { type IdleStroke } from './strokeEffect';

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
  | 'watch'
  | 'place'
  | 'corners'
  | 'brush'
  | 'this'
  | 'not'
  | 'gradient'
  | 'ellipse'
  | 'polygon';

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
  readonly tool?: ToolInHand;
  /** whose region the tool in hand draws into, and which part of it; −1 for whichever takes strokes */
  readonly drawing?: { readonly owner: RegionOwner; readonly part: number };
  readonly finished?: FinishedState;
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
}

const AT_ONCE: Screen = { calmly: (change) => change(), afterwards: (then) => then() };

export interface Bench {
  readonly pool: WorkerPool;
  readonly budget: MemoryBudget;
  readonly originals: Originals;
  readonly screen: Screen;
  /** what changes the frames of the set goes one after the other: what is measured of a set must not be of another */
  readonly inTurn: <T>(run: () => Promise<T>) => Promise<T>;
  readonly store: StoreApi<BenchState>;
  readonly actions: BenchActions;
  /** what a state shows */
  readonly shown: (state: BenchState) => ShownScene;
}

/** Originals of a bench that is not told where they are kept: none outlives the page. */
const NOWHERE: OriginalStore = {
  save: () => Promise.resolve(),
  load: () => Promise.resolve(undefined),
  has: () => Promise.resolve(true),
  remove: () => Promise.resolve(),
};

/** Opens a project on the bench: state, edits with undo, autosave, and the pursuit of what the recipe asks for. */
export function openBench(parts: BenchParts): Bench {
  const {
    pool: workers,
    stored,
    unsaved = false,
    save,
    journal,
    mirror,
    originals = originalsOf(NOWHERE),
    screen = AT_ONCE,
    isSeen = true,
    budget = TAB_BUDGET,
  } = parts;
  const { calmly } = screen;
  const { project, past, future, session } = stored;
  const store = createStore<BenchState>(() => ({
    history: { project, past, future },
    session,
    decoded: {},
    merged: {},
    proxies: {},
    made: {},
    cuts: {},
    paused: false,
    problems: [],
    arriving: [],
    unreadable: 0,
    saving: 'saved',
    unkept: [],
  }));
  const pool: WorkerPool = {
    ...workers,
    frames: frameReader(workers.size, budget.rows, (name, into) =>
      readFrame(store.getState(), originals, workers, name, into),
    ),
  };
  let running: { key: string; controller: AbortController } | undefined;
  let closed = false;

  const report = (sentence: string): void =>
    calmly(() =>
      store.setState((s) => ({ problems: [...s.problems.filter((p) => p !== sentence), sentence] })),
    );

  let pursues = false;
  const pursue = (): void => {
    if (closed) return;
    const state = store.getState();
    const stage = state.paused ? undefined : nextStage(state, isSeen);
    if (running && running.key === stage?.key) return;
    running?.controller.abort();
    running = undefined;
    if (!stage) return;
    const controller = new AbortController();
    const mine = { key: stage.key, controller };
    running = mine;
    const cancel = (): void => {
      store.setState({ paused: true, work: undefined });
      pursue();
    };
    const progress = (done: number): void => {
      if (running === mine && stage.text)
        calmly(() => store.setState({ work: { text: stage.text, done, cancel } }));
    };
    progress(0);
    stage
      .run(pool, controller.signal, progress)
      .then((settle) => {
        // what changed meanwhile may ask for something else
        if (pursues) pursue();
        if (running !== mine) return;
        running = undefined;
        calmly(() => store.setState((s) => ({ ...settle(s), work: undefined })));
      })
      .catch((thrown: unknown) => {
        if (running !== mine || isCancelled(thrown)) return;
        running = undefined;
        store.setState({ paused: true, work: undefined });
        report(problemSentence(thrown, stage.text || 'Rendering'));
      });
  };

  const pursueSoon = (): void => {
    if (pursues) return;
    pursues = true;
    screen.afterwards(() => {
      pursues = false;
      pursue();
    });
  };

  const keeping = keepProject({
    ...{ store, stored, save, journal, mirror, originals, report },
    isClosed: () => closed,
  });
  if (unsaved) void keeping.rewrite();

  store.subscribe((state, before) => {
    if (state.history !== before.history || state.session !== before.session) keeping.keep(state);
    if (
      state.history !== before.history ||
      state.decoded !== before.decoded ||
      state.paused !== before.paused ||
      state.merged !== before.merged ||
      state.proxies !== before.proxies ||
      state.finished !== before.finished ||
      state.rival !== before.rival ||
      state.made !== before.made ||
      state.cuts !== before.cuts ||
      state.proofed !== before.proofed ||
      state.session.look !== before.session.look ||
      state.session.station !== before.session.station
    )
      pursueSoon();
  });

  // what is going on, the latest last
  const works: { text: string; done: number; cancel: () => void }[] = [];

  const actions: BenchActions = {
    edit: (label, change, gesture) =>
      store.setState((s) => {
        const history = record(s.history, label, change, gesture);
        if (history === s.history) return s;
        const exceeded = limitExceeded(history.project);
        if (exceeded)
          return { problems: [...s.problems.filter((p) => p !== exceeded), exceeded], live: undefined };
        const joined = history.past.length === s.history.past.length && s.history.future.length === 0;
        return {
          history: joined ? logJoined(s.history, history) : logEdit(s.history, history, label),
          paused: false,
          // a stroke that became a step is shown by the recipe from now on
          live: undefined,
        };
      }),
    undo: () =>
      store.setState((s) => {
        const last = s.history.past[s.history.past.length - 1];
        return last
          ? { history: logEdit(s.history, undo(s.history), `Took back: ${last.label}`), paused: false }
          : s;
      }),
    redo: () =>
      store.setState((s) => {
        const next = s.history.future[0];
        return next
          ? { history: logEdit(s.history, redo(s.history), `Did again: ${next.label}`), paused: false }
          : s;
      }),
    go: (change) => store.setState((s) => ({ session: { ...s.session, ...change } })),
    draw: (live) => store.setState({ live }),
    pointStroke: (pointed) => store.setState({ pointed }),
    tellIdle: (idle) => {
      if (store.getState().idle !== idle) store.setState({ idle });
    },
    take: (tool, drawing) => store.setState({ tool, drawing }),
    resume: () => store.setState({ paused: false }),
    report,
    dismiss: (sentence) => store.setState((s) => ({ problems: s.problems.filter((p) => p !== sentence) })),
    placedSeen: () => store.setState({ placed: undefined }),
    note: (text) => store.setState((s) => ({ history: logNote(s.history, text) })),
    during: async (text, run) => {
      const controller = new AbortController();
      const mine = { text, done: 0, cancel: () => controller.abort() };
      works.push(mine);
      const progress = (done: number): void => {
        mine.done = done;
        if (works[works.length - 1] === mine) calmly(() => store.setState({ work: { ...mine } }));
      };
      progress(0);
      try {
        return await run(controller.signal, progress);
      } catch (thrown) {
        if (!isCancelled(thrown)) report(problemSentence(thrown, text));
        return undefined;
      } finally {
        works.splice(works.indexOf(mine), 1);
        const last = works[works.length - 1];
        calmly(() => store.setState({ work: last && { ...last } }));
      }
    },
    keepAgain: keeping.keepAgain,
    flush: keeping.flush,
    close: async () => {
      closed = true;
      running?.controller.abort();
      await keeping.close();
    },
  };
  const bench = {
    pool,
    budget,
    originals,
    screen,
    inTurn: oneAtATime(),
    store,
    actions,
    shown: followScene(),
  };
  store.subscribe((state, before) => {
    const [now, then] = [state.history.project, before.history.project];
    const isSame = now.frames === then.frames && now.sets === then.sets && now.layers === then.layers;
    if (isSame && state.session.frame === before.session.frame) return;
    const less = forgotten(state, budget);
    if (less) store.setState(less);
    if (closed) return;
    const { decoded } = store.getState();
    // frames that a step brings back are read again where their pixels went meanwhile, and so are those that are now looked at
    const known = new Set(then.frames.map((f) => f.hash));
    const held = isCrowded(now, budget) ? heldFrames(state) : new Set<string>();
    const back = now.frames.filter(({ hash }) => {
      const levels = decoded[hash]?.levels;
      return levels ? held.has(hash) && isAway(levels) : !known.has(hash);
    });
    if (back.length > 0) void restoreFrames(bench, back);
  });
  return bench;
}
