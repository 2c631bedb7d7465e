import { jpegHeader } from './jpegHeader';
import { joined } from './pngChunks';
import { type JpegDecoder } from './source';

/** How the JPEG blocks of a TIFF are made up. */
interface JpegBlocks {
  /** quantisation and Huffman tables that all blocks share, a JPEG of its own without a picture */
  readonly tables?: Uint8Array;
  /** samples of a pixel: 1 grey, 3 colour */
  readonly samples: 1 | 3;
  /** colours are stored as luminance and differences */
  readonly isLuma: boolean;
  /** columns of a block, and its rows at most */
  readonly across: number;
  readonly down: number;
}

/** A segment that says how the three components are stored: the length, its name, version and flags; the last byte is 0 R G B, 1 Y Cb Cr */
const colourSegment = (isLuma: boolean): readonly number[] => [
  ...[0xff, 0xee, 0, 14],
  ...Array.from('Adobe', (c) => c.charCodeAt(0)),
  ...[0, 100, 0, 0, 0, 0],
  isLuma ? 1 : 0,
];
/** segments that say what colours mean, which in a TIFF its tags do */
const COLOUR_MARKERS = [0xe0, 0xee];

/**
 * Decodes a strip or tile that is a JPEG with shared tables (TIFF technical note 2 of 1995).
 * @returns samples beside each other, as wide as a block
 * @throws Error when it is damaged, or not of the block's size
 */
export async function decodeTiffJpeg(
  decode: JpegDecoder,
  block: Uint8Array,
  { tables, samples, isLuma, across, down }: JpegBlocks,
): Promise<Uint8Array> {
  // between the markers that start and end a picture
  const shared = tables && tables.length > 4 ? tables.subarray(2, tables.length - 2) : new Uint8Array(0);
  const own = withoutColourSegments(block);
  const colours = samples === 3 ? colourSegment(isLuma) : [];
  const whole = joined([Uint8Array.of(0xff, 0xd8, ...colours), shared, own]);
  const header = jpegHeader(whole);
  if (!header?.ended || header.components !== samples || header.width !== across || header.height > down)
    throw new Error('a block of another size than the tags say');
  const { width, height, channels, data } = await decode(whole, samples === 3 ? 'plain' : 'other');
  if (channels === samples) return new Uint8Array(data.buffer, data.byteOffset, data.length);
  const out = new Uint8Array(width * height * samples);
  for (let i = 0, o = 0; o < out.length; i += channels)
    for (let c = 0; c < samples; c++, o++) out[o] = data[i + c];
  return out;
}

/** What follows the start marker, without the segments that say what colours mean. */
function withoutColourSegments(block: Uint8Array): Uint8Array {
  const kept: Uint8Array[] = [];
  let p = 2;
  while (p + 4 <= block.length && block[p] === 0xff && block[p + 1] !== 0xda) {
    const next = p + 2 + block[p + 2] * 256 + block[p + 3];
    if (!COLOUR_MARKERS.includes(block[p + 1])) kept.push(block.subarray(p, next));
    p = next;
  }
  kept.push(block.subarray(p));
  return joined(kept);
}
