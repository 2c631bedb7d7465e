import { wrap } from 'comlink';
import { Problem } from '@/core/proof/problem';
import { type Tasks } from './tasks';
import { type Lane, type WorkerPool, workerPool } from './workerPool';

function lane(): Lane {
  const worker = new Worker(new URL('./browser.worker.ts', import.meta.url), { type: 'module' });
  const died = new Promise<never>((_, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'the worker stopped')));
  });
  died.catch(() => undefined);
  return { tasks: wrap<Tasks>(worker), died, end: () => worker.terminate() };
}

/**
 * Workers of the browser, by default as many as there are cores, at most 8.
 * @throws Problem where the page has no shared memory
 */
export function browserPool(size = Math.min(8, Math.max(2, navigator.hardwareConcurrency || 2))): WorkerPool {
  if (typeof SharedArrayBuffer === 'undefined')
    throw new Problem(
      'This browser gives the page no shared memory. Open Marsh at its own address, in a current browser.',
    );
  return workerPool(size, lane);
}
