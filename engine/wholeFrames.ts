import { Problem } from '@/core/proof/problem';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { turnsOf } from './turns';
import { type WorkerPool } from './workerPool';

/** bytes of frames read again that stay for the next step that asks for them */
const STAYING = 320e6;

/** Reads frames again whose pixels are away. */
export interface FrameReader {
  /** the picture whole, read again; what was read last is still there */
  readonly read: (image: EncodedImage) => Promise<EncodedImage>;
  /** waits until fewer frames are whole than there are workers; @returns what makes room for the next */
  readonly enter: () => Promise<() => void>;
  /** bytes of rows of frames that may be at hand at a time */
  readonly mostRows: number;
}

/**
 * A reader of frames.
 * @param size frames that are worked on at a time
 * @param mostRows bytes of rows at hand at a time
 * @param readAgain makes the picture of a name anew
 */
export function frameReader(
  size: number,
  mostRows: number,
  readAgain: (name: string) => Promise<EncodedImage>,
): FrameReader {
  // in the order of their last use
  const read = new Map<string, EncodedImage>();
  const coming = new Map<string, Promise<EncodedImage>>();
  // never cancelled: another step may wait for the same frame
  const bring = (name: string): Promise<EncodedImage> => {
    const image = readAgain(name).finally(() => coming.delete(name));
    coming.set(name, image);
    return image;
  };
  return {
    enter: turnsOf(size).enter,
    mostRows,
    read: async ({ away }) => {
      if (away === undefined) throw new Error('the pixels of a frame are neither at hand nor away');
      const image = read.get(away) ?? (await (coming.get(away) ?? bring(away)));
      read.delete(away);
      read.set(away, image);
      let bytes = 0;
      for (const [name, { data }] of [...read].reverse())
        if ((bytes += data.byteLength) > STAYING) read.delete(name);
      return image;
    },
  };
}

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
  const { frames } = pool;
  if (!frames) throw new Problem('Frames that do not fit into memory cannot be read again here.');
  const leave = await frames.enter();
  try {
    const whole: EncodedImage[] = [];
    for (const image of images)
      whole.push(image.away === undefined || signal?.aborted ? image : await frames.read(image));
    // a cancelled step ends by its own job
    return await work(whole);
  } finally {
    leave();
  }
}
