import { type Remote } from 'comlink';
import { onAbort } from './onAbort';
import { Problem, Unloaded } from '@/core/proof/problem';
import { type Tasks } from './tasks';
import { type FrameReader } from './frameReader';

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
  /** milliseconds after which the worker is ended and the job fails, for work on files that may be meant to do harm */
  readonly limit?: number;
  /** asked of a worker before anything else of the page is done; by default when all jobs that are handed over together are known */
  readonly atOnce?: boolean;
  /** when it is cancelled its worker is ended at once; by default it is let finish for a while, unseen */
  readonly interrupt?: boolean;
}

/** A job for a worker. */
export type Job<T> = (tasks: Remote<Tasks>) => Promise<T>;

/** Runs jobs on a fixed number of workers. */
export interface WorkerPool {
  readonly size: number;
  /** reads frames that memory does not hold; of a pool that works for a project */
  readonly frames?: FrameReader;
  run<T>(job: Job<T>, options?: RunOptions): Promise<T>;
  /** Starts the workers before there is work, so that the first job does not wait for them. */
  wake(): void;
  /** Ends the workers that are idle, so that the memory they have grown to goes back; the next job starts a new one. */
  rest(): void;
  /** Has every worker replaced by a new one, once it is idle. */
  renew(): void;
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

/** A step for which there was not enough memory, even in a new worker. */
export class OutOfMemory extends Problem {
  constructor() {
    super(
      'A worker stopped twice on the same step, most likely for want of memory. Close other tabs and try again, or work with fewer or smaller frames.',
    );
  }
}

/** A step that was stopped because it took too long. */
export class OverTime extends Problem {}

/** Whether a worker could not get the memory it asked for: a worker with less behind it may. */
function lacksMemory(thrown: unknown): boolean {
  return (
    thrown instanceof Error &&
    (thrown.name === 'RangeError' || thrown.name === 'CompileError') &&
    /memory|alloc|array length|buffer length|too large|grow/i.test(thrown.message)
  );
}

/** milliseconds that any step may take: the longest of a large set take a few minutes */
const LONGEST = 900_000;
/** milliseconds that a cancelled step may go on unseen before its worker is ended */
const GRACE = 10_000;

/** A promise that fails after a while with a sentence. */
function timeLimit(ms: number | undefined): {
  passed: Promise<never>;
  stop: () => void;
  isOver: () => boolean;
} {
  let over = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const passed = new Promise<never>((_, fail) => {
    timer = setTimeout(() => {
      over = true;
      fail(
        new OverTime(
          ms === undefined
            ? `A step took longer than ${LONGEST / 60_000} minutes and was stopped. Try again, or work with fewer or smaller frames.`
            : `A step took longer than ${Math.round(ms / 1000)} seconds and was stopped. The file it worked on may be meant to do harm; leave it out.`,
        ),
      );
    }, ms ?? LONGEST);
    // a process of Node ends without waiting for it
    (timer as { unref?: () => void }).unref?.();
  });
  passed.catch(() => undefined);
  return { passed, stop: () => clearTimeout(timer), isOver: () => over };
}

/**
 * A pool of `size` workers. A job whose signal is aborted before it starts never runs; one that runs is let finish unseen for a while, then
 * its worker is ended. A worker that dies, or has no memory left, is replaced and its job tried once more; the second time ends as
 * {@link OutOfMemory}.
 */
export function workerPool(size: number, makeLane: () => Lane): WorkerPool {
  const lanes: (Lane | undefined)[] = Array.from({ length: size }, () => undefined);
  const busy = lanes.map(() => false);
  const queue: Waiting[] = [];
  // the kin of the last job that had one, by worker
  const kin: (string | undefined)[] = lanes.map(() => undefined);
  let closed = false;
  // workers that are to be replaced when they have done what they do
  const outdated = new Set<Lane>();

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
      // a worker of its own kin that is idle too has what it needs
      const home = lanes.findIndex((_, i) => !busy[i] && waiting.kin !== undefined && kin[i] === waiting.kin);
      const to = home === -1 ? at : home;
      if (waiting.drop()) {
        at--;
        continue;
      }
      busy[to] = true;
      kin[to] = waiting.kin ?? kin[to];
      waiting.start((lanes[to] ??= makeLane()), to);
      if (to !== at) at--;
    }
  };

  const run = <T>(
    job: Job<T>,
    { signal, priority = 0, kin: ofJob, limit, interrupt = false, atOnce = false }: RunOptions = {},
  ): Promise<T> =>
    new Promise<T>((settle, fail) => {
      let tries = 0;
      /** ends the worker that has the job */
      let endLane: (() => void) | undefined;
      const quiet = (): void => unheard?.();
      const resolve = (value: T): void => (quiet(), settle(value));
      const reject = (thrown: Error): void => (quiet(), fail(thrown));
      const stop = (): void => {
        reject(cancelled());
        const end = endLane;
        if (!end) return;
        // one that never comes back would be lost to all others
        if (interrupt) end();
        else (setTimeout(end, GRACE) as { unref?: () => void }).unref?.();
      };
      const unheard = signal && onAbort(signal, stop);
      const start = (lane: Lane, at: number): void => {
        tries++;
        let gone = false;
        const overtime = timeLimit(limit);
        const ended = new Promise<never>((_, out) => {
          endLane = () => {
            if (gone) return;
            gone = true;
            lane.end();
            lanes[at] = undefined;
            out(cancelled());
          };
        });
        ended.catch(() => undefined);
        lane.died.catch(() => {
          gone = true;
          if (lanes[at] === lane) lanes[at] = undefined;
        });
        Promise.race([job(lane.tasks), lane.died, overtime.passed, ended])
          .then(resolve, async (thrown: unknown) => {
            await Promise.resolve();
            const memory = lacksMemory(thrown);
            // it may never come back by itself; what it holds makes room
            if (overtime.isOver() || memory) endLane?.();
            const dead = gone && !overtime.isOver();
            if (!(dead || memory) || signal?.aborted)
              return reject(thrown instanceof Error ? thrown : new Error(String(thrown)));
            lane.end();
            if (tries < 2 && !closed) queue.unshift({ priority, kin: ofJob, start, drop });
            else reject(thrown instanceof Unloaded ? thrown : new OutOfMemory());
          })
          .finally(() => {
            overtime.stop();
            endLane = undefined;
            if (outdated.delete(lane)) {
              lane.end();
              if (lanes[at] === lane) lanes[at] = undefined;
            }
            busy[at] = false;
            next();
          });
      };
      const drop = (): boolean => signal?.aborted === true || closed;
      if (signal?.aborted || closed) return stop();
      queue.push({ priority, kin: ofJob, start, drop });
      if (atOnce) next();
      else queueMicrotask(next);
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
    renew: () =>
      lanes.forEach((lane, at) => {
        if (!lane) return;
        if (busy[at]) return void outdated.add(lane);
        lane.end();
        lanes[at] = undefined;
      }),
    close: () => {
      closed = true;
      queue.length = 0;
      lanes.forEach((lane) => lane?.end());
    },
  };
}
