import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type FrameReader } from './frameReader';
import { type WorkerPool } from './workerPool';

/**
 * Does something with pictures whole: those whose pixels are away are read again, and only as many steps go on at a time as there are workers.
 * @throws Problem when they cannot be read
 */
export async function withWhole<T>(
  pool: WorkerPool,
  images: readonly EncodedImage[],
  work: (whole: readonly EncodedImage[]) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  if (images.every((image) => image.away === undefined)) return work(images);
  return withReader(pool, async (frames) => {
    const releases: (() => void)[] = [];
    try {
      const whole: EncodedImage[] = [];
      for (const image of images)
        // a cancelled step ends by its own job
        if (image.away === undefined || signal?.aborted) whole.push(image);
        else {
          const read = await frames.acquire(image);
          releases.push(read.release);
          whole.push(read.image);
        }
      return await work(whole);
    } finally {
      for (const release of releases) release();
    }
  });
}

/** Does something that reads frames again, in turn. */
export async function withReader<T>(
  { frames }: WorkerPool,
  work: (frames: FrameReader) => Promise<T>,
): Promise<T> {
  if (!frames) throw new Problem('Frames that do not fit into memory cannot be read again here.');
  const leave = await frames.enter();
  try {
    return await work(frames);
  } finally {
    leave();
  }
}
