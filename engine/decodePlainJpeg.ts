import { type Allocate, sharedBytes } from '@/core/raster/raster';
import { type DecodedJpeg } from '@/core/codecs/read/source';
import type { JpegTurbo } from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';

/**
 * Decodes a JPEG of three components in three channels instead of four, straight to where they stay.
 * @param allocate where the samples lie
 * @throws whatever the decoder throws for a file that is damaged or cut short
 */
export function decodePlainJpeg(
  turbo: JpegTurbo,
  bytes: Uint8Array,
  allocate: Allocate = sharedBytes,
): DecodedJpeg {
  const decoder = new turbo.JPEGDecoder();
  try {
    decoder.getEncodedBuffer(bytes.length).set(bytes);
    decoder.decode();
    const { width, height, componentCount } = decoder.getFrameInfo();
    const length = width * height * 3;
    const made = samplesInPlace(turbo, decoder.$$?.ptr, length) ?? decoder.getDecodedBuffer();
    if (componentCount !== 3 || made.length !== length) throw new Error('sizes differ');
    const data = new Uint8Array(allocate(length));
    data.set(made);
    return { width, height, channels: 3, data };
  } finally {
    decoder.delete();
  }
}

/** Where a decoder keeps begin, end and capacity of its samples: words after those of the encoded file. */
const SAMPLES = 3;

/** The samples where the decoder has them; its own way hands out a copy, 306 MB of 102 MP. Undefined where they are not found there. */
function samplesInPlace(
  turbo: JpegTurbo,
  address: number | undefined,
  length: number,
): Uint8Array | undefined {
  if (address === undefined) return undefined;
  const [begin, end] = turbo.HEAPU32.subarray(address / 4 + SAMPLES, address / 4 + SAMPLES + 2);
  if (begin === undefined || end === undefined || end - begin !== length) return undefined;
  return turbo.HEAPU8.subarray(begin, end);
}
