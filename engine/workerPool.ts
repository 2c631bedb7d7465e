import { type Remote } from 'comlink';
import { Problem } from '@/core/proof/problem';
import { type Tasks } from './tasks';

/** One worker: what it can do, a promise that rejects when it dies, and a way to end it. */
export interface Lane {
  readonly tasks: Remote<Tasks>;
  readonly died: Promise<never>;
  readonly end: () => void;
}

export interface RunOptions {
  readonly signal?: AbortSignal;
  /** larger goes first; 0 by default */
  readonly priority?: number;
  /** jobs of one kin leave behind in their worker what the next of them needs: of equals, such a one goes there first */
  readonly kin?: string;
  /** milliseconds after which the worker is ended and the job fails; none by default */
  readonly limit?: number;
}

/** A job for a worker. */
export type Job<T> = (tasks: Remote<Tasks>) => Promise<T>;

/** Runs jobs on a fixed number of workers. */
export interface WorkerPool {
  readonly size: number;
  run<T>(job: Job<T>, options?: RunOptions): Promise<T>;
  /** Starts the workers before there is work, so that the first job does not wait for them. */
  wake(): void;
  /** Ends the workers that are idle, so that the memory they have grown to goes back; the next job starts a new one. */
  rest(): void;
  close(): void;
}

interface Waiting {
  readonly priority: number;
  readonly kin: string | undefined;
  readonly start: (lane: Lane, at: number) => void;
  readonly drop: () => boolean;
}

const CANCELLED = 'AbortError';

/** Whether something was cancelled rather than failed. */
export function isCancelled(thrown: unknown): boolean {
  return thrown instanceof Error && thrown.name === CANCELLED;
}

function cancelled(): Error {
  const error = new Error('cancelled');
  error.name = CANCELLED;
  return error;
}

/** A promise that fails after a while with a sentence. */
function timeLimit(
  ms: number | undefined,
): { passed: Promise<never>; stop: () => void; isOver: () => boolean } | undefined {
  if (ms === undefined) return undefined;
  let over = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const passed = new Promise<never>((_, fail) => {
    timer = setTimeout(() => {
      over = true;
      fail(
        new Problem(
          `A step took longer than ${Math.round(ms / 1000)} seconds and was stopped. The file it worked on may be meant to do harm; leave it out.`,
        ),
      );
    }, ms);
  });
  passed.catch(() => undefined);
  return { passed, stop: () => clearTimeout(timer), isOver: () => over };
}

/**
 * A pool of `size` workers. A job whose signal is aborted before it starts never runs; one that runs is let finish unseen. A worker
 * that dies is replaced and its job tried once more; dying twice ends as a {@link Problem}.
 */
export function workerPool(size: number, makeLane: () => Lane): WorkerPool {
  const lanes: (Lane | undefined)[] = Array.from({ length: size }, () => undefined);
  const busy = lanes.map(() => false);
  const queue: Waiting[] = [];
  // the kin of the last job that had one, by worker
  const kin: (string | undefined)[] = lanes.map(() => undefined);
  let closed = false;

  /** How well a job suits a worker among its equals: its own kin, then none or one that no worker has, then that of another. */
  const suits = ({ kin: of }: Waiting, at: number): number =>
    of === undefined || !kin.includes(of) ? 1 : of === kin[at] ? 2 : 0;

  const next = (): void => {
    for (let at = 0; at < size && queue.length > 0; at++) {
      if (busy[at]) continue;
      let best = 0;
      queue.forEach((w, i) => {
        const ahead = w.priority - queue[best].priority || suits(w, at) - suits(queue[best], at);
        if (ahead > 0) best = i;
      });
      const [waiting] = queue.splice(best, 1);
      if (waiting.drop()) {
        at--;
        continue;
      }
      busy[at] = true;
      kin[at] = waiting.kin ?? kin[at];
      waiting.start((lanes[at] ??= makeLane()), at);
    }
  };

  const run = <T>(job: Job<T>, { signal, priority = 0, kin: ofJob, limit }: RunOptions = {}): Promise<T> =>
    new Promise<T>((settle, fail) => {
      let tries = 0;
      const quiet = (): void => signal?.removeEventListener('abort', stop);
      const resolve = (value: T): void => (quiet(), settle(value));
      const reject = (thrown: Error): void => (quiet(), fail(thrown));
      const stop = (): void => reject(cancelled());
      signal?.addEventListener('abort', stop, { once: true });
      const start = (lane: Lane, at: number): void => {
        tries++;
        let dead = false;
        lane.died.catch(() => (dead = true));
        const overtime = timeLimit(limit);
        Promise.race([job(lane.tasks), lane.died, ...(overtime ? [overtime.passed] : [])])
          .then(resolve, async (thrown: unknown) => {
            await Promise.resolve();
            if (thrown instanceof Problem && overtime?.isOver()) {
              // it may never come back by itself
              lane.end();
              lanes[at] = undefined;
            }
            if (!dead) return reject(thrown instanceof Error ? thrown : new Error(String(thrown)));
            lane.end();
            lanes[at] = undefined;
            if (tries < 2 && !closed) queue.unshift({ priority, kin: ofJob, start, drop });
            else
              reject(
                new Problem(
                  'A worker stopped twice on the same step, most likely for want of memory. Close other tabs and try again.',
                ),
              );
          })
          .finally(() => {
            overtime?.stop();
            busy[at] = false;
            next();
          });
      };
      const drop = (): boolean => signal?.aborted === true || closed;
      if (signal?.aborted || closed) return stop();
      queue.push({ priority, kin: ofJob, start, drop });
      // not before all jobs that are handed over together are known
      queueMicrotask(next);
    });

  return {
    size,
    run,
    wake: () => lanes.forEach((lane, at) => (lanes[at] = lane ?? makeLane())),
    rest: () =>
      lanes.forEach((lane, at) => {
        if (busy[at]) return;
        lane?.end();
        lanes[at] = undefined;
      }),
    close: () => {
      closed = true;
      queue.length = 0;
      lanes.forEach((lane) => lane?.end());
    },
  };
}
