import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { turnsOf } from './turns';

/** bytes of whole frames that stay for the next step that asks for them */
const STAYING = 160e6;

/** Reads frames again whose pixels are away. */
export interface FrameReader {
  /** fills a picture, or its rows at hand, with what is named */
  readonly fill: (name: string, into: EncodedImage) => Promise<void>;
  /** the picture whole; its memory is used again once it was released by all who asked for it */
  readonly acquire: (
    image: EncodedImage,
  ) => Promise<{ readonly image: EncodedImage; readonly release: () => void }>;
  /** waits until fewer frames are worked on than there are workers; @returns what makes room for the next */
  readonly enter: () => Promise<() => void>;
  /** bytes of rows of frames that may be at hand at a time */
  readonly mostRows: number;
}

/** Memory for a whole frame. */
interface Slot {
  name: string;
  image: EncodedImage;
  users: number;
  ready: Promise<void>;
}

/**
 * A reader of frames. Memory that is shared with workers is used over and over, as engines give it back late.
 * @param size frames that are worked on at a time
 * @param mostRows bytes of rows at hand at a time
 */
export function frameReader(size: number, mostRows: number, fill: FrameReader['fill']): FrameReader {
  // in the order of their last use
  let slots: Slot[] = [];
  const slotFor = (image: EncodedImage, name: string): Slot => {
    const known = slots.find((s) => s.name === name);
    if (known) return known;
    const { width, height, white } = image;
    const free = slots.filter((s) => s.users === 0);
    const fits = free.find((s) => s.image.white === white && s.image.data.length === width * height * 3);
    const bytes = slots.reduce((sum, s) => sum + s.image.data.byteLength, 0);
    const isFull = bytes + width * height * 3 * image.data.BYTES_PER_ELEMENT > STAYING;
    // one of another size makes room
    const gone = fits ?? (isFull ? free[0] : undefined);
    slots = slots.filter((s) => s !== gone);
    const whole =
      fits && isFull ? { width, height, white, data: fits.image.data } : emptyImage(width, height, white);
    if (fits && !isFull) slots.push(fits);
    const slot: Slot = { name, image: whole, users: 0, ready: fill(name, whole) };
    slot.ready.catch(() => (slots = slots.filter((s) => s !== slot)));
    slots.push(slot);
    return slot;
  };
  return {
    fill,
    mostRows,
    enter: turnsOf(size).enter,
    acquire: async (image) => {
      if (image.away === undefined) throw new Error('the pixels of a frame are neither at hand nor away');
      const slot = slotFor(image, image.away);
      slot.users++;
      slots = [...slots.filter((s) => s !== slot), slot];
      const release = (): void => void slot.users--;
      try {
        await slot.ready;
      } catch (thrown) {
        release();
        throw thrown;
      }
      return { image: slot.image, release };
    },
  };
}
