import { multiply, normalise, turnAndScale } from '@/core/raster/matrix3';
import { type Registration } from '@/core/register/registration';
import { stillRegistration, stoodStill } from '@/core/register/standsStill';
import { fitFrame, type FitInput, type FitWish } from './fitFrames';
import { type MergeOptions } from './mergeOptions';
import { withWhole } from './wholeFrames';
import { type WorkerPool } from './workerPool';

/** frames by way of which another is tried */
const MOST_TRIES = 3;

/** Frames of a set, and what was found of each directly. */
export interface DirectFits {
  readonly frames: readonly FitInput[];
  readonly reference: number;
  /** of each frame against the reference */
  readonly fits: readonly Registration[];
}

/**
 * What frames that could not be fitted to the reference are by way of others: where all others stood on a tripod, so did they, unless they show
 * otherwise; else each is fitted to the frame nearest to it that is fitted, and from there once more to the reference, so that errors do not
 * add up where that holds.
 * @param apart how unlike two frames are, by their places; the least unlike leads
 */
export async function fitThrough(
  pool: WorkerPool,
  { frames, reference, fits: direct }: DirectFits,
  apart: (i: number, j: number) => number,
  wish: FitWish,
  { signal }: MergeOptions = {},
): Promise<Registration[]> {
  const fits = direct.slice();
  const own = frames[reference];
  const { width, height } = own.image;
  const others = fits.filter((_, i) => i !== reference);
  if (stoodStill(others, width, height)) {
    const still = await Promise.all(
      frames.map(
        async ({ image, stops }, i) =>
          fits[i].fitted ||
          (await withWhole(
            pool,
            [own.image, image],
            ([a, b]) => pool.run((tasks) => tasks.mayLieStill(a, b, stops - own.stops), { signal }),
            signal,
          )),
      ),
    );
    still.forEach((is, i) => {
      if (is && i !== reference) fits[i] = stillRegistration(fits[i]);
    });
  }
  const tried = new Set<string>();
  const tries = fits.map(() => 0);
  for (;;) {
    const steps = fits.flatMap((lost, i) =>
      lost.fitted || tries[i] >= MOST_TRIES
        ? []
        : fits.flatMap((near, j) =>
            near.fitted && j !== reference && !tried.has(`${j} ${i}`) ? [{ i, j }] : [],
          ),
    );
    if (steps.length === 0) return fits;
    const { i, j } = steps.reduce((a, b) => (apart(b.i, b.j) < apart(a.i, a.j) ? b : a));
    tried.add(`${j} ${i}`);
    tries[i]++;
    // a part that is held lies elsewhere in the neighbour: the whole of it leads
    const { motion, softness } = wish;
    const step = await fitFrame(pool, frames[j], frames[i], { motion, softness }, signal);
    if (!step.fitted) continue;
    const through = joined(fits[j], step, width, height);
    const again = await fitFrame(pool, own, frames[i], { ...wish, start: through.matrix }, signal);
    fits[i] = again.fitted ? again : through;
  }
}

/** The fit of a frame by way of another: reference → near → far. */
export function joined(near: Registration, step: Registration, width: number, height: number): Registration {
  const matrix = normalise(multiply(step.matrix, near.matrix));
  const both = (a: number, b: number): number => Math.hypot(a, b);
  return {
    ...step,
    matrix,
    ...(near.by ? { by: near.by } : {}),
    model: near.model === 'perspective' ? 'perspective' : step.model,
    ...turnAndScale(matrix, (width - 1) / 2, (height - 1) / 2),
    bound: near.bound + step.bound,
    residual: {
      typical: both(near.residual.typical, step.residual.typical),
      worst: both(near.residual.worst, step.residual.worst),
    },
  };
}
