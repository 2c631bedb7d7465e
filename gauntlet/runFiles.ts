import { decodeFile } from '@/engine/decodeFile';
import { type WorkerPool } from '@/engine/workerPool';

/** How a file ended. */
export type Outcome = 'opened' | 'refused' | 'slow' | 'large' | 'broken';

export interface FileResult {
  readonly name: string;
  readonly outcome: Outcome;
  readonly ms: number;
  /** most that the process held while the file was looked at, beyond what it held before, MB */
  readonly mb: number;
  /** sentence, or what went wrong without one */
  readonly said?: string;
}

/** What a file may take: common practice of the bench. */
export const BOUNDS = { ms: 5000, mb: 1000 } as const;

const SAMPLE_EVERY = 8;
/** beyond this the worker is ended after a file, MB, so that one file's memory is not taken for that of the next */
const REST_ABOVE = 300;

const heldMb = (): number => process.memoryUsage.rss() / 1048576;

/** Looks at one file as the application does, with the time and the memory that it takes. */
export async function runFile(pool: WorkerPool, name: string, bytes: Uint8Array): Promise<FileResult> {
  const before = heldMb();
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, heldMb())), SAMPLE_EVERY);
  const start = performance.now();
  const result: unknown = await decodeFile(pool, name, bytes).catch((thrown: unknown) => thrown);
  const ms = performance.now() - start;
  clearInterval(watch);
  most = Math.max(most, heldMb());
  if (heldMb() > REST_ABOVE) pool.rest();
  const mb = most - before;
  const bounded = { name, ms, mb };
  if (result instanceof Error) {
    const sentence = result.name === 'Problem' && result.message.includes(`“${name}”`);
    if (!sentence) return { ...bounded, outcome: 'broken', said: `${result.name}: ${result.message}` };
    return { ...bounded, outcome: bound(ms, mb) ?? 'refused', said: result.message };
  }
  return { ...bounded, outcome: bound(ms, mb) ?? 'opened' };
}

function bound(ms: number, mb: number): Outcome | undefined {
  if (ms > BOUNDS.ms) return 'slow';
  return mb > BOUNDS.mb ? 'large' : undefined;
}
