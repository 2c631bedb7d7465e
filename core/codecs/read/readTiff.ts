import { fromArrayBuffer, type TypedArray } from 'geotiff';
import { Problem } from '../../proof/problem';
import { checkSize } from '../fileLimits';
import { type Source } from './source';

/** tag of the embedded profile (ICC.1 annex B.2) */
const ICC_PROFILE = 34675;
/** none, LZW, JPEG, deflate, PackBits (TIFF 6.0 and its supplements) */
const PACKINGS = [1, 5, 7, 8, 32946, 32773];
const PALETTE = 3;
const CMYK = 5;
const YCBCR = 6;

/**
 * Reads the first picture of a TIFF 6.0 file: grey, RGB, palette or CMYK; 1 to 16-bit integers, or floats of 16 and 32 bits taken as
 * scene-linear; strips or tiles, either byte order; uncompressed, LZW, deflate, PackBits, with predictors.
 */
export async function readTiff(file: string, bytes: Uint8Array): Promise<Source> {
  const tiff = await fromArrayBuffer(bytes.slice().buffer);
  const image = await tiff.getImage(0);
  const [width, height] = [image.getWidth(), image.getHeight()];
  checkSize(file, width, height);
  const packing = image.fileDirectory.getValue('Compression') ?? 1;
  if (!PACKINGS.includes(packing))
    throw new Problem(
      `“${file}” is packed in a way that Marsh does not read. Save it uncompressed, or with LZW or ZIP.`,
    );
  const samples = image.getSamplesPerPixel();
  const interpretation = image.fileDirectory.getValue('PhotometricInterpretation') ?? 1;
  const icc: unknown =
    image.fileDirectory.hasTag(ICC_PROFILE) && (await image.fileDirectory.loadValue(ICC_PROFILE));
  const profile = icc ? { profile: Uint8Array.from(icc as ArrayLike<number>) } : {};
  if (interpretation === PALETTE || interpretation === YCBCR) {
    const rgb = (await image.readRGB({ interleave: true })) as TypedArray;
    return { width, height, channels: 3, space: 'rgb', white: 255, data: Uint8Array.from(rgb), ...profile };
  }
  const raw = (await image.readRasters({ interleave: true })) as TypedArray;
  const bits = image.getBitsPerSample();
  const floats = raw instanceof Float32Array || raw instanceof Float64Array;
  if (!floats && bits > 16)
    throw new Problem(`“${file}” holds integers of ${bits} bits. Export it with 16 bits, or as floats.`);
  const white = floats ? 1 : bits > 8 ? 65535 : 255;
  const used = interpretation === CMYK ? 4 : samples >= 3 ? (samples >= 4 ? 4 : 3) : samples === 2 ? 2 : 1;
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
  const space = interpretation === CMYK ? 'cmyk' : used < 3 ? 'grey' : 'rgb';
  return { width, height, channels: used, space, white, data, ...profile };
}
