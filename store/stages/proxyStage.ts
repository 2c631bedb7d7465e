import { type SmallPlace } from '@/core/merge/enlargeMerged';
import { reducedLens } from '@/core/merge/panorama/frameOnCanvas';
import { placeCanvas } from '@/core/merge/panorama/canvas';
import { panoramaCanvas, type PictureGrid, setGrid } from '@/core/recipe/pictureGrid';
import { mergedFrames, panoramaOf, referenceOf } from '@/core/recipe/setFrames';
import { type SetScope } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { type MergeOptions } from '@/engine/mergeOptions';
import { type SetMerged } from '@/engine/mergeSet';
import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState, type MergedState } from '../benchState';
import { isOneFrame, mergeBracketPixels, type MergedBracket, mergeOtherPixels } from './mergeStage';
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
export function proxyStage(state: BenchState, scope: SetScope): Stage | undefined {
  const grid = setGrid(scope);
  const key = setGraph(scope).merge;
  const frames = mergedFrames(scope);
  const { id } = scope.set;
  if (!grid || !referenceOf(scope) || frames.length === 0 || isOneFrame(scope)) return undefined;
  if ([state.merged[id], state.rival, state.proxies[id]].some((made) => made?.key === key)) return undefined;
  const halved = halvingsFor(grid.width * grid.height);
  if (halved === 0) return undefined;
  return {
    key: `proxy ${key}`,
    text: `Merging ${frames.length} frames, small first`,
    run: async (pool, signal, progress) => {
      try {
        const scene = await mergeSmall(state, scope, halved, grid, pool, { signal, onProgress: progress });
        return (now) => ({ proxies: { ...now.proxies, [id]: { key, scene } } });
      } catch (problem) {
        if (signal.aborted) throw problem;
        // what cannot be merged small may well be merged whole, and if not, that says why
        return (now) => ({ proxies: { ...now.proxies, [id]: { key } } });
      }
    },
  };
}

async function mergeSmall(
  state: BenchState,
  scope: SetScope,
  halved: number,
  { width, height }: PictureGrid,
  pool: WorkerPool,
  options: MergeOptions,
): Promise<MergedState> {
  const { kind } = scope.set;
  const small: Pick<SetMerged, 'depth'> & { readonly merged: MergedBracket } =
    kind === 'bracket'
      ? { merged: await mergeBracketPixels(state, scope, halved, pool, options) }
      : await mergeOtherPixels(state, scope, kind, halved, pool, options);
  const { merged, depth } = small;
  const place = placeOf(scope, halved);
  const { signal } = options;
  const whole = await pool.run((tasks) => tasks.enlargeMerged(merged, depth, place, { width, height }), {
    signal,
  });
  const levels = await pool.run((tasks) => tasks.levels(whole.image), { signal });
  const { toneBase } = merged;
  return {
    key: setGraph(scope).merge,
    scene: {
      levels,
      frames: mergedFrames(scope).map((f) => f.frame.id),
      shares: whole.shares,
      noise: 0,
      ...(whole.depth ? { depth: whole.depth } : {}),
    },
    findings: [],
    movers: [],
    // its cells lie on the small picture
    ...(toneBase ? { toneBase: { ...toneBase, cell: toneBase.cell * 2 ** halved } } : {}),
  };
}

/** Where the whole picture's pixels lie in the small one. */
function placeOf(scope: SetScope, halved: number): SmallPlace {
  const scale = 2 ** halved;
  const canvas = panoramaCanvas(scope);
  const panorama = panoramaOf(scope);
  if (canvas && panorama) {
    const { fit } = panorama;
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
