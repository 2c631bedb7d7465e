import { type SetKind } from '@/core/capture/setKind';
import { keptMatch } from '@/core/match/keptMatch';
import { type NeighbourMatch } from '@/core/match/matchNeighbours';
import { type Frame, type FrameMatch, type SetScope } from '@/core/recipe/project';
import { panoramaCanvas } from '@/core/recipe/pictureGrid';
import { mergedFrames, panoramaOf, referenceOf, setScope } from '@/core/recipe/setFrames';
import { setGraph } from '@/core/recipe/setGraph';
import { type RunOptions } from '@/engine/workerPool';
import { type Bench, type BenchState } from './benchState';
import { setHow } from './edits/sets';
import { mergedLevels, pictureMade } from './madePixels';

/** A frame of a set, and how it differs from the others. */
export interface Neighbour extends NeighbourMatch {
  readonly frame: Frame;
}

/** Kinds of sets whose frames may be expected to show one thing alike; a bracket's go through a curve at other exposures, and are not. */
export const ALIKE_KINDS: ReadonlySet<SetKind> = new Set(['panorama', 'moments', 'swap', 'stack']);

/** a frame is odd when what evening out leaves is seen side by side, and a change of its own takes a third of it away; mean ΔE2000 */
const SEEN = 2;
const MENDED = 2 / 3;

/** Whether a change of its own would bring a frame visibly nearer to its neighbours than evening out, or nothing. */
export function isOdd({ apart, evened, matched }: NeighbourMatch): boolean {
  const left = Math.min(apart, evened);
  return left > SEEN && matched < MENDED * left;
}

/** What frames differ by depends on: another text, another measure. */
export const neighbourKey = (scope: SetScope): string => {
  const { drawn, fits } = setGraph(scope);
  return [fits.hash, ...mergedFrames(scope).map(({ frame }) => drawn.get(frame.id))].join(' ');
};

/** Whether every frame that is merged lies there as it is merged. */
export const areDrawn = (state: Pick<BenchState, 'decoded' | 'made'>, scope: SetScope): boolean =>
  mergedFrames(scope).every(({ frame }) => {
    const { drawn, graph, views } = setGraph(scope);
    const node = views.get(frame.id)?.picture ?? drawn.get(frame.id) ?? '';
    return graph.get(node)?.kind === 'frame'
      ? state.decoded[frame.hash] !== undefined
      : pictureMade(state, node) !== undefined;
  });

/** Compares every fitted frame of a set with the others, where they show the same; such as share too little are left out. */
export async function neighboursOf(bench: Bench, set: string, options: RunOptions): Promise<Neighbour[]> {
  const state = bench.store.getState();
  const scope = setScope(state.history.project, set);
  if (!scope || !areDrawn(state, scope)) return [];
  const frames = mergedFrames(scope);
  const kept = panoramaOf(scope);
  const canvas = panoramaCanvas(scope);
  const reference = referenceOf(scope);
  const levels = frames.map(({ frame }) => mergedLevels(state, scope, frame));
  const found = await bench.pool.run((tasks) => {
    if (kept && canvas) {
      const rotations = frames.map(({ frame }) => kept.fit.rotations[kept.frames.indexOf(frame.id)] ?? null);
      return tasks.panoramaNeighbours(levels, { ...kept.fit, rotations }, canvas);
    }
    const { width, height } = reference ?? frames[0].frame;
    const laid = frames.map(({ frame, registration }, i) => ({
      levels: levels[i],
      matrix: registration.matrix,
      stops: frame.stops,
    }));
    return tasks.laidNeighbours(laid, width, height);
  }, options);
  return frames.flatMap(({ frame }, i) => {
    const match = found[i];
    return match ? [{ ...match, frame }] : [];
  });
}

/** The change that a frame was given to be like its neighbours. */
export const likeOf = ({ set }: SetScope, frame: string): FrameMatch | undefined =>
  set.prepare.like?.find((l) => l.frame === frame);

/** Makes a frame like its neighbours, before it is fitted and merged. */
export function makeLikeNeighbours(
  { actions }: Bench,
  { set }: SetScope,
  { frame, map }: Neighbour,
  label: string,
): void {
  const others = (set.prepare.like ?? []).filter((l) => l.frame !== frame.id);
  const like = [...others, { frame: frame.id, ...keptMatch(map) }];
  actions.edit(label, setHow(set.id, { prepare: { ...set.prepare, like } }));
}

/** Leaves a frame as it was shot. */
export function leaveAsShot({ actions }: Bench, { set }: SetScope, frame: Frame, label: string): void {
  const { like = [], ...rest } = set.prepare;
  const others = like.filter((l) => l.frame !== frame.id);
  actions.edit(label, setHow(set.id, { prepare: others.length > 0 ? { ...rest, like: others } : rest }));
}
