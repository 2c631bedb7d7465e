import { convertIndexedToRgb, decode as decodePngFile } from 'fast-png';
import { type CaptureFacts } from '../capture/captureFacts';
import { Problem } from '../proof/problem';
import { type EncodedImage } from '../raster/encodedImage';
import { checkSize, FILE_LIMITS } from './fileLimits';
import { jpegSize } from './jpegSize';
import { orientImage } from './orientImage';
import { readFacts } from './readFacts';

/** A JPEG decoder: bytes to R G B A. Given by the platform, as it brings its own way to load the library. */
export type JpegDecoder = (
  bytes: Uint8Array,
) => Promise<{ width: number; height: number; data: Uint8ClampedArray }>;

export interface DecodedFile {
  readonly image: EncodedImage;
  readonly facts: CaptureFacts;
  readonly depth: 8 | 16;
}

const starts = (bytes: Uint8Array, signature: readonly number[]): boolean =>
  signature.every((v, i) => bytes[i] === v);

/**
 * Decodes a JPEG or PNG file (8 or 16 bit) to an upright picture and its capture facts.
 * @throws Problem for anything that is not such a file, is damaged, or is out of bounds
 */
export async function decodeImage(
  file: string,
  bytes: Uint8Array,
  decodeJpeg: JpegDecoder,
): Promise<DecodedFile> {
  if (bytes.length === 0) throw new Problem(`“${file}” is empty. Copy it from the card again.`);
  if (bytes.length > FILE_LIMITS.bytes)
    throw new Problem(`“${file}” is larger than ${FILE_LIMITS.bytes / 1e6} MB. Export it smaller.`);
  const isJpeg = starts(bytes, [0xff, 0xd8, 0xff]);
  const isPng = starts(bytes, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  if (!isJpeg && !isPng)
    throw new Problem(`“${file}” is neither a JPEG nor a PNG picture. Export it as JPEG or as 16-bit PNG.`);
  const { facts, orientation } = await readFacts(bytes);
  try {
    return isJpeg
      ? { image: await jpegImage(file, bytes, orientation, decodeJpeg), facts, depth: 8 }
      : { ...pngImage(file, bytes, orientation), facts };
  } catch (thrown) {
    if (thrown instanceof Problem) throw thrown;
    throw new Problem(
      `“${file}” is damaged and cannot be decoded. Copy it from the card again, or leave it out.`,
    );
  }
}

async function jpegImage(
  file: string,
  bytes: Uint8Array,
  orientation: number,
  decodeJpeg: JpegDecoder,
): Promise<EncodedImage> {
  const size = jpegSize(bytes);
  if (!size) throw new Error('no frame header');
  checkSize(file, size.width, size.height);
  const { width, height, data } = await decodeJpeg(bytes);
  return orientImage(data, width, height, 4, 255, orientation);
}

function pngImage(
  file: string,
  bytes: Uint8Array,
  orientation: number,
): { image: EncodedImage; depth: 8 | 16 } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 33) throw new Error('no header');
  checkSize(file, view.getUint32(16), view.getUint32(20));
  const png = decodePngFile(bytes);
  const { width, height } = png;
  const depth = png.depth === 16 ? 16 : 8;
  const white = depth === 16 ? 65535 : 255;
  const data = png.palette ? convertIndexedToRgb(png) : png.data;
  const channels = png.palette ? png.palette[0].length : png.channels;
  if (!png.palette && png.depth < 8)
    throw new Problem(
      `“${file}” is a ${png.depth}-bit drawing, not a photograph. Export it with 8 or 16 bits.`,
    );
  if (channels >= 3)
    return { image: orientImage(data, width, height, channels === 4 ? 4 : 3, white, orientation), depth };
  const rgb = depth === 16 ? new Uint16Array(width * height * 3) : new Uint8Array(width * height * 3);
  for (let i = 0, o = 0; o < rgb.length; i += channels, o += 3) rgb[o] = rgb[o + 1] = rgb[o + 2] = data[i];
  return { image: orientImage(rgb, width, height, 3, white, orientation), depth };
}
