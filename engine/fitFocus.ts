import { referenceRegistration, type Registration } from '@/core/register/registration';
import { fitFrame, type FitInput, type FitWish } from './fitFrames';
import { fitThrough, joined } from './fitThrough';
import { type MergeOptions } from './mergeOptions';
import { type WorkerPool } from './workerPool';

/**
 * Registers frames of other focus, each to its neighbour in the order of focus, whose blur is most like its own; the steps joined lead to the
 * reference. A frame whose step does not hold is fitted to the reference itself, and led by others where that does not hold either.
 * @param order the frames from one end of focus to the other
 */
export async function fitFocus(
  pool: WorkerPool,
  frames: readonly FitInput[],
  order: readonly number[],
  reference: number,
  wish: FitWish,
  options: MergeOptions = {},
): Promise<Registration[]> {
  const { signal, onProgress } = options;
  const own: FitWish = { ...wish, softness: 'differs' };
  const { width, height } = frames[reference].image;
  const at = order.indexOf(reference);
  // a part that is held lies elsewhere in a neighbour
  const alone = wish.region !== undefined || at < 0;
  /** the frame that leads another: the next one towards the reference */
  const leaderOf = (i: number): number => {
    const place = order.indexOf(i);
    return alone || place < 0 ? reference : order[place + (place < at ? 1 : -1)];
  };
  let done = 0;
  const steps = await Promise.all(
    frames.map(async (frame, i) => {
      const step =
        i === reference
          ? referenceRegistration()
          : await fitFrame(pool, frames[leaderOf(i)], frame, own, signal);
      onProgress?.(++done / frames.length);
      return step;
    }),
  );
  const fits: Registration[] = steps.slice();
  const outward = alone ? [] : [...order.slice(0, at).reverse(), ...order.slice(at + 1)];
  for (const i of outward) {
    const leader = leaderOf(i);
    if (leader === reference) continue;
    if (steps[i].fitted && fits[leader].fitted) fits[i] = joined(fits[leader], steps[i], width, height);
    else fits[i] = await fitFrame(pool, frames[reference], frames[i], own, signal);
  }
  const apart = (i: number, j: number): number => Math.abs(order.indexOf(i) - order.indexOf(j));
  return fitThrough(pool, { frames, reference, fits }, apart, own, options);
}
