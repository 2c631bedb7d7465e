import { type EncodedImage } from '../../raster/encodedImage';
import { srgbToLinear } from '../../raster/srgb';
import { captureFields, mainFields, type Metadata, writeTiffHeader } from './exifBlock';
import { srgbProfile } from './srgbProfile';
import {
  bytes,
  directorySize,
  long,
  rational,
  shorts,
  type TiffField,
  writeDirectory,
} from './tiffStructure';
import { xmpPacket } from './xmpPacket';

/** Whether this machine lays numbers down as the file does. */
const LITTLE_ENDIAN = new Uint8Array(new Uint16Array([1]).buffer)[0] === 1;

/**
 * Writes an uncompressed RGB TIFF of the image's own depth (TIFF 6.0, baseline; ICC.1 annex B.3). Integers are sRGB and carry its
 * profile, unless their codes are said to be linear light; floats are written scene-linear, unbounded, with the linear profile.
 * @param codes what the integers of the image are
 */
export function encodeTiff(
  image: EncodedImage,
  metadata: Metadata = { disclosed: false },
  codes: 'srgb' | 'linear' = 'srgb',
): Uint8Array {
  const { width, height, data, white } = image;
  const bits = white === 255 ? 8 : white === 65535 ? 16 : 32;
  const profile = srgbProfile(white === 1 ? 'linear' : codes);
  const pixels = width * height * 3 * (bits / 8);
  const xmp = xmpPacket(metadata);
  const capture = captureFields(metadata);
  const main = (pixelsAt: number, captureAt: number): TiffField[] => [
    ...mainFields(metadata),
    long(256, width),
    long(257, height),
    shorts(258, bits, bits, bits),
    shorts(259, 1),
    shorts(262, 2),
    long(273, pixelsAt),
    shorts(277, 3),
    long(278, height),
    long(279, pixels),
    rational(282, 300),
    rational(283, 300),
    shorts(284, 1),
    shorts(296, 2),
    ...(bits === 32 ? [shorts(339, 3, 3, 3)] : []),
    ...(xmp ? [{ tag: 700, type: 1, values: xmp }] : []),
    bytes(34675, profile),
    long(0x8769, captureAt),
  ];
  const captureAt = 8 + directorySize(main(0, 0));
  const pixelsAt = (captureAt + directorySize(capture) + 3) & ~3;
  const out = new Uint8Array(pixelsAt + pixels);
  const view = new DataView(out.buffer);
  writeTiffHeader(view);
  writeDirectory(view, 8, main(pixelsAt, captureAt));
  writeDirectory(view, captureAt, capture);
  if (bits === 8) out.set(data, pixelsAt);
  // pixels begin at a multiple of four
  else if (bits === 16 && LITTLE_ENDIAN) new Uint16Array(out.buffer, pixelsAt, data.length).set(data);
  else if (bits === 16) for (let i = 0; i < data.length; i++) view.setUint16(pixelsAt + 2 * i, data[i], true);
  else for (let i = 0; i < data.length; i++) view.setFloat32(pixelsAt + 4 * i, srgbToLinear(data[i]), true);
  return out;
}
