import { type GeoTIFFImage } from 'geotiff';
import { type Allocate, sharedBytes } from '../../raster/raster';
import { type JpegDecoder } from './source';
import { blockDecoder, isInOwnOrder } from './tiffPackings';

/** Where a strip or tile lies in the file. */
export interface TiffBlock {
  readonly from: number;
  readonly bytes: number;
}

type Samples = Uint8Array | Uint16Array | Float32Array;

const UNSIGNED = 1;
const FLOAT = 3;

const KINDS = {
  8: { format: UNSIGNED, made: (n: number, allocate: Allocate) => new Uint8Array(allocate(n)) },
  16: { format: UNSIGNED, made: (n: number, allocate: Allocate) => new Uint16Array(allocate(2 * n)) },
  32: { format: FLOAT, made: (n: number, allocate: Allocate) => new Float32Array(allocate(4 * n)) },
} as const;

const SEPARATE = 2;

/**
 * The samples of a TIFF, interleaved, in shared memory: unpacked block by block, so that besides the picture only one strip or tile is held.
 * @param blocks strips or tiles, in the order of the file's tables
 * @param used channels that are taken, the first ones
 * @param isTurned white is stored as zero
 * @returns undefined for what is rare: samples of other sizes than 8 and 16 bits and floats of 32, JPEG of four components inside
 * @throws Error when a block is too short or damaged
 */
export async function tiffBlocks(
  bytes: Uint8Array,
  image: GeoTIFFImage,
  blocks: readonly TiffBlock[],
  used: number,
  isTurned: boolean,
  decodeJpeg: JpegDecoder,
  allocate: Allocate = sharedBytes,
): Promise<Samples | undefined> {
  const [width, height, samples] = [image.getWidth(), image.getHeight(), image.getSamplesPerPixel()];
  const bits = image.getBitsPerSample() as keyof typeof KINDS;
  const kind = KINDS[bits];
  const isEven = Array.from({ length: samples }, (_, i) => i).every(
    (i) => image.getBitsPerSample(i) === bits && image.getSampleFormat(i) === kind?.format,
  );
  const decode = isEven ? await blockDecoder(image.fileDirectory, decodeJpeg) : undefined;
  if (!decode) return undefined;
  const littleEndian = image.littleEndian || isInOwnOrder(image.fileDirectory);
  const out: Samples = kind.made(width * height * used, allocate);
  const [across, down] = [image.getTileWidth(), image.getTileHeight()];
  const columns = Math.ceil(width / across);
  const perPlane = columns * Math.ceil(height / down);
  const separate = image.planarConfiguration === SEPARATE;
  const inBlock = separate ? 1 : samples;
  if (blocks.length < perPlane * (separate ? used : 1)) throw new Error('blocks are missing');
  for (let b = 0; b < perPlane * (separate ? used : 1); b++) {
    const plane = Math.floor(b / perPlane);
    const [x0, y0] = [((b % perPlane) % columns) * across, Math.floor((b % perPlane) / columns) * down];
    const [w, h] = [Math.min(across, width - x0), Math.min(down, height - y0)];
    const { from, bytes: length } = blocks[b];
    // a block of no bytes is black
    if (length === 0) continue;
    const made = await decode(bytes.subarray(from, from + length));
    const values = samplesOf(made, bits, littleEndian);
    if (values.length < ((h - 1) * across + w) * inBlock) throw new Error('a block is too short');
    for (let y = 0; y < h; y++) {
      const start = y * across * inBlock;
      const o = ((y0 + y) * width + x0) * used + plane;
      if (inBlock === used) out.set(values.subarray(start, start + w * used), o);
      else
        for (let x = 0, i = start, to = o; x < w; x++, i += inBlock, to += used)
          for (let c = 0; c < (separate ? 1 : used); c++) out[to + c] = values[i + c];
    }
  }
  if (isTurned && bits !== 32) for (let i = 0; i < out.length; i++) out[i] = 2 ** bits - 1 - out[i];
  return out;
}

/** The bytes of a block as samples in this machine's order, which is little-endian wherever browsers run. */
function samplesOf(made: ArrayBufferLike, bits: keyof typeof KINDS, littleEndian: boolean): Samples {
  const count = Math.floor((made.byteLength * 8) / bits);
  if (bits === 8) return new Uint8Array(made, 0, count);
  const size = bits / 8;
  if (!littleEndian) {
    const whole = new Uint8Array(made);
    for (let i = 0; i + size <= whole.length; i += size) whole.subarray(i, i + size).reverse();
  }
  return bits === 16 ? new Uint16Array(made, 0, count) : new Float32Array(made, 0, count);
}
