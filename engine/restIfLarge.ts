import { type WorkerPool } from './workerPool';

/** pixels from which the memory that a step leaves in the workers matters more than the time that new workers take */
const LARGE = 12e6;

/** Between two steps of a merge: gives back what idle workers have grown to, where pictures are large. */
export function restIfLarge(pool: WorkerPool, pixels: number): void {
  if (pixels > LARGE) pool.rest();
}
