import { type Project, viewFitKey } from '@/core/recipe/project';
import { viewKey, viewsOf } from '@/core/recipe/views';
import { mergeView } from '@/engine/mergeView';
import { type BenchState } from './bench';
import { amend } from './history';
import { logMade } from './log';
import { preparedLevels } from './preparedFrames';
import { type Stage } from './stage';

/** Merges the brackets of a panorama's views, before the views are joined. */
export function viewStage(state: BenchState, project: Project): Stage | undefined {
  const { merge, prepare } = project.set;
  const wished = JSON.stringify([merge, prepare]);
  const missing = viewsOf(project).flatMap((view) => {
    const key = `${viewKey(view)} ${wished}`;
    return state.views[view.head.hash]?.key === key ? [] : [{ view, key }];
  });
  if (missing.length === 0) return undefined;
  return {
    key: `views ${missing.map(({ key }) => key).join(' ')}`,
    text: `Merging the brackets of ${missing.length} ${missing.length === 1 ? 'view' : 'views'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const fits: (readonly [string, Project['fits'][string]])[] = [];
      const made: (readonly [string, BenchState['views'][string]])[] = [];
      // one after the other: each keeps all workers busy, and only one bracket need be at hand
      for (const { view, key } of missing) {
        const { head, frames } = view;
        const inputs = frames.map((f) => ({
          image: preparedLevels(state, project, f.hash)[0],
          stops: f.stops,
        }));
        const keys = frames.map((f) => viewFitKey(project.set, head, f));
        const known = keys.map((k) => project.fits[k]);
        const { levels, registrations } = await mergeView(pool, inputs, frames.indexOf(head), merge, known, {
          signal,
        });
        registrations.forEach((fit, i) => fits.push([keys[i], fit]));
        made.push([head.hash, { key, made: levels }]);
        progress(made.length / missing.length);
      }
      const seconds = (performance.now() - started) / 1000;
      return (now) => ({
        views: { ...now.views, ...Object.fromEntries(made) },
        history: logMade(
          amend(now.history, (was) => ({ ...was, fits: { ...was.fits, ...Object.fromEntries(fits) } })),
          `Merged the brackets of ${made.length} views`,
          seconds,
          [],
        ),
      });
    },
  };
}
