import { fromArrayBuffer, type GeoTIFFImage, type TypedArray } from 'geotiff';
import { Problem } from '../../proof/problem';
import { checkSize, FILE_LIMITS } from '../fileLimits';
import { type Allocate } from '../../raster/raster';
import { type JpegDecoder, type Source } from './source';
import { type TiffBlock, tiffBlocks } from './tiffBlocks';
import { boundTiffPackings, YCBCR } from './tiffPackings';

/** tag of the embedded profile (ICC.1 annex B.2) */
const ICC_PROFILE = 34675;
/** none, LZW, JPEG, deflate, PackBits (TIFF 6.0 and its supplements), LERC, Zstandard (libtiff's registry of codecs) */
const PACKINGS = [1, 5, 7, 8, 32946, 32773, 34887, 50000];
/** what is not read, by name (TIFF 6.0 and libtiff's registry of codecs) */
const UNREAD: Readonly<Record<number, string>> = {
  2: 'fax codes',
  3: 'fax codes',
  4: 'fax codes',
  6: 'JPEG of the old kind',
  22610: 'JPEG XR',
  33003: 'JPEG 2000',
  33005: 'JPEG 2000',
  34712: 'JPEG 2000',
  34892: 'lossy JPEG of raw files',
  34925: 'LZMA',
  34933: 'PNG',
  34934: 'JPEG XR',
  50001: 'WebP',
  50002: 'JPEG XL',
  52546: 'JPEG XL',
};
const PALETTE = 3;
const CMYK = 5;
const JPEG = 7;

/** how many bytes one packed byte can make, by packing: TIFF 6.0, sections 9 and 13; RFC 1951 */
const MOST_MADE: Readonly<Record<number, number>> = { 1: 1, 5: 2731, 8: 1032, 32946: 1032, 32773: 64 };
/** samples a pixel may have */
const MOST_SAMPLES = 12;
/** a tile may be so many times as large as the picture */
const LARGEST_TILE = 4;

boundTiffPackings();

/**
 * Checks that what the tags say can be so: blocks that lie in the file, tiles not far larger than the picture, and no fewer bytes than the
 * picture takes at least. Nothing is unpacked before.
 * @returns where the blocks lie
 */
async function checkBlocks(
  file: string,
  bytes: Uint8Array,
  image: GeoTIFFImage,
  packing: number,
): Promise<TiffBlock[]> {
  const [width, height] = [image.getWidth(), image.getHeight()];
  const [across, down] = [image.getTileWidth(), image.getTileHeight()];
  const samples = image.getSamplesPerPixel();
  if (!(samples >= 1 && samples <= MOST_SAMPLES && across >= 1 && down >= 1))
    throw new Error('no such samples');
  const rows = image.isTiled ? down : Math.min(down, height);
  if (across * rows > LARGEST_TILE * width * height + 1e6)
    throw new Error('a tile far larger than the picture');
  const bits = Array.from({ length: samples }, (_, i) => image.getBitsPerSample(i)).reduce(
    (a, b) => a + b,
    0,
  );
  const least = (width * height * bits) / 8;
  if (least > FILE_LIMITS.pixels * 8)
    throw new Problem(
      `“${file}” unpacks to more than Marsh takes. Export it smaller, or with fewer channels.`,
    );
  const names = image.isTiled
    ? (['TileOffsets', 'TileByteCounts'] as const)
    : (['StripOffsets', 'StripByteCounts'] as const);
  const [offsets, counts] = await Promise.all(names.map((name) => image.fileDirectory.loadValue(name)));
  const list = (v: unknown): number[] =>
    Array.from(typeof v === 'number' ? [v] : (v as ArrayLike<number>), Number);
  const [from, length] = [list(offsets), list(counts)];
  if (from.length !== length.length) throw new Error('blocks without a size');
  if (from.some((at, i) => !(at >= 0 && length[i] >= 0 && at + length[i] <= bytes.length)))
    throw new Error('a block beyond the end');
  const packed = Math.min(
    bytes.length,
    length.reduce((a, b) => a + b, 0),
  );
  if (packed * (MOST_MADE[packing] ?? Infinity) < 0.99 * least) throw new Error('far too short for its size');
  return from.map((at, i) => ({ from: at, bytes: length[i] }));
}

/**
 * Reads the first picture of a TIFF 6.0 file: grey, RGB, palette or CMYK; 1 to 16-bit integers, or floats of 16 and 32 bits taken as
 * scene-linear; strips or tiles, either byte order; uncompressed, LZW, deflate, PackBits, Zstandard, LERC,
 * with predictors; JPEG of 8 bits.
 */
export async function readTiff(
  file: string,
  bytes: Uint8Array,
  decodeJpeg: JpegDecoder,
  allocate?: Allocate,
): Promise<Source> {
  const tiff = await fromArrayBuffer(ownBuffer(bytes));
  const image = await tiff.getImage(0);
  const [width, height] = [image.getWidth(), image.getHeight()];
  checkSize(file, width, height, bytes.length);
  const packing = image.fileDirectory.getValue('Compression') ?? 1;
  if (!PACKINGS.includes(packing))
    throw new Problem(
      `“${file}” is packed with ${UNREAD[packing] ?? `a method that has no name here (${packing})`}, which Marsh does not read in a TIFF. Save it uncompressed, or with LZW or ZIP.`,
    );
  const samples = image.getSamplesPerPixel();
  const blocks = await checkBlocks(file, bytes, image, packing);
  const interpretation = image.fileDirectory.getValue('PhotometricInterpretation') ?? 1;
  const icc: unknown =
    image.fileDirectory.hasTag(ICC_PROFILE) && (await image.fileDirectory.loadValue(ICC_PROFILE));
  const profile = icc ? { profile: Uint8Array.from(icc as ArrayLike<number>) } : {};
  // the decoder of JPEG turns luminance and differences to colours itself
  if (interpretation === PALETTE || (interpretation === YCBCR && packing !== JPEG)) {
    const rgb = (await image.readRGB({ interleave: true })) as TypedArray;
    return { width, height, channels: 3, space: 'rgb', white: 255, data: Uint8Array.from(rgb), ...profile };
  }
  const used = interpretation === CMYK ? 4 : samples >= 3 ? (samples >= 4 ? 4 : 3) : samples === 2 ? 2 : 1;
  const space = interpretation === CMYK ? 'cmyk' : used < 3 ? 'grey' : 'rgb';
  const plain = await tiffBlocks(bytes, image, blocks, used, interpretation === 0, decodeJpeg, allocate);
  if (plain) {
    const white = plain instanceof Float32Array ? 1 : plain instanceof Uint16Array ? 65535 : 255;
    return { width, height, channels: used, space, white, data: plain, ...profile };
  }
  const raw = (await image.readRasters({ interleave: true })) as TypedArray;
  const bits = image.getBitsPerSample();
  const floats = raw instanceof Float32Array || raw instanceof Float64Array;
  if (!floats && bits > 16)
    throw new Problem(`“${file}” holds integers of ${bits} bits. Export it with 16 bits, or as floats.`);
  const white = floats ? 1 : bits > 8 ? 65535 : 255;
  const data = floats
    ? new Float32Array(width * height * used)
    : bits > 8
      ? new Uint16Array(width * height * used)
      : new Uint8Array(width * height * used);
  // integers of 1…7 and 9…15 bits are stretched to the full range; white-is-zero is turned
  const scale = floats ? 1 : white / (2 ** bits - 1);
  const turned = interpretation === 0 && !floats;
  for (let i = 0, o = 0; o < data.length; i += samples)
    for (let c = 0; c < used; c++, o++) data[o] = turned ? white - raw[i + c] * scale : raw[i + c] * scale;
  return { width, height, channels: used, space, white, data, ...profile };
}

/** The bytes as a buffer of their own, copied only where they are a part of something or shared. */
function ownBuffer(bytes: Uint8Array): ArrayBuffer {
  const { buffer } = bytes;
  return buffer instanceof ArrayBuffer && buffer.byteLength === bytes.byteLength
    ? buffer
    : bytes.slice().buffer;
}
