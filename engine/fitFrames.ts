import { type EncodedImage } from '@/core/raster/encodedImage';
import { type PairOptions } from '@/core/register/registerPair';
import { referenceRegistration, type Registration } from '@/core/register/registration';
import { newReferenceName } from './referenceName';
import { withWhole } from './wholeFrames';
import { type MergeOptions } from './mergeOptions';
import { type WorkerPool } from './workerPool';

/** A frame to be fitted, and its exposure on the set's common scale, EV. */
export interface FitInput {
  readonly image: EncodedImage;
  readonly stops: number;
}

/** How freely frames may move, what part of the reference they are held to, and whether their focus differs. */
export type FitWish = Pick<PairOptions, 'motion' | 'region' | 'start' | 'softness' | 'light'>;

/**
 * Registers one frame in the pool.
 * @param name of the reference, where other frames are fitted to it too
 */
export async function fitFrame(
  pool: WorkerPool,
  reference: FitInput,
  frame: FitInput,
  { motion, region, start, softness, light }: FitWish,
  signal?: AbortSignal,
  name?: string,
): Promise<Registration> {
  const [r, f] = [reference.image, frame.image];
  if (r === f) return referenceRegistration();
  const options = {
    ...{ stops: frame.stops - reference.stops, motion, region },
    ...(start ? { start } : {}),
    ...(softness ? { softness } : {}),
    ...(light ? { light } : {}),
  };
  // the reference's side of a fit depends on whether the frame is darker
  const kin = name && `${name}, ${options.stops < 0 ? 'darker' : 'lighter'}`;
  return withWhole(
    pool,
    [r, f],
    ([a, b]) => pool.run((tasks) => tasks.register(a, b, options, name), { signal, kin }),
    signal,
  );
}

/** Registers every frame of a set to the one at `reference`, in the pool. */
export async function fitFrames(
  pool: WorkerPool,
  frames: readonly FitInput[],
  reference: number,
  wish: FitWish,
  { signal, onProgress }: MergeOptions = {},
): Promise<Registration[]> {
  let done = 0;
  const name = newReferenceName();
  return Promise.all(
    frames.map(async (frame) => {
      const fit = await fitFrame(pool, frames[reference], frame, wish, signal, name);
      onProgress?.(++done / frames.length);
      return fit;
    }),
  );
}
