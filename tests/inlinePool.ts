import { nodePlatform } from '@/engine/nodePlatform';
import { makeTasks, type Tasks } from '@/engine/tasks';
import { type Lane, type WorkerPool, workerPool } from '@/engine/workerPool';

const never = new Promise<never>(() => undefined);

/** The real tasks behind the real pool, without threads: every lane has its own, as every worker does. @param wrap may replace some of them */
export function inlinePool(size = 2, wrap: (tasks: Tasks) => Tasks = (tasks) => tasks): WorkerPool {
  // its codecs load once, as nothing waits within one
  const platform = nodePlatform();
  return workerPool(size, () => {
    const remote = Object.fromEntries(
      Object.entries(wrap(makeTasks(platform))).map(([name, task]) => [
        name,
        (...args: unknown[]) =>
          new Promise((resolve) => resolve((task as (...a: unknown[]) => unknown)(...args))),
      ]),
    );
    return { tasks: remote as unknown as Lane['tasks'], died: never, end: () => undefined };
  });
}
