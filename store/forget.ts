import { type BenchState } from './bench';
import { scopesOf } from './activeSet';
import { setGraph } from '@/core/recipe/setGraph';
import { type DecodedFrame } from '@/engine/tasks';

/** Pixels of frames that were taken out, bytes, which stay at hand for a step back. */
export const MOST_BESIDE = 400e6;

/** Memory of a decoded frame with its levels. */
export function pixelBytes({ levels }: DecodedFrame): number {
  return levels.reduce((sum, l) => sum + l.data.byteLength + (l.alpha?.byteLength ?? 0), 0);
}

type Held = Pick<BenchState, 'decoded' | 'made' | 'merged' | 'proxies'>;

/**
 * What need not be held in memory any more: pixels of frames that were taken out, but for some of the latest; pictures that no set asks for;
 * merges of sets that are gone. All of it can be made again from the recipe and the originals.
 * @param most bytes of frames that were taken out
 * @returns what changes; undefined when all of it is wanted
 */
export function forgotten(
  state: Held & Pick<BenchState, 'history'>,
  most: number,
): Partial<Held> | undefined {
  const { project } = state.history;
  const named = new Set(project.frames.map((f) => f.hash));
  let beside = 0;
  const tooMuch = new Set(
    Object.entries(state.decoded)
      .reverse()
      .filter(([hash, frame]) => !named.has(hash) && (beside += pixelBytes(frame)) > most)
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
  if (tooMuch.size + unasked.size + gone.size === 0) return undefined;
  return {
    ...(tooMuch.size > 0 ? { decoded: without(state.decoded, tooMuch) } : {}),
    ...(unasked.size > 0 ? { made: without(state.made, unasked) } : {}),
    ...(gone.size > 0 ? { merged: without(state.merged, gone), proxies: without(state.proxies, gone) } : {}),
  };
}

const without = <T>(from: Readonly<Record<string, T>>, keys: ReadonlySet<string>): Record<string, T> =>
  Object.fromEntries(Object.entries(from).filter(([key]) => !keys.has(key)));
