import { type Remote, transfer } from 'comlink';
import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type DecodedFrame, type FrameReadings, type Preparation, type Tasks } from './tasks';
import { OutOfMemory, OverTime, type RunOptions, type WorkerPool } from './workerPool';

/** A file may take this long to decode before it counts as hostile, milliseconds. */
const DECODE_LIMIT = 30_000;

/** A file's bytes, or what reads them anew for every try: then they are given away, and held once. */
export type FileBytes = Uint8Array | (() => Promise<Uint8Array<ArrayBuffer>>);

/**
 * Decodes a file in a worker, which is ended when the file takes too long, or all its memory, or is not wanted any more.
 * @throws Problem that names the file
 */
export function decodeFile(
  pool: WorkerPool,
  file: string,
  bytes: FileBytes,
  options: Pick<RunOptions, 'signal' | 'priority'> = {},
): Promise<DecodedFrame> {
  return decodeBy((tasks, from) => tasks.decode(file, from), pool, file, bytes, options);
}

/**
 * Decodes a frame of more than memory holds: its small levels, and what is measured of the whole.
 * @param staying pixels of the largest level that stays
 * @throws Problem that names the file
 */
export function decodeAway(
  pool: WorkerPool,
  file: string,
  bytes: FileBytes,
  staying: number,
  options: Pick<RunOptions, 'signal' | 'priority'> = {},
): Promise<DecodedFrame & { readonly readings: FrameReadings }> {
  return decodeBy((tasks, from) => tasks.decodeAway(file, from, staying), pool, file, bytes, options);
}

/**
 * Fills a picture, or its rows at hand, with the pixels of a file that was decoded before, as its set prepares it.
 * @throws Problem that names the file
 */
export function decodeInto(
  pool: WorkerPool,
  file: string,
  bytes: FileBytes,
  preparation: Preparation,
  into: EncodedImage,
): Promise<void> {
  return decodeBy((tasks, from) => tasks.decodeInto(file, from, preparation, into), pool, file, bytes, {});
}

async function decodeBy<T>(
  decode: (tasks: Remote<Tasks>, bytes: Uint8Array) => Promise<T>,
  pool: WorkerPool,
  file: string,
  bytes: FileBytes,
  options: Pick<RunOptions, 'signal' | 'priority'>,
): Promise<T> {
  try {
    return await pool.run(
      async (tasks) => {
        if (typeof bytes !== 'function') return decode(tasks, bytes);
        const own = await bytes();
        return decode(tasks, transfer(own, [own.buffer]));
      },
      { ...options, limit: DECODE_LIMIT, interrupt: true },
    );
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
