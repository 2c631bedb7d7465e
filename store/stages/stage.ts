import { type WorkerPool } from '@/engine/workerPool';
import { type BenchState } from '../benchState';

/** A step that the recipe asks for and that is not made yet. */
export interface Stage {
  /** everything it depends on */
  readonly key: string;
  /** what the progress line says; empty for work too short to mention */
  readonly text: string;
  readonly run: (
    pool: WorkerPool,
    signal: AbortSignal,
    progress: (done: number) => void,
  ) => Promise<(state: BenchState) => Partial<BenchState>>;
}
