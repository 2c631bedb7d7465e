import { createStore } from 'zustand/vanilla';
import { problemSentence } from '@/core/proof/problem';
import { limitExceeded } from '@/core/recipe/projectLimits';
import { isCancelled, type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type BenchParts, type BenchActions, type Bench, type Screen } from './benchState';
import { restoreFrames } from './addFiles';
import { frameReader } from '@/engine/frameReader';
import { isAway } from '@/core/raster/awayPixels';
import { forgotten } from './forget';
import { causeOf } from './movement';
import { heldFrames, isCrowded, TAB_BUDGET } from './memory';
import { readFrame } from './readFrames';
import { record, redo, undo } from './history';
import { DID_AGAIN, logEdit, logJoined, logNote, TOOK_BACK } from './log';
import { keepProject } from './keeping/keepProject';
import { oneAtATime } from './keeping/oneAtATime';
import { originalsOf, type OriginalStore } from './keeping/originals';
import { nextStage } from './stages/nextStage';
import { followScene } from './shownScene';

const AT_ONCE: Screen = {
  calmly: (change) => change(),
  afterwards: (then) => then(),
  whenStill: (then) => then(),
};

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

  // what is going on beside the pursuit, the latest last
  const works: { text: string; done: number; cancel: () => void }[] = [];
  const showLastWork = (): void => {
    const last = works[works.length - 1];
    calmly(() => store.setState({ work: last && { ...last } }));
  };

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

  /** a hand is at it: what it changes is drawn, and nothing else is made until it rests */
  let moves = false;
  const pursueSoon = (): void => {
    if (pursues || moves) return;
    pursues = true;
    screen.afterwards(() => {
      pursues = false;
      if (!moves) pursue();
    });
  };

  const pursueWhenStill = (): void => {
    const state = store.getState();
    if (running && !state.paused && running.key !== nextStage(state, isSeen)?.key) {
      // what is made for a picture that is changing would take the cores from drawing it
      running.controller.abort();
      running = undefined;
      showLastWork();
    }
    moves = true;
    screen.whenStill(() => {
      moves = false;
      pursueSoon();
    });
  };

  const keeping = keepProject({
    ...{ store, stored, save, journal, mirror, originals, report },
    isClosed: () => closed,
  });
  if (unsaved) void keeping.rewrite();

  store.subscribe((state, before) => {
    if (state.history !== before.history || state.session !== before.session) keeping.keep(state);
    if (causeOf(state, before) === 'movement') return pursueWhenStill();
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
      state.effects !== before.effects ||
      state.session.look !== before.session.look ||
      state.session.station !== before.session.station
    )
      pursueSoon();
  });

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
          ? { history: logEdit(s.history, undo(s.history), `${TOOK_BACK}${last.label}`), paused: false }
          : s;
      }),
    redo: () =>
      store.setState((s) => {
        const next = s.history.future[0];
        return next
          ? { history: logEdit(s.history, redo(s.history), `${DID_AGAIN}${next.label}`), paused: false }
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
        showLastWork();
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
    isClosed: () => closed,
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
