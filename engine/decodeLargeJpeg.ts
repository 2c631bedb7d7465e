import { sharedBytes } from '@/core/raster/raster';
import { type DecodedJpeg } from '@/core/codecs/read/source';
import type { JpegTurbo } from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';

/**
 * Decodes a large JPEG of three components in three channels instead of four, and lets the decoder's memory go with it.
 * @param turbo a decoder of its own, as its memory never becomes smaller
 * @throws whatever the decoder throws for a file that is damaged or cut short
 */
export function decodeLargeJpeg(turbo: JpegTurbo, bytes: Uint8Array): DecodedJpeg {
  const decoder = new turbo.JPEGDecoder();
  try {
    decoder.getEncodedBuffer(bytes.length).set(bytes);
    decoder.decode();
    const { width, height, componentCount } = decoder.getFrameInfo();
    const made = decoder.getDecodedBuffer();
    if (componentCount !== 3 || made.length !== width * height * 3) throw new Error('sizes differ');
    const data = new Uint8Array(sharedBytes(made.length));
    data.set(made);
    return { width, height, channels: 3, data };
  } finally {
    decoder.delete();
  }
}
