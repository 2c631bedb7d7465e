import { type ChosenWeights } from '@/core/merge/blendWeights';
import { type Merged } from '@/core/merge/exposureFusion';
import { fusionBuffers, type FusionFrame, type MoverTakes, planFusion } from '@/core/merge/fusionPlan';
import { type FusionMeasures } from '@/core/merge/mertensWeight';
import { bandArea } from '@/core/merge/bandGeometry';
import { REACH } from '@/core/merge/focus/reach';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { halfRows, inBands } from './inBands';
import { inStrips, reachedRows } from './inStrips';
import { type MergeOptions } from './mergeOptions';
import { restIfLarge } from './restIfLarge';
import { type WorkerPool } from './workerPool';

/** Each level of a pyramid from the frame that shows most detail there: the pyramid school of focus. */
export const BY_DETAIL = 'detail';

/**
 * Multi-band blend in the pool, band by band, by measures, by weights that were worked out beforehand, or by detail.
 * @param takes where one frame's picture is put into all others first, so that nothing of theirs shows through
 */
export async function mergeChosen(
  pool: WorkerPool,
  frames: readonly FusionFrame[],
  weights: ChosenWeights | FusionMeasures | typeof BY_DETAIL,
  width: number,
  height: number,
  { signal, onProgress }: MergeOptions = {},
  takes?: MoverTakes,
): Promise<Merged> {
  const plan = planFusion(width, height);
  const buffers = fusionBuffers(plan, frames.length);
  const image = emptyImage(width, height, 65535);
  const laid = (images: readonly EncodedImage[]): FusionFrame[] =>
    frames.map(({ matrix, noise }, f) => ({
      image: images[f],
      matrix,
      ...(noise === undefined ? {} : { noise }),
    }));
  const total = plan.bands.length * 5 + 1;
  let done = 0;
  const advance = (by: number): void => onProgress?.((done += by) / total);
  const halves = halfRows(2 ** plan.split);
  await inStrips(
    pool,
    frames.map((f) => f.image),
    plan.bands,
    (tasks, band, images) =>
      weights === BY_DETAIL
        ? tasks.fuseFocusBand(laid(images), plan, buffers, band)
        : tasks.fuseBand(laid(images), weights, plan, buffers, band, takes),
    {
      signal,
      halves,
      onPart: (share) => advance(4 * share * plan.bands.length),
      reached: (f, band) =>
        reachedRows(frames[f], bandArea(plan, band, weights === BY_DETAIL ? REACH : undefined)),
    },
  );
  await pool.run(
    (tasks) =>
      weights === BY_DETAIL ? tasks.fuseFocusCoarse(plan, buffers) : tasks.fuseCoarse(plan, buffers),
    { signal },
  );
  advance(1);
  // the picture itself is only laid out now: what the bands have grown to makes room for it
  restIfLarge(pool, width * height);
  await inBands(pool, plan.bands, (tasks, band) => tasks.collapseBand(plan, buffers, band, image), {
    signal,
    halves,
    onPart: (share) => advance(share * plan.bands.length),
  });
  return { image, shares: buffers.shares };
}
