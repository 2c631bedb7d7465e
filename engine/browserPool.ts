import { wrap } from 'comlink';
import { Problem, Unloaded } from '@/core/proof/problem';
import { ALIVE, lifeLock } from './lifeLock';
import { type Tasks } from './tasks';
import { type Lane, type WorkerPool, workerPool } from './workerPool';

function lane(): Lane {
  const name = crypto.randomUUID();
  const worker = new Worker(new URL('./browser.worker.ts', import.meta.url), { type: 'module', name });
  const died = new Promise<never>((_, reject) => {
    let lives = false;
    worker.addEventListener('error', (event) =>
      reject(lives ? new Error(event.message || 'the worker stopped') : new Unloaded('what computes')),
    );
    // a worker that ends in silence lets go of its lock
    worker.addEventListener('message', ({ data }) => {
      if (data !== ALIVE) return;
      lives = true;
      navigator.locks
        .request(lifeLock(name), () => reject(new Error('the worker ended')))
        .catch(() => undefined);
    });
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
