import { type Project } from '@/core/recipe/project';
import { type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/benchState';
import { openBench } from '@/store/bench';
import { START } from '@/store/session';
import { inlinePool } from './inlinePool';

/** A bench around a project whose workers really work. */
export function liveBench(project: Project, pool: WorkerPool = inlinePool(2)): Bench {
  const stored = { id: project.id, changed: project.changed, project, session: START, past: [], future: [] };
  return openBench({ pool, stored, save: () => Promise.resolve() });
}

/** Waits until a bench has come so far; fails with its problems when it does not within 100 s. */
export async function until(bench: Bench, ready: () => boolean): Promise<void> {
  const end = Date.now() + 100_000;
  while (!ready()) {
    if (Date.now() > end) throw new Error(`not in time: ${JSON.stringify(bench.store.getState().problems)}`);
    await new Promise((r) => setTimeout(r, 20));
  }
}
