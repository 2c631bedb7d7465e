import {
  ascii,
  directorySize,
  long,
  RATIONAL,
  shorts,
  type TiffField,
  writeDirectory,
} from '@/core/codecs/write/tiffStructure';
import { writeTiffHeader } from '@/core/codecs/write/exifBlock';

/** CIE XYZ of D65, the white of the made-up camera. */
const WHITE = [0.9505, 1, 1.0891] as const;

/**
 * A small DNG (DNG 1.4.0.0: TIFF with a colour filter array) of a camera whose three channels are X, Y and Z: what a
 * developer must make of it follows from the CIE definitions alone.
 * @param linear scene light of a pixel, linear sRGB 0…1
 */
export function cameraRaw(
  width: number,
  height: number,
  linear: (x: number, y: number) => readonly [number, number, number],
): Uint8Array {
  const toXyz = [
    [0.4124, 0.3576, 0.1805],
    [0.2126, 0.7152, 0.0722],
    [0.0193, 0.1192, 0.9505],
  ];
  const thousandths = (...values: number[]): number[] =>
    values.flatMap((v) => [Math.round(v * 10000), 10000]);
  const fields = (at: number): TiffField[] => [
    long(254, 0),
    long(256, width),
    long(257, height),
    shorts(258, 16),
    shorts(259, 1),
    shorts(262, 32803),
    ascii(271, 'Fen'),
    ascii(272, 'Fen stand-in'),
    long(273, at),
    shorts(274, 1),
    shorts(277, 1),
    long(278, height),
    long(279, width * height * 2),
    shorts(33421, 2, 2),
    { tag: 33422, type: 1, values: [0, 1, 1, 2] },
    { tag: 50706, type: 1, values: [1, 4, 0, 0] },
    ascii(50708, 'Fen stand-in'),
    long(50714, 0),
    long(50717, 65535),
    { tag: 50721, type: RATIONAL, values: thousandths(1, 0, 0, 0, 1, 0, 0, 0, 1) },
    { tag: 50728, type: RATIONAL, values: thousandths(...WHITE) },
    shorts(50778, 21),
  ];
  const at = 8 + directorySize(fields(0));
  const out = new Uint8Array(at + width * height * 2);
  const view = new DataView(out.buffer);
  writeTiffHeader(view);
  writeDirectory(view, 8, fields(at));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const channel = y % 2 === 0 ? x % 2 : 1 + (x % 2);
      const rgb = linear(x, y);
      const value = toXyz[channel].reduce((sum, k, i) => sum + k * rgb[i], 0);
      view.setUint16(at + (y * width + x) * 2, Math.min(65535, value * 55000), true);
    }
  return out;
}
