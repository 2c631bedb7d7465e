import { type Registration } from '@/core/register/registration';
import { type FitWish } from './fitFrames';
import { type DirectFits, fitThrough } from './fitThrough';
import { type MergeOptions } from './mergeOptions';
import { type WorkerPool } from './workerPool';

/** What the frames of a bracket are together: those that share too few usable tones with the reference are led by the nearest exposure. */
export function fitBracket(
  pool: WorkerPool,
  direct: DirectFits,
  wish: FitWish,
  options: MergeOptions = {},
): Promise<Registration[]> {
  const { frames } = direct;
  const apart = (i: number, j: number): number => Math.abs(frames[i].stops - frames[j].stops);
  return fitThrough(pool, direct, apart, wish, options);
}
