import { unzlibSync } from 'fflate';
import { convertIndexedToRgb, decode as decodePngFile } from 'fast-png';
import { Problem } from '../../proof/problem';
import { checkSize } from '../fileLimits';
import { joined, type PngChunk, pngChunks, unpacksBeyond } from './pngChunks';
import { type Source } from './source';

const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
const END = Uint8Array.of(0, 0, 0, 0, 0x49, 0x45, 0x4e, 0x44, 0xae, 0x42, 0x60, 0x82);
/** what the picture is made from; anything else in the file cannot spoil it */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT']);

/** Reads a PNG of any colour type, 1 to 16 bits, interlaced or not; a missing end marker and junk after it do no harm. */
export function readPng(file: string, bytes: Uint8Array): Source {
  const chunks = pngChunks(bytes);
  const header = chunks[0];
  if (header?.type !== 'IHDR' || header.body.length < 13) throw new Error('no header');
  const view = new DataView(header.body.buffer, header.body.byteOffset, 13);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  checkSize(file, width, height, bytes.length);
  const packed = chunks.filter((c) => c.type === 'IDAT').map((c) => c.body);
  // RFC 1951: a byte makes 1032 at most
  if (packed.reduce((sum, p) => sum + p.length, 0) * 1032 < leastBytes(header.body, width, height))
    throw new Error('far too short for its size');
  // four channels of 16 bits, a filter byte a row, and rows of interlaced passes
  if (unpacksBeyond(packed, width * height * 8 + height * 16 + 65536))
    throw new Problem(
      `“${file}” unpacks to far more than its picture needs. It may be meant to do harm; leave it out.`,
    );
  const needed = chunks.filter((c) => NEEDED.has(c.type)).map((c) => c.whole);
  const png = decodePngFile(joined([SIGNATURE, ...needed, END]));
  const extra = extras(chunks);
  const white = png.depth === 16 ? 65535 : 255;
  if (png.palette) {
    const channels = png.palette[0].length === 4 ? 4 : 3;
    return { width, height, channels, space: 'rgb', white, data: convertIndexedToRgb(png), ...extra };
  }
  const channels = png.channels as 1 | 2 | 3 | 4;
  const data =
    png.depth < 8
      ? spread(png.data as Uint8Array, width, height, png.depth)
      : (png.data as Uint8Array | Uint16Array);
  return { width, height, channels, space: channels < 3 ? 'grey' : 'rgb', white, data, ...extra };
}

/** channels by colour type (W3C PNG, 11.2.1) */
const CHANNELS: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/** Bytes that the picture takes at least once it is unpacked. */
function leastBytes(header: Uint8Array, width: number, height: number): number {
  return (width * height * header[8] * (CHANNELS[header[9]] ?? 1)) / 8;
}

/** Grey samples of 1, 2 or 4 bits, rows padded to whole bytes, as bytes over the full range. */
function spread(packed: Uint8Array, width: number, height: number, depth: number): Uint8Array {
  const out = new Uint8Array(width * height);
  const most = 2 ** depth - 1;
  if (packed.length === out.length) return packed.map((v) => (v * 255) / most);
  const row = Math.ceil((width * depth) / 8);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const bit = x * depth;
      const code = (packed[y * row + (bit >> 3)] >> (8 - depth - (bit & 7))) & most;
      out[o] = (code * 255) / most;
    }
  return out;
}

/** The embedded profile and EXIF of a PNG; a damaged one is left out. */
function extras(chunks: readonly PngChunk[]): { profile?: Uint8Array; exif?: Uint8Array } {
  const profile = chunks.find((c) => c.type === 'iCCP');
  const exif = chunks.find((c) => c.type === 'eXIf');
  return { ...(profile ? unpackedProfile(profile.body) : {}), ...(exif ? { exif: exif.body } : {}) };
}

function unpackedProfile(body: Uint8Array): { profile?: Uint8Array } {
  const start = body.indexOf(0) + 2;
  const packed = body.subarray(start);
  try {
    if (start < 2 || unpacksBeyond([packed], 4e6)) return {};
    return { profile: unzlibSync(packed) };
  } catch {
    return {};
  }
}
