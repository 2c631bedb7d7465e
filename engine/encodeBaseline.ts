import type { JpegTurbo } from '@cornerstonejs/codec-libjpeg-turbo-8bit/wasmjs';

/** A baseline JPEG with every pixel's colour kept (4:4:4). @param data R G B, 8 bit */
export function encodeBaseline(
  turbo: JpegTurbo,
  data: Uint8Array,
  width: number,
  height: number,
  quality: number,
): Uint8Array {
  const encoder = new turbo.JPEGEncoder();
  try {
    encoder
      .getDecodedBuffer({ width, height, bitsPerSample: 8, componentCount: 3, isSigned: false })
      .set(data);
    encoder.setQuality(quality);
    encoder.setProgressive(false);
    encoder.setSubSampling(0);
    encoder.encode();
    return encoder.getEncodedBuffer().slice();
  } finally {
    encoder.delete();
  }
}
