import { type CutNodes } from '@/core/graph/compiledPicture';
import { type Picture } from '@/core/graph/tile';
import { type Project } from '@/core/recipe/project';
import { type BenchState } from '../benchState';
import { buildPicture } from '../buildScene';
import { type Stage } from './stage';

/** A thing that is to be cut out and was not yet; undefined where all are. */
function lackingCut(
  state: BenchState,
  project: Project,
): { readonly cut: CutNodes; readonly from: Picture; readonly all: readonly CutNodes[] } | undefined {
  const built = buildPicture(state, project);
  if (!built) return undefined;
  const { cuts } = built.compiled;
  for (const cut of cuts) {
    if (state.cuts[cut.exact]) continue;
    const from = built.valueOf(cut.picture);
    if (from?.is === 'picture') return { cut, from, all: cuts };
  }
  return undefined;
}

/** Whether all that is to be cut out was. */
export const allCut = (state: BenchState, project: Project): boolean =>
  lackingCut(state, project) === undefined;

/** Cuts a thing out of its picture: quickly first where someone looks, then exactly. Cuts that nothing asks for any more are given up. */
export function cutStage(state: BenchState, project: Project, isSeen: boolean): Stage | undefined {
  const lacking = lackingCut(state, project);
  if (!lacking) return undefined;
  const { cut, from, all } = lacking;
  const { dabs } = cut.settings;
  const kept = new Set(all.flatMap(({ exact, rough }) => [exact, rough]));
  const settle = (hash: string, levels: Picture['levels']) => (now: BenchState) => ({
    cuts: {
      ...Object.fromEntries(Object.entries(now.cuts).filter(([key]) => kept.has(key))),
      [hash]: { is: 'picture', levels } as const,
    },
  });
  if (isSeen && !state.cuts[cut.rough])
    return {
      key: `rough cut ${cut.rough}`,
      text: '',
      run: async (pool, signal) => {
        const levels = await pool.run((tasks) => tasks.roughCut(from.levels, dabs), { signal });
        return settle(cut.rough, levels);
      },
    };
  return {
    key: `cut ${cut.exact}`,
    text: 'Cutting out',
    run: async (pool, signal) => {
      const levels = await pool.run((tasks) => tasks.cutPicture(from.levels[0], dabs), { signal });
      return settle(cut.exact, levels);
    },
  };
}
