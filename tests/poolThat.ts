import { type WorkerPool } from '@/engine/workerPool';

/** A pool of one worker that answers as it is told; without a word it never does. */
export function poolThat(run: WorkerPool['run'] = () => new Promise(() => undefined)): WorkerPool {
  const nothing = (): void => undefined;
  return { size: 1, run, wake: nothing, rest: nothing, renew: nothing, close: nothing };
}
