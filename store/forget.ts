import { type Value } from '@/core/graph/tile';
import { isAway, putAway } from '@/core/raster/awayPixels';
import { setGraph } from '@/core/recipe/setGraph';
import { type DecodedFrame } from '@/engine/tasks';
import { scopesOf } from './activeSet';
import { type BenchState, type MemoryBudget } from './benchState';
import { frameAway, heldFrames, isCrowded, pixelBytes } from './memory';

type Held = Pick<BenchState, 'decoded' | 'made' | 'merged' | 'proxies'>;

/**
 * What need not be held in memory any more: pixels of frames that were taken out, but for some of the latest; pictures that no set asks for;
 * merges of sets that are gone; of more frames than fit, the pixels of those that nobody looks at. All of it can be made again from the recipe and the originals.
 * @returns what changes; undefined when all of it is wanted
 */
export function forgotten(
  state: Held & Pick<BenchState, 'history' | 'session'>,
  budget: MemoryBudget,
): Partial<Held> | undefined {
  const { project } = state.history;
  const named = new Set(project.frames.map((f) => f.hash));
  let beside = 0;
  const tooMuch = new Set(
    Object.entries(state.decoded)
      .reverse()
      .filter(([hash, frame]) => !named.has(hash) && (beside += pixelBytes(frame)) > budget.beside)
      .map(([hash]) => hash),
  );
  const asked = new Set(scopesOf(project).flatMap((scope) => [...setGraph(scope).graph.keys()]));
  const unasked = new Set(
    Object.entries(state.made)
      .filter(([hash, value]) => value.is === 'picture' && !asked.has(hash))
      .map(([hash]) => hash),
  );
  const sets = new Set(project.sets.map((s) => s.id));
  const gone = new Set(
    [...Object.keys(state.merged), ...Object.keys(state.proxies)].filter((id) => !sets.has(id)),
  );
  const away = isCrowded(project, budget) ? putAside(state, budget) : undefined;
  if (tooMuch.size + unasked.size + gone.size === 0 && !away) return undefined;
  const decoded = { ...state.decoded, ...away?.decoded };
  const made = { ...state.made, ...away?.made };
  return {
    ...(tooMuch.size > 0 || away ? { decoded: without(decoded, tooMuch) } : {}),
    ...(unasked.size > 0 || away ? { made: without(made, unasked) } : {}),
    ...(gone.size > 0 ? { merged: without(state.merged, gone), proxies: without(state.proxies, gone) } : {}),
  };
}

/** Frames that nobody looks at, and what was prepared of them, without their largest levels; the last few stay as they are. */
function putAside(
  state: Pick<BenchState, 'decoded' | 'made' | 'history' | 'session'>,
  budget: MemoryBudget,
): Pick<Held, 'decoded' | 'made'> | undefined {
  const held = heldFrames(state);
  let beside = 0;
  const decoded: Record<string, DecodedFrame> = {};
  for (const [hash, frame] of Object.entries(state.decoded).reverse()) {
    if (held.has(hash) || isAway(frame.levels)) continue;
    const away = frameAway(frame, budget);
    if (away !== frame && (beside += pixelBytes(frame)) > budget.beside) decoded[hash] = away;
  }
  const made: Record<string, Value> = {};
  for (const scope of scopesOf(state.history.project))
    for (const frame of scope.frames) {
      const { prepared, drawn } = setGraph(scope);
      for (const node of new Set([prepared.get(frame.id) ?? '', drawn.get(frame.id) ?? ''])) {
        const value = state.made[node];
        const isWanted = held.has(frame.hash);
        if (isWanted || value?.is !== 'picture' || isAway(value.levels)) continue;
        const levels = putAway(value.levels, node, budget.staying);
        if (isAway(levels)) made[node] = { is: 'picture', levels };
      }
    }
  return Object.keys(decoded).length + Object.keys(made).length > 0 ? { decoded, made } : undefined;
}

const without = <T>(from: Readonly<Record<string, T>>, keys: ReadonlySet<string>): Record<string, T> =>
  Object.fromEntries(Object.entries(from).filter(([key]) => !keys.has(key)));
