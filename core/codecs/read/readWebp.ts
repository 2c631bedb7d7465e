import { checkSize } from '../fileLimits';
import { type RgbaDecoder, type Source } from './source';

/** Reads a WebP (RIFF container; profile and EXIF in chunks of their own). */
export async function readWebp(file: string, bytes: Uint8Array, decode: RgbaDecoder): Promise<Source> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks = new Map<string, Uint8Array>();
  for (let p = 12; p + 8 <= bytes.length;) {
    const length = view.getUint32(p + 4, true);
    const type = String.fromCharCode(...bytes.subarray(p, p + 4));
    if (p + 8 + length > bytes.length) throw new Error('a chunk is cut short');
    if (!chunks.has(type)) chunks.set(type, bytes.subarray(p + 8, p + 8 + length));
    p += 8 + length + (length & 1);
  }
  const size = sizeOf(chunks);
  checkSize(file, size.width, size.height, bytes.length);
  const { width, height, data } = await decode(bytes);
  const profile = chunks.get('ICCP');
  const exif = chunks.get('EXIF');
  return {
    ...{ width, height, channels: 4, space: 'rgb', white: 255, data },
    ...(profile ? { profile } : {}),
    ...(exif ? { exif: withoutLabel(exif) } : {}),
  };
}

/** Some writers put the label of the JPEG segment before the TIFF structure. */
function withoutLabel(exif: Uint8Array): Uint8Array {
  return exif[0] === 0x45 ? exif.subarray(6) : exif;
}

function sizeOf(chunks: ReadonlyMap<string, Uint8Array>): { width: number; height: number } {
  const extended = chunks.get('VP8X');
  const lossless = chunks.get('VP8L');
  const lossy = chunks.get('VP8 ');
  const u24 = (b: Uint8Array, at: number): number => b[at] + b[at + 1] * 256 + b[at + 2] * 65536;
  if (extended && extended.length >= 10) return { width: u24(extended, 4) + 1, height: u24(extended, 7) + 1 };
  if (lossless && lossless.length >= 5) {
    const bits = lossless[1] + lossless[2] * 256 + lossless[3] * 65536 + lossless[4] * 16777216;
    return { width: (bits & 0x3fff) + 1, height: (Math.floor(bits / 16384) & 0x3fff) + 1 };
  }
  if (lossy && lossy.length >= 10)
    return { width: (lossy[6] + lossy[7] * 256) & 0x3fff, height: (lossy[8] + lossy[9] * 256) & 0x3fff };
  throw new Error('no picture');
}
