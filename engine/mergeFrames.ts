import { type Merged } from '@/core/merge/exposureFusion';
import { fusionBuffers, type FusionFrame, planFusion } from '@/core/merge/fusionPlan';
import { type FusionMeasures } from '@/core/merge/mertensWeight';
import { emptyImage } from '@/core/raster/encodedImage';
import { type WorkerPool } from './workerPool';

export interface MergeOptions {
  readonly signal?: AbortSignal;
  /** share of the work done, 0…1 */
  readonly onProgress?: (done: number) => void;
}

/** Exposure fusion in the pool: the same steps and pixels as the core's own, band by band in parallel. */
export async function mergeFrames(
  pool: WorkerPool,
  frames: readonly FusionFrame[],
  width: number,
  height: number,
  measures: FusionMeasures,
  { signal, onProgress }: MergeOptions = {},
): Promise<Merged> {
  const plan = planFusion(width, height);
  const buffers = fusionBuffers(plan, frames.length);
  const image = emptyImage(width, height, 65535);
  // making a band costs about eight times as much as putting it together
  const total = plan.bands.length * 9 + 1;
  let done = 0;
  const advance = (by: number): void => onProgress?.((done += by) / total);
  await Promise.all(
    plan.bands.map(async (band) => {
      await pool.run((tasks) => tasks.fuseBand(frames, measures, plan, buffers, band), { signal });
      advance(8);
    }),
  );
  await pool.run((tasks) => tasks.fuseCoarse(plan, buffers), { signal });
  advance(1);
  await Promise.all(
    plan.bands.map(async (band) => {
      await pool.run((tasks) => tasks.collapseBand(plan, buffers, band, image), { signal });
      advance(1);
    }),
  );
  return { image, shares: buffers.shares };
}
