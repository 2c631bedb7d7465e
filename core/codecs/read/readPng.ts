import { convertIndexedToRgb, decode as decodePngFile } from 'fast-png';
import { Problem } from '../../proof/problem';
import { checkSize } from '../fileLimits';
import { joined, type PngChunk, pngChunks } from './pngChunks';
import { pngRows } from './pngRows';
import { type Allocate } from '../../raster/raster';
import { type Source } from './source';
import { unpackZlib } from './unpackZlib';

const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
const END = Uint8Array.of(0, 0, 0, 0, 0x49, 0x45, 0x4e, 0x44, 0xae, 0x42, 0x60, 0x82);
/** what the picture is made from; anything else in the file cannot spoil it */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT']);

/** Reads a PNG of any colour type, 1 to 16 bits, interlaced or not; a missing end marker and junk after it do no harm. */
export async function readPng(file: string, bytes: Uint8Array, allocate?: Allocate): Promise<Source> {
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
  const extra = await extras(chunks);
  const [, , , , , , , , depth, colour, , , interlaced] = header.body;
  const channels = CHANNELS[colour];
  const isPlain = interlaced === 0 && colour !== PALETTE && (depth === 8 || depth === 16);
  if (!isPlain || channels === undefined) {
    await checkUnpacked(file, packed, width, height, () => undefined);
    return { ...byLibrary(chunks, width, height), ...extra };
  }
  const rows = pngRows(width * channels, height, depth, (channels * depth) / 8, allocate);
  await checkUnpacked(file, packed, width, height, rows.push);
  // a wrong checksum after the last row spoils nothing
  if (rows.count() < height) throw new Error('rows are missing');
  const space = channels < 3 ? 'grey' : 'rgb';
  return { width, height, channels, space, white: depth === 16 ? 65535 : 255, data: rows.data, ...extra };
}

/**
 * Unpacks the picture of a PNG once, in pieces.
 * @throws Problem when there is far more in it than the picture needs
 */
async function checkUnpacked(
  file: string,
  packed: readonly Uint8Array[],
  width: number,
  height: number,
  take: (piece: Uint8Array) => void,
): Promise<void> {
  // four channels of 16 bits, a filter byte a row, and rows of interlaced passes
  const most = width * height * 8 + height * 16 + 65536;
  let made = 0;
  let thrown: unknown;
  await unpackZlib(packed, (piece) => {
    made += piece.length;
    try {
      take(piece);
    } catch (fault) {
      thrown = fault;
    }
    return made <= most && thrown === undefined;
  });
  if (thrown !== undefined) throw thrown as Error;
  if (made > most)
    throw new Problem(
      `“${file}” unpacks to far more than its picture needs. It may be meant to do harm; leave it out.`,
    );
}

/** What is rare: palettes, fewer than 8 bits, interlaced. */
function byLibrary(chunks: readonly PngChunk[], width: number, height: number): Source {
  const needed = chunks.filter((c) => NEEDED.has(c.type)).map((c) => c.whole);
  const png = decodePngFile(joined([SIGNATURE, ...needed, END]));
  const white = png.depth === 16 ? 65535 : 255;
  if (png.palette) {
    const channels = png.palette[0].length === 4 ? 4 : 3;
    return { width, height, channels, space: 'rgb', white, data: convertIndexedToRgb(png) };
  }
  const channels = png.channels as 1 | 2 | 3 | 4;
  const data =
    png.depth < 8
      ? spread(png.data as Uint8Array, width, height, png.depth)
      : (png.data as Uint8Array | Uint16Array);
  return { width, height, channels, space: channels < 3 ? 'grey' : 'rgb', white, data };
}

/** channels by colour type (W3C PNG, 11.2.1) */
const CHANNELS: Readonly<Record<number, 1 | 2 | 3 | 4 | undefined>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
const PALETTE = 3;

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
async function extras(
  chunks: readonly PngChunk[],
): Promise<{ readonly profile?: Uint8Array; readonly exif?: Uint8Array }> {
  const profile = chunks.find((c) => c.type === 'iCCP');
  const exif = chunks.find((c) => c.type === 'eXIf');
  const unpacked = profile && (await unpackedProfile(profile.body));
  return { ...(unpacked ? { profile: unpacked } : {}), ...(exif ? { exif: exif.body } : {}) };
}

/** bytes that a profile may have */
const LARGEST_PROFILE = 4e6;

async function unpackedProfile(body: Uint8Array): Promise<Uint8Array | undefined> {
  const start = body.indexOf(0) + 2;
  if (start < 2) return undefined;
  const pieces: Uint8Array[] = [];
  let made = 0;
  const isWhole = await unpackZlib([body.subarray(start)], (piece) => {
    pieces.push(piece);
    made += piece.length;
    return made <= LARGEST_PROFILE;
  });
  return isWhole ? joined(pieces) : undefined;
}
