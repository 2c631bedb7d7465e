import { type Rectangle } from '@/core/raster/raster';
import { type SceneMerge, type ViewScene } from '@/core/view/viewScene';
import { type BenchState } from './bench';
import { buildScene } from './buildScene';
import { evened } from './preparedFrames';
import { shownMerge } from './proxyStage';

/** The scene of the bench's state, and the only part of the picture that differs from the one before, where that is known. */
export interface ShownScene {
  readonly scene: ViewScene | undefined;
  /** pixel edges of the picture */
  readonly dirty?: Rectangle;
}

type Inputs = Pick<BenchState, 'decoded' | 'prepared' | 'views' | 'live'> & {
  readonly project: BenchState['history']['project'];
  readonly merge: SceneMerge | undefined;
  readonly rival: SceneMerge | undefined;
};

const inputsOf = (state: BenchState): Inputs => ({
  project: state.history.project,
  decoded: state.decoded,
  merge: shownMerge(state),
  rival: state.rival?.scene,
  prepared: state.prepared,
  views: state.views,
  live: state.live,
});

const alike = (a: Inputs, b: Inputs, names: readonly (keyof Inputs)[]): boolean =>
  names.every((name) => a[name] === b[name]);

const PIXELS = ['decoded', 'merge', 'rival', 'prepared', 'views'] as const;

/** What a change of the state has changed of the picture: a stroke only what its last movement touched, everything else the whole. */
function dirtyOf(before: Inputs, now: Inputs): Rectangle | undefined {
  if (!alike(before, now, PIXELS)) return undefined;
  if (now.live) return before.project === now.project ? now.live.touched : undefined;
  // the stroke has become a step of the history, and looks as it did
  return before.live && before.project !== now.project ? before.live.touched : undefined;
}

/** Follows the states of a bench, one after the other; the same scene comes back as long as nothing that it is made from has changed. */
export function followScene(): (state: BenchState) => ShownScene {
  let before: Inputs | undefined;
  let shown: ShownScene = { scene: undefined };
  return (state) => {
    const now = inputsOf(state);
    if (before && alike(before, now, [...PIXELS, 'project', 'live'])) return shown;
    const { project, decoded, merge, rival, prepared, views, live } = now;
    shown = {
      scene: buildScene(project, decoded, merge, { live, rival, prepared: evened(project, prepared), views }),
      dirty: before && dirtyOf(before, now),
    };
    before = now;
    return shown;
  };
}
