import { wrap } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { availableParallelism } from 'node:os';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { Worker } from 'node:worker_threads';
import { type Tasks } from './tasks';
import { type Lane, type WorkerPool, workerPool } from './workerPool';

/** megabytes of objects in a worker, pixels not counted: beyond, it ends alone and not the process with it */
const MOST_OBJECTS = 1024;

/** Worker threads of Node running the bundled worker at `script`, by default one a core, at most 8. */
export function nodePool(script: URL, size = Math.min(8, Math.max(2, availableParallelism()))): WorkerPool {
  const pool = workerPool(size, (): Lane => {
    const worker = new Worker(script, { resourceLimits: { maxOldGenerationSizeMb: MOST_OBJECTS } });
    const died = new Promise<never>((_, reject) => {
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`the worker ended (${code})`)));
    });
    died.catch(() => undefined);
    return { tasks: wrap<Tasks>(nodeEndpoint(worker)), died, end: () => void worker.terminate() };
  });
  return {
    ...pool,
    rest: () => {
      pool.rest();
      collect();
    },
  };
}

/** Gives back what nothing refers to any more: shared memory counts little with Node and may lie about for long. */
function collect(): void {
  setFlagsFromString('--expose-gc');
  (runInNewContext('gc') as () => void)();
}
