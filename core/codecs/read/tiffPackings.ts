import { Unzlib } from 'fflate';
import { addDecoder, BaseDecoder } from 'geotiff';

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
    // a string of the table is the one before it and a last byte
    const before = new Uint16Array(1 << LONGEST);
    const last = new Uint8Array(1 << LONGEST);
    const length = new Uint16Array(1 << LONGEST);
    for (let i = 0; i < CLEAR; i++) [last[i], length[i]] = [i, 1];
    let [entries, bits, previous, o, at, held, heldBits] = [END + 1, 9, -1, 0, 0, 0, 0];
    const put = (code: number): number => {
      let p = o + length[code];
      o = p;
      let first = 0;
      for (let c = code, n = length[code]; n > 0; n--, c = before[c]) {
        first = last[c];
        if (--p < out.length) out[p] = first;
      }
      return first;
    };
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
        [entries, bits, previous] = [END + 1, 9, -1];
        continue;
      }
      if (code > entries || (code === entries && previous < 0))
        throw new Error('a code that is not in the table');
      const grows = previous >= 0 && entries < 1 << LONGEST;
      if (grows) {
        before[entries] = previous;
        length[entries] = length[previous] + 1;
      }
      if (code === entries) {
        if (!grows) throw new Error('a code that is not in the table');
        // it ends as it begins
        let first = previous;
        while (length[first] > 1) first = before[first];
        last[entries] = last[first];
        put(code);
      } else {
        const first = put(code);
        if (grows) last[entries] = first;
      }
      if (grows) entries++;
      if (entries >= (1 << bits) - 1 && bits < LONGEST) bits++;
      previous = code;
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

type Tag =
  | 'ImageWidth'
  | 'ImageLength'
  | 'SamplesPerPixel'
  | 'TileWidth'
  | 'TileLength'
  | 'RowsPerStrip'
  | 'PlanarConfiguration'
  | 'Predictor';

/** Puts the bounded forms in the place of the library's own. */
export function boundTiffPackings(): void {
  for (const [cases, name] of PACKINGS)
    addDecoder(
      [...cases],
      () => Promise.resolve(decoderBy(UNPACK[name])),
      async (directory) => {
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
        } as Parameters;
      },
      false,
    );
}
