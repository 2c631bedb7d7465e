import { type CaptureFacts } from '../capture/captureFacts';
import { encodeAll, encodeSource } from '../colour/encodeSource';
import { type ProfileOpener, ROMM_D65_TO_SRGB } from '../colour/profile';
import { Problem, Unloaded } from '../proof/problem';
import { cutOut } from '../raster/cutOut';
import { type EncodedImage } from '../raster/encodedImage';
import { type Allocate } from '../raster/raster';
import { checkSize, FILE_LIMITS } from './fileLimits';
import { RARE_FORMATS } from './rareFormats';
import { type FileKind, fileKind } from './read/fileKind';
import { orientImage } from './read/orientImage';
import { readAvif } from './read/readAvif';
import { readFacts } from './read/readFacts';
import { readJpeg } from './read/readJpeg';
import { readJxl } from './read/readJxl';
import { readPng } from './read/readPng';
import { readWebp } from './read/readWebp';
import { type JpegDecoder, type RawDecoder, type RgbaDecoder, type Source } from './read/source';

/** What reading needs from where it runs: decoders that bring their own way to load, and a colour engine. */
export interface Decoders {
  readonly decodeJpeg: JpegDecoder;
  readonly decodeWebp: RgbaDecoder;
  readonly decodeAvif: RgbaDecoder;
  readonly decodeJxl: RgbaDecoder;
  /** absent where raw files cannot be developed */
  readonly decodeRaw?: RawDecoder;
  readonly openProfile: ProfileOpener;
  /** where pictures lie; in shared memory when left out */
  readonly allocate?: Allocate;
}

export interface DecodedFile {
  readonly image: EncodedImage;
  readonly facts: CaptureFacts;
  /** bits a sample; 32 for floats */
  readonly depth: 8 | 16 | 32;
}

/** Formats in words, for sentences. */
export const READABLE = 'JPEG, PNG, TIFF, WebP, AVIF, JPEG XL, OpenEXR, Radiance HDR or camera raw';

/**
 * Decodes a picture file to an upright, sRGB-encoded picture and its capture facts.
 * @throws Problem for anything that is not such a file, is damaged, or is out of bounds
 */
export async function decodeImage(file: string, bytes: Uint8Array, decoders: Decoders): Promise<DecodedFile> {
  if (bytes.length === 0) throw new Problem(`“${file}” is empty. Copy it from the card again.`);
  if (bytes.length > FILE_LIMITS.bytes)
    throw new Problem(`“${file}” is larger than ${FILE_LIMITS.bytes / 1e6} MB. Export it smaller.`);
  const kind = fileKind(file, bytes);
  if (!kind)
    throw new Problem(
      `“${file}” is not a picture that Marsh reads (${READABLE}). Export it as one of these.`,
    );
  try {
    if (kind === 'raw') return await developed(file, bytes, decoders);
    const source = await READERS[kind](file, bytes, decoders);
    const { facts, orientation } = await readFacts(source.exif ?? bytes);
    const profile = source.profile && (await decoders.openProfile(source.profile));
    const { data, white, channels } = encodeSource(source, profile);
    const turn = source.upright ? 1 : orientation;
    const image = orientImage(data, source.width, source.height, channels, white, turn, decoders.allocate);
    const opacity = opacityOf(source);
    const shown = opacity
      ? cutOut(image, firstOfThree(orientImage(opacity, source.width, source.height, 3, 255, turn).data))
      : image;
    return { image: shown, facts, depth: white === 255 ? 8 : white === 65535 ? 16 : 32 };
  } catch (thrown) {
    if (thrown instanceof Problem) throw thrown;
    if (thrown instanceof Unloaded)
      throw new Problem(
        `“${file}” could not be read, because ${thrown.message}. The file may be whole: connect to the network where Marsh came from, then drop it again.`,
      );
    // a worker with less behind it may have the memory
    if (thrown instanceof RangeError && /alloc|memory/i.test(thrown.message)) throw thrown;
    throw new Problem(
      `“${file}” is damaged and cannot be decoded. Copy it from the card again, or leave it out.`,
    );
  }
}

/** Opacity of a source that has one, 0…255, every value three times; undefined where all of it is opaque. */
function opacityOf({ channels, space, white, data }: Source): Uint8Array | undefined {
  if (space === 'cmyk' || channels === 1 || channels === 3) return undefined;
  // most pictures are opaque all over, and say so at a look
  const opaque = white * OPAQUE;
  let clear = false;
  for (let i = channels - 1; i < data.length && !clear; i += channels) clear = !(data[i] >= opaque);
  if (!clear) return undefined;
  const n = data.length / channels;
  const out = new Uint8Array(n * 3);
  for (let i = 0; i < n; i++) {
    const v = Math.round((255 * Math.max(0, Math.min(white, data[i * channels + channels - 1]))) / white);
    out.fill(v, 3 * i, 3 * i + 3);
  }
  return out;
}

/** share of white from which opacity rounds to 255 of 255 */
const OPAQUE = 254.5 / 255;

const firstOfThree = (data: EncodedImage['data']): Uint8Array =>
  Uint8Array.from({ length: data.length / 3 }, (_, i) => data[3 * i]);

type Reader = (file: string, bytes: Uint8Array, decoders: Decoders) => Source | Promise<Source>;

const READERS: Readonly<Record<Exclude<FileKind, 'raw'>, Reader>> = {
  jpeg: (file, bytes, d) => readJpeg(file, bytes, d.decodeJpeg, d.allocate),
  png: (file, bytes, d) => readPng(file, bytes, d.allocate),
  tiff: async (file, bytes, d) =>
    (await RARE_FORMATS.readTiff()).readTiff(file, bytes, d.decodeJpeg, d.allocate),
  webp: (file, bytes, d) => readWebp(file, bytes, d.decodeWebp),
  avif: (file, bytes, d) => readAvif(file, bytes, d.decodeAvif),
  jxl: (file, bytes, d) => readJxl(file, bytes, d.decodeJxl),
  exr: async (file, bytes) => (await RARE_FORMATS.readExr()).readExr(file, bytes),
  hdr: async (file, bytes) => (await RARE_FORMATS.readHdr()).readHdr(file, bytes),
};

async function developed(
  file: string,
  bytes: Uint8Array,
  { decodeRaw: develop, allocate }: Decoders,
): Promise<DecodedFile> {
  if (!develop)
    throw new Problem(
      `“${file}” is a camera raw file, which only the application develops. Open it there, or export it as 16-bit TIFF.`,
    );
  const { width, height, data } = await develop(bytes);
  checkSize(file, width, height);
  const m = ROMM_D65_TO_SRGB;
  const codes = encodeAll({ width, height }, (i, rgb) => {
    const [r, g, b] = [data[i * 3] / 65535, data[i * 3 + 1] / 65535, data[i * 3 + 2] / 65535];
    for (let k = 0; k < 3; k++) rgb[k] = m[k * 3] * r + m[k * 3 + 1] * g + m[k * 3 + 2] * b;
  });
  const { facts } = await readFacts(bytes);
  // the developer turns the picture upright itself
  const image = orientImage(codes.data, width, height, 3, codes.white, 1, allocate);
  return { image, facts, depth: codes.white === 65535 ? 16 : 32 };
}
