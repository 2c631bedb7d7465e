import { chooseProjection, placeCanvas } from '@/core/merge/panorama/canvas';
import { panoramaOf } from '@/core/recipe/setFrames';
import { type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type BenchState } from '../benchState';
import { amend } from '../history';
import { logMade } from '../log';
import { smallFrames } from '../madePixels';
import { keepMade } from './keepMade';
import { type Stage } from './stage';

/** Bends a panorama's paper to a rectangle where the recipe asks for it. */
export function borderStage(state: BenchState, scope: SetScope): Stage | undefined {
  const { border } = setGraph(scope);
  const panorama = panoramaOf(scope);
  if (border === undefined || !panorama || scope.made[border]) return undefined;
  const { id, other } = scope.set;
  const projection =
    other.projection === 'auto' ? chooseProjection(panorama.fit).recommended : other.projection;
  return {
    key: `border ${border}`,
    text: 'Bending the border to a rectangle',
    run: async (pool, signal) => {
      const started = performance.now();
      const images = smallFrames(state, scope);
      const paper = placeCanvas(panorama.fit, projection);
      const mesh = await pool.run((tasks) => tasks.fillBorder(images, panorama.fit, paper), { signal });
      const seconds = (performance.now() - started) / 1000;
      return (now) => ({
        history: logMade(
          mesh
            ? keepMade(now.history, [[border, { of: 'mesh', mesh }]])
            : // without a place for any frame there is nothing to bend
              amend(now.history, (was) => ({
                ...was,
                sets: was.sets.map((s) =>
                  s.id === id ? { ...s, other: { ...s.other, border: 'crop' } } : s,
                ),
              })),
          'Bent the border to a rectangle',
          seconds,
          [],
        ),
      });
    },
  };
}
