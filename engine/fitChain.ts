import { type Registration } from '@/core/register/registration';
import { fitFrame, type FitInput, fitFrames, type FitWish } from './fitFrames';
import { fitThrough } from './fitThrough';
import { type MergeOptions } from './mergeOptions';
import { type WorkerPool } from './workerPool';

/** Registers frames that may be too unlike the reference (another moment, another light) for a direct fit: those lead each other along an order. */
export async function fitChain(
  pool: WorkerPool,
  frames: readonly FitInput[],
  order: readonly number[],
  reference: number,
  wish: FitWish,
  options: MergeOptions = {},
): Promise<Registration[]> {
  const fits = await fitFrames(pool, frames, reference, wish, options);
  const place = new Map(order.map((i, k) => [i, k]));
  const apart = (i: number, j: number): number => Math.abs((place.get(i) ?? 0) - (place.get(j) ?? 0));
  const joined = await fitThrough(pool, { frames, reference, fits }, apart, wish, options);
  if (joined.every((f) => f.fitted)) return joined;
  // neighbours in time lead best; whoever they do not reach is compared by edges, and may lead others
  const { motion } = wish;
  const byEdges = await Promise.all(
    joined.map(async (fit, i) =>
      fit.fitted
        ? fit
        : fitFrame(pool, frames[reference], frames[i], { motion, light: 'differs' }, options.signal),
    ),
  );
  return byEdges.some((f, i) => f.fitted && !joined[i].fitted)
    ? fitThrough(pool, { frames, reference, fits: byEdges }, apart, wish, options)
    : joined;
}
