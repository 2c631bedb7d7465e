import { type DecodedFrame } from './tasks';
import { type RunOptions, type WorkerPool } from './workerPool';

/** A file may take this long to decode before it counts as hostile, milliseconds. */
const DECODE_LIMIT = 30_000;

/** Decodes a file in a worker, which is ended when the file takes too long or is not wanted any more. */
export function decodeFile(
  pool: WorkerPool,
  file: string,
  bytes: Uint8Array,
  options: Pick<RunOptions, 'signal' | 'priority'> = {},
): Promise<DecodedFrame> {
  return pool.run((tasks) => tasks.decode(file, bytes), { ...options, limit: DECODE_LIMIT, interrupt: true });
}
