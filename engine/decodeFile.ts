import { Problem } from '@/core/proof/problem';
import { type DecodedFrame } from './tasks';
import { OutOfMemory, OverTime, type RunOptions, type WorkerPool } from './workerPool';

/** A file may take this long to decode before it counts as hostile, milliseconds. */
const DECODE_LIMIT = 30_000;

/**
 * Decodes a file in a worker, which is ended when the file takes too long, or all its memory, or is not wanted any more.
 * @throws Problem that names the file
 */
export async function decodeFile(
  pool: WorkerPool,
  file: string,
  bytes: Uint8Array,
  options: Pick<RunOptions, 'signal' | 'priority'> = {},
): Promise<DecodedFrame> {
  try {
    return await pool.run((tasks) => tasks.decode(file, bytes), {
      ...options,
      limit: DECODE_LIMIT,
      interrupt: true,
    });
  } catch (thrown) {
    if (thrown instanceof OverTime)
      throw new Problem(
        `“${file}” took longer than ${DECODE_LIMIT / 1000} seconds to decode and was stopped. It may be meant to do harm; leave it out, or export it smaller.`,
      );
    if (thrown instanceof OutOfMemory)
      throw new Problem(
        `“${file}” needs more memory than there is. Close other tabs and try again, or export it smaller.`,
      );
    throw thrown;
  }
}
