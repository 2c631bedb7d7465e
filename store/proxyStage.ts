import { type SmallPlace } from '@/core/merge/enlargeMerged';
import { reducedLens } from '@/core/merge/panorama/frameOnCanvas';
import { placeCanvas } from '@/core/merge/panorama/canvas';
import { panoramaCanvas, type PictureGrid, pictureGrid } from '@/core/recipe/pictureGrid';
import { mergedFrames, mergeKey, type Project, referenceOf } from '@/core/recipe/project';
import { type SceneMerge } from '@/core/view/viewScene';
import { type MergeOptions } from '@/engine/mergeFrames';
import { type SetMerged } from '@/engine/mergeSet';
import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type MergedState } from './bench';
import { mergeBracketPixels, mergeOtherPixels } from './mergeStage';
import { type Stage } from './stage';

/** pixels of a merge that is there at once */
const AT_ONCE = 0.8e6;
/** a picture that is not so many times as large is merged whole at once */
const WORTH = 6;

/** How often frames are halved for a first merge; 0 for not at all. */
export function halvingsFor(pixels: number): number {
  if (pixels < WORTH * AT_ONCE) return 0;
  return Math.max(0, Math.ceil(Math.log2(pixels / AT_ONCE) / 2));
}

/**
 * A large set merged small first: what it gives is drawn as large as the whole will be, and stands on the table until the whole is there. Findings, charts
 * and files are made from the whole alone.
 */
export function proxyStage(state: BenchState, project: Project): Stage | undefined {
  const grid = pictureGrid(project);
  const key = mergeKey(project);
  const frames = mergedFrames(project);
  if (!grid || !key || !referenceOf(project) || frames.length === 0) return undefined;
  if ([state.merged, state.rival, state.proxy].some((made) => made?.key === key)) return undefined;
  const halved = halvingsFor(grid.width * grid.height);
  if (halved === 0) return undefined;
  return {
    key: `proxy ${key}`,
    text: `Merging ${frames.length} frames, small first`,
    run: async (pool, signal, progress) => {
      try {
        const scene = await mergeSmall(state, project, halved, grid, pool, { signal, onProgress: progress });
        return () => ({ proxy: { key, scene } });
      } catch (problem) {
        if (signal.aborted) throw problem;
        // what cannot be merged small may well be merged whole, and if not, that says why
        return () => ({ proxy: { key } });
      }
    },
  };
}

async function mergeSmall(
  state: BenchState,
  project: Project,
  halved: number,
  { width, height }: PictureGrid,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<SceneMerge> {
  const { kind, method } = project.set;
  const small: Pick<SetMerged, 'merged' | 'depth'> =
    kind === 'bracket'
      ? { merged: await mergeBracketPixels(state, project, method, halved, pool, options) }
      : await mergeOtherPixels(state, project, kind, halved, pool, options);
  const { merged, depth } = small;
  const place = placeOf(project, halved);
  const { signal } = options;
  const whole = await pool.run((tasks) => tasks.enlargeMerged(merged, depth, place, { width, height }), {
    signal,
  });
  const levels = await pool.run((tasks) => tasks.levels(whole.image), { signal });
  return {
    levels,
    frames: mergedFrames(project).map((f) => f.frame.id),
    shares: whole.shares,
    noise: 0,
    ...(whole.depth ? { depth: whole.depth } : {}),
  };
}

/** Where the whole picture's pixels lie in the small one. */
function placeOf(project: Project, halved: number): SmallPlace {
  const scale = 2 ** halved;
  const canvas = panoramaCanvas(project);
  if (canvas && project.panorama) {
    const { fit } = project.panorama;
    const own = { ...fit, lens: reducedLens(fit.lens, halved) };
    const small = placeCanvas(own, canvas.projection, undefined, canvas.mesh);
    const ratio = canvas.scale / small.scale;
    return {
      scale: ratio,
      left: canvas.left / ratio - small.left,
      top: canvas.top / ratio - small.top,
    };
  }
  // the middle of a halved pixel lies between the pixels it was made from
  const off = -(scale - 1) / (2 * scale);
  return { scale, left: off, top: off };
}

/** What stands on the table as merged: the whole where it is up to date, a small first merge until then, else what was merged last. */
export function shownMerge({
  history,
  merged,
  proxy,
}: Pick<BenchState, 'history' | 'merged' | 'proxy'>): MergedState['scene'] | undefined {
  const key = mergeKey(history.project);
  if (merged?.key !== key && proxy?.scene && proxy.key === key) return proxy.scene;
  return merged?.scene;
}
