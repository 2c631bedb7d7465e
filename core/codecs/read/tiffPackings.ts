import { Unzlib } from 'fflate';
import { addDecoder, BaseDecoder, type GeoTIFFImage } from 'geotiff';

/** What unpacking a strip or tile needs to know; the library's own parameters and the size of the picture. */
type Parameters = ConstructorParameters<typeof BaseDecoder>[0] & {
  readonly imageHeight?: number;
  readonly samples?: number;
};

/** bytes fed to the inflater at once: it may make a thousand times as many of them */
const STEP = 16384;
/** LZW codes: clear the table, end of information, longest code in bits (TIFF 6.0, section 13) */
const CLEAR = 256;
const END = 257;
const LONGEST = 12;

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
  deflate: (packed: Uint8Array, out: Uint8Array): number => {
    let o = 0;
    const unzlib = new Unzlib((piece) => {
      if (o + piece.length > out.length + STEP) throw new Error('a block is larger than it may be');
      out.set(piece.subarray(0, out.length - o), o);
      o = Math.min(out.length, o + piece.length);
    });
    for (let at = 0; at < packed.length && o < out.length; at += STEP)
      unzlib.push(packed.subarray(at, at + STEP), at + STEP >= packed.length);
    return o;
  },
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

const PACKINGS: readonly (readonly [readonly number[], keyof typeof UNPACK])[] = [
  [[5], 'lzw'],
  [[8, 32946], 'deflate'],
  [[32773], 'packBits'],
];

type Directory = GeoTIFFImage['fileDirectory'];
type Tag =
  | 'ImageWidth'
  | 'ImageLength'
  | 'SamplesPerPixel'
  | 'TileWidth'
  | 'TileLength'
  | 'RowsPerStrip'
  | 'PlanarConfiguration'
  | 'Predictor';

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
  };
}

/** Puts the bounded forms in the place of the library's own. */
export function boundTiffPackings(): void {
  for (const [cases, name] of PACKINGS)
    addDecoder([...cases], () => Promise.resolve(decoderBy(UNPACK[name])), parametersOf, false);
}

class Unpacked extends BaseDecoder {
  override decodeBlock(bytes: ArrayBufferLike): ArrayBufferLike {
    return bytes;
  }
}

/** What unpacks the strips or tiles of a file, one after the other; undefined for JPEG inside. */
export async function blockDecoder(directory: Directory): Promise<BaseDecoder | undefined> {
  const packing = directory.getValue('Compression') ?? 1;
  const [, name] = PACKINGS.find(([cases]) => cases.includes(packing)) ?? [];
  const Decoder = name ? decoderBy(UNPACK[name]) : packing === 1 ? Unpacked : undefined;
  return Decoder && new Decoder(await parametersOf(directory));
}
