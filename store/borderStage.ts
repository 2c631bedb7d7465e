import { placeCanvas } from '@/core/merge/panorama/canvas';
import { projectionOf } from '@/core/recipe/pictureGrid';
import { joinedFrames, type Project } from '@/core/recipe/project';
import { type BenchState } from './bench';
import { amend } from './history';
import { logMade } from './log';
import { smallFrames } from './preparedFrames';
import { type Stage } from './stage';

/** Bends a panorama's paper to a rectangle where the recipe asks for it. */
export function borderStage(state: BenchState, project: Project): Stage | undefined {
  const { panorama, set } = project;
  const projection = projectionOf(project);
  if (!panorama || !projection || set.other.border !== 'warp') return undefined;
  if (panorama.mesh?.projection === projection) return undefined;
  const hashes = joinedFrames(project).map((f) => f.hash);
  return {
    key: `border ${projection} ${JSON.stringify(panorama.fit.rotations)} ${hashes.join(' ')}`,
    text: 'Bending the border to a rectangle',
    run: async (pool, signal) => {
      const started = performance.now();
      const images = smallFrames(state, project);
      const paper = placeCanvas(panorama.fit, projection);
      const mesh = await pool.run((tasks) => tasks.fillBorder(images, panorama.fit, paper), { signal });
      const seconds = (performance.now() - started) / 1000;
      return (now) => ({
        history: logMade(
          amend(now.history, (was) =>
            // without a place for any frame there is nothing to bend
            was.panorama && mesh
              ? { ...was, panorama: { ...was.panorama, mesh } }
              : { ...was, set: { ...was.set, other: { ...was.set.other, border: 'crop' } } },
          ),
          'Bent the border to a rectangle',
          seconds,
          [],
        ),
      });
    },
  };
}
