import { multiply, normalise, turnAndScale } from '@/core/raster/matrix3';
import { type Registration } from '@/core/register/registration';
import { fitFrame, type FitInput, type FitWish } from './fitFrames';
import { newReferenceName } from './referenceName';
import { type MergeOptions } from './mergeFrames';
import { type WorkerPool } from './workerPool';

/**
 * Registers frames that may be too unlike the reference (another focus, another light) for a direct fit: those that fail are fitted to a
 * neighbour that did not, and the two maps are put together.
 */
export async function fitChain(
  pool: WorkerPool,
  frames: readonly FitInput[],
  order: readonly number[],
  reference: number,
  wish: FitWish,
  { signal, onProgress }: MergeOptions = {},
): Promise<Registration[]> {
  let done = 0;
  const name = newReferenceName();
  const fits = await Promise.all(
    frames.map(async (frame) => {
      const fit = await fitFrame(pool, frames[reference], frame, wish, signal, name);
      onProgress?.(++done / frames.length);
      return fit;
    }),
  );
  const { width, height } = frames[reference].image;
  const steps = order.flatMap((i, k) =>
    [order[k - 1], order[k + 1]].flatMap((j) => (j === undefined ? [] : [{ near: j, lost: i }])),
  );
  const open = new Set(steps);
  for (let next = pick(open, fits); next; next = pick(open, fits)) {
    open.delete(next);
    const { near, lost } = next;
    // a part that is held lies elsewhere in the neighbour: the whole of it leads
    const step = await fitFrame(pool, frames[near], frames[lost], { motion: wish.motion }, signal);
    if (step.fitted) fits[lost] = joined(fits[near], step, width, height);
  }
  return fits;
}

interface Step {
  readonly near: number;
  readonly lost: number;
}

/** A step from a fitted frame to one that is not. */
function pick(open: ReadonlySet<Step>, fits: readonly Registration[]): Step | undefined {
  return [...open].find(({ near, lost }) => fits[near].fitted && !fits[lost].fitted);
}

/** Reference → near → far. */
function joined(near: Registration, step: Registration, width: number, height: number): Registration {
  const matrix = normalise(multiply(step.matrix, near.matrix));
  const both = (a: number, b: number): number => Math.hypot(a, b);
  return {
    ...step,
    matrix,
    model: near.model === 'perspective' ? 'perspective' : step.model,
    ...turnAndScale(matrix, (width - 1) / 2, (height - 1) / 2),
    bound: near.bound + step.bound,
    residual: {
      typical: both(near.residual.typical, step.residual.typical),
      worst: both(near.residual.worst, step.residual.worst),
    },
  };
}
