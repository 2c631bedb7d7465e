import { type Value } from '@/core/graph/tile';
import { type MadeFact, type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { viewsOf } from '@/core/recipe/views';
import { mergeView } from '@/engine/mergeView';
import { type BenchState } from '../benchState';
import { logMade } from '../log';
import { preparedLevels } from '../madePixels';
import { keepMade } from './keepMade';
import { type Stage } from './stage';

/** Merges the brackets of a panorama's views, before the views are joined. */
export function viewStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { views } = setGraph(scope);
  const lacking = viewsOf(scope).flatMap((view) => {
    const nodes = views.get(view.head.id);
    return nodes && !state.made[nodes.picture] ? [{ view, nodes }] : [];
  });
  if (lacking.length === 0) return undefined;
  return {
    key: `views ${lacking.map(({ nodes }) => nodes.picture).join(' ')}`,
    text: `Merging the brackets of ${lacking.length} ${lacking.length === 1 ? 'view' : 'views'}`,
    run: async (pool, signal, progress) => {
      const started = performance.now();
      const facts: [string, MadeFact][] = [];
      const pictures: [string, Value][] = [];
      // one after the other: each keeps all workers busy, and only one bracket need be at hand
      for (const { view, nodes } of lacking) {
        const { head, frames } = view;
        const inputs = frames.map((f) => ({ image: preparedLevels(state, scope, f)[0], stops: f.stops }));
        const hashes = frames.map((f) => nodes.fits.get(f.id) ?? '');
        const known = hashes.map((hash) => {
          const made = scope.made[hash];
          return made?.of === 'fit' ? made.fit : undefined;
        });
        const { levels, registrations } = await mergeView(
          pool,
          inputs,
          frames.indexOf(head),
          scope.set.merge,
          known,
          { signal },
        );
        registrations.forEach((fit, i) => facts.push([hashes[i], { of: 'fit', fit }]));
        pictures.push([nodes.picture, { is: 'picture', levels }]);
        progress(pictures.length / lacking.length);
      }
      const seconds = (performance.now() - started) / 1000;
      return (now) => ({
        made: { ...now.made, ...Object.fromEntries(pictures) },
        history: logMade(
          keepMade(now.history, facts),
          `Merged the brackets of ${pictures.length} views`,
          seconds,
          [],
        ),
      });
    },
  };
}
