import { Unzlib } from 'fflate';
import { Decompress } from 'fzstd';
import { addDecoder, BaseDecoder, type GeoTIFFImage } from 'geotiff';
import Lerc from 'lerc';
import { type JpegDecoder } from './source';
import { decodeTiffJpeg } from './tiffJpeg';

/** What unpacking a strip or tile needs to know; the library's own parameters and the size of the picture. */
type Parameters = ConstructorParameters<typeof BaseDecoder>[0] & {
  readonly imageHeight?: number;
  readonly samples?: number;
  /** of LERC: version, and what its blob is packed with once more */
  readonly lerc?: readonly number[];
};

/** bytes fed to the inflater at once: it may make a thousand times as many of them */
const STEP = 16384;
/** LZW codes: clear the table, end of information, longest code in bits (TIFF 6.0, section 13) */
const CLEAR = 256;
const END = 257;
const LONGEST = 12;

interface Inflater {
  push: (piece: Uint8Array, isLast: boolean) => unknown;
}

/** Feeds an inflater piece by piece and takes what it makes, until a block is full. */
function inPieces(
  inflater: (take: (piece: Uint8Array) => void) => Inflater,
  packed: Uint8Array,
  out: Uint8Array,
): number {
  let o = 0;
  const feed = inflater((piece) => {
    if (o + piece.length > out.length + STEP) throw new Error('a block is larger than it may be');
    out.set(piece.subarray(0, out.length - o), o);
    o = Math.min(out.length, o + piece.length);
  });
  for (let at = 0; at < packed.length && o < out.length; at += STEP)
    feed.push(packed.subarray(at, at + STEP), at + STEP >= packed.length);
  return o;
}

/**
 * Unpacking of TIFF blocks that never makes more bytes than a block of its size has: a packed block is hostile until it is unpacked.
 * Each gives how many bytes it made.
 * @throws Error when the block is damaged or meant to hold far more
 */
export const UNPACK = {
  /** PackBits (TIFF 6.0, section 9) */
  packBits: (packed: Uint8Array, out: Uint8Array): number => {
    let o = 0;
    for (let i = 0; i < packed.length && o < out.length;) {
      const head = packed[i++];
      if (head === 128) continue;
      const count = head < 128 ? head + 1 : 257 - head;
      if (head < 128) {
        out.set(packed.subarray(i, i + Math.min(count, out.length - o)), o);
        i += count;
      } else out.fill(packed[i++], o, o + count);
      o += count;
    }
    return Math.min(o, out.length);
  },
  /** zlib (TIFF technical note 2 of 1995) */
  deflate: (packed: Uint8Array, out: Uint8Array): number => inPieces((take) => new Unzlib(take), packed, out),
  /** Zstandard (RFC 8878) */
  zstd: (packed: Uint8Array, out: Uint8Array): number =>
    inPieces((take) => new Decompress(take), packed, out),
  /** LZW (TIFF 6.0, section 13) */
  lzw: (packed: Uint8Array, out: Uint8Array): number => {
    // a string of the table is one that was written, and the byte after it: it is kept by where it lies
    const from = new Uint32Array(1 << LONGEST);
    const length = new Uint16Array(1 << LONGEST);
    let [entries, bits, at, held, heldBits, o] = [END + 1, 9, 0, 0, 0, 0];
    // where the string before lies, and how long it is; none after the table was cleared
    let [previous, previousLength] = [0, 0];
    while (o < out.length) {
      while (heldBits < bits) {
        if (at >= packed.length) return Math.min(o, out.length);
        held = ((held << 8) | packed[at++]) & 0xffffff;
        heldBits += 8;
      }
      const code = (held >> (heldBits - bits)) & ((1 << bits) - 1);
      heldBits -= bits;
      if (code === END) break;
      if (code === CLEAR) {
        [entries, bits, previousLength] = [END + 1, 9, 0];
        continue;
      }
      const grows = previousLength > 0 && entries < 1 << LONGEST;
      if (grows) {
        from[entries] = previous;
        length[entries] = previousLength + 1;
        entries++;
      }
      const start = o;
      if (code < CLEAR) out[o++] = code;
      else {
        if (code >= entries) throw new Error('a code that is not in the table');
        // one that was just made ends as it begins: its last byte is the first that is written here
        const end = Math.min(out.length, o + length[code]);
        for (let p = from[code]; o < end; p++, o++) out[o] = out[p];
      }
      previous = start;
      previousLength = o - start;
      if (entries >= (1 << bits) - 1 && bits < LONGEST) bits++;
    }
    return Math.min(o, out.length);
  },
} as const;

/** Bytes of a whole strip or tile. */
function blockBytes({
  tileWidth,
  tileHeight,
  bitsPerSample,
  planarConfiguration,
  imageHeight,
  samples = 1,
}: Parameters): number {
  const bits = typeof bitsPerSample === 'number' ? [bitsPerSample] : Array.from(bitsPerSample);
  const ofPixel =
    planarConfiguration === 2
      ? bits[0]
      : bits.length > 1
        ? bits.reduce((a, b) => a + b, 0)
        : bits[0] * samples;
  return Math.ceil((tileWidth * ofPixel) / 8) * Math.min(tileHeight, imageHeight ?? tileHeight);
}

const decoderBy = (unpack: (packed: Uint8Array, out: Uint8Array) => number): typeof BaseDecoder =>
  class extends BaseDecoder {
    override decodeBlock(packed: ArrayBufferLike): ArrayBufferLike {
      const out = new Uint8Array(blockBytes(this.parameters));
      const made = unpack(new Uint8Array(packed), out);
      // one that is cut short must not look whole
      return made === out.length ? out.buffer : out.slice(0, made).buffer;
    }
  };

/** what a LERC blob may take beyond its samples: header and mask */
const LERC_EXTRA = 65536;
const LERC_PACKED = [undefined, 'deflate', 'zstd'] as const;

/** Limited error raster compression, version 2 (Esri, specification of 2017), its blob deflated or not. */
class LercDecoder extends BaseDecoder {
  override decodeBlock(packed: ArrayBufferLike): ArrayBufferLike {
    const { lerc = [], tileWidth, planarConfiguration, samples = 1 } = this.parameters as Parameters;
    const most = blockBytes(this.parameters);
    const outer = LERC_PACKED[lerc[1] ?? 0];
    let blob = new Uint8Array(packed);
    if (outer) {
      const room = new Uint8Array(most + LERC_EXTRA);
      blob = room.slice(0, UNPACK[outer](blob, room));
    }
    checkLerc(blob, tileWidth, most);
    const { pixels } = Lerc.decode(blob.buffer, { returnPixelInterleavedDims: planarConfiguration !== 2 });
    if (pixels.length !== 1) throw new Error('more than one picture in a block');
    const inBlock = planarConfiguration === 2 ? 1 : samples;
    const [made] = pixels;
    const { bitsPerSample } = this.parameters;
    const bits = typeof bitsPerSample === 'number' ? bitsPerSample : bitsPerSample[0];
    if (made.BYTES_PER_ELEMENT * 8 !== bits || made.length % inBlock !== 0)
      throw new Error('samples of another size than the tags say');
    return made.buffer;
  }
}

/** @throws Error for a blob that is none of version 2, or whose header wants more than its block holds */
function checkLerc(blob: Uint8Array, tileWidth: number, most: number): void {
  const text = String.fromCharCode(...blob.subarray(0, 6));
  if (text !== 'Lerc2 ' || blob.length < 26) throw new Error('no such blob');
  const header = new DataView(blob.buffer, blob.byteOffset);
  const version = header.getInt32(6, true);
  const at = version >= 3 ? 14 : 10;
  const [rows, columns] = [header.getInt32(at, true), header.getInt32(at + 4, true)];
  const depth = version >= 4 ? header.getInt32(at + 8, true) : 1;
  if (!(columns >= 1 && rows >= 1 && depth >= 1 && columns <= tileWidth && columns * rows * depth <= most))
    throw new Error('a block is larger than it may be');
}

const PACKINGS: readonly (readonly [readonly number[], keyof typeof UNPACK])[] = [
  [[5], 'lzw'],
  [[8, 32946], 'deflate'],
  [[32773], 'packBits'],
  [[50000], 'zstd'],
];
const LERC = 34887;
const JPEG = 7;
/** photometric interpretation: luminance and colour differences */
export const YCBCR = 6;

type Directory = GeoTIFFImage['fileDirectory'];
type Tag =
  | 'ImageWidth'
  | 'ImageLength'
  | 'SamplesPerPixel'
  | 'TileWidth'
  | 'TileLength'
  | 'RowsPerStrip'
  | 'PlanarConfiguration'
  | 'Predictor'
  | 'LercParameters';

/** What unpacking needs to know, out of the tags. */
async function parametersOf(directory: Directory): Promise<Parameters> {
  const value = async (tag: Tag): Promise<number> => Number((await directory.loadValue(tag)) ?? 0);
  const [width, imageHeight] = [await value('ImageWidth'), await value('ImageLength')];
  const tiled = !directory.hasTag('StripOffsets');
  return {
    imageHeight: tiled ? undefined : imageHeight,
    samples: (await value('SamplesPerPixel')) || 1,
    tileWidth: tiled ? await value('TileWidth') : width,
    tileHeight: tiled ? await value('TileLength') : (await value('RowsPerStrip')) || imageHeight,
    planarConfiguration: (await value('PlanarConfiguration')) || 1,
    bitsPerSample: (await directory.loadValue('BitsPerSample')) ?? 1,
    predictor: (await value('Predictor')) || 1,
    ...(directory.hasTag('LercParameters')
      ? { lerc: Array.from((await directory.loadValue('LercParameters')) as ArrayLike<number>) }
      : {}),
  };
}

/** Puts the bounded forms in the place of the library's own. */
export function boundTiffPackings(): void {
  for (const [cases, name] of PACKINGS)
    addDecoder([...cases], () => Promise.resolve(decoderBy(UNPACK[name])), parametersOf, false);
  addDecoder([LERC], () => Promise.resolve(LercDecoder), parametersOf, false);
}

class Unpacked extends BaseDecoder {
  override decodeBlock(bytes: ArrayBufferLike): ArrayBufferLike {
    return bytes;
  }
}

/** Whether blocks are unpacked to samples in this machine's order, whatever the file's is. */
export const isInOwnOrder = (directory: Directory): boolean => directory.getValue('Compression') === LERC;

/** Unpacks one strip or tile. */
export type BlockDecoder = (packed: Uint8Array) => Promise<ArrayBufferLike>;

/**
 * What unpacks the strips or tiles of a file, one after the other.
 * @returns undefined for what is rare: JPEG of four components
 */
export async function blockDecoder(
  directory: Directory,
  decodeJpeg: JpegDecoder,
): Promise<BlockDecoder | undefined> {
  const packing = directory.getValue('Compression') ?? 1;
  const parameters = await parametersOf(directory);
  if (packing === JPEG) return jpegDecoder(directory, parameters, decodeJpeg);
  const [, name] = PACKINGS.find(([cases]) => cases.includes(packing)) ?? [];
  const Decoder = name
    ? decoderBy(UNPACK[name])
    : packing === 1
      ? Unpacked
      : packing === LERC
        ? LercDecoder
        : undefined;
  const decoder = Decoder && new Decoder(parameters);
  return decoder && ((packed) => Promise.resolve(decoder.decode(packed.slice().buffer)));
}

async function jpegDecoder(
  directory: Directory,
  { samples = 1, planarConfiguration, tileWidth, tileHeight }: Parameters,
  decodeJpeg: JpegDecoder,
): Promise<BlockDecoder | undefined> {
  const inBlock = planarConfiguration === 2 ? 1 : samples;
  if (inBlock !== 1 && inBlock !== 3) return undefined;
  const tables: unknown = directory.hasTag('JPEGTables')
    ? await directory.loadValue('JPEGTables')
    : undefined;
  const form = {
    ...(tables ? { tables: Uint8Array.from(tables as ArrayLike<number>) } : {}),
    samples: inBlock,
    isLuma: directory.getValue('PhotometricInterpretation') === YCBCR,
    across: tileWidth,
    down: tileHeight,
  } as const;
  return async (packed) => (await decodeTiffJpeg(decodeJpeg, packed, form)).slice().buffer;
}
