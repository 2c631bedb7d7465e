import { Problem } from '@/core/proof/problem';
import { type Frame } from '@/core/recipe/project';
import { type Originals } from './originals';

/** An original that the browser's store did not give; it may later. */
export class Unread extends Problem {}

/**
 * The original of a frame.
 * @throws Unread when the store failed, Problem when it has none, or one that is not as it was
 */
export async function originalOf(originals: Originals, frame: Frame): Promise<Uint8Array> {
  const bytes = await originals.load(frame.hash).catch((thrown: unknown) => {
    // a file that says itself what is wrong with it will say so again
    if (thrown instanceof Problem) throw thrown;
    throw new Unread(
      `“${frame.file}” could not be read: the browser’s store does not answer. It is tried again by itself; dropping the file here helps at once.`,
    );
  });
  if (!bytes)
    throw new Problem(`The original of “${frame.file}” is gone from this browser. Drop the file here again.`);
  return bytes;
}
