import { decode as decodeInkJpeg } from 'jpeg-js';
import { checkSize } from '../fileLimits';
import { type FrameHeader, jpegHeader } from './jpegHeader';
import { type RgbaDecoder, type Source } from './source';

/**
 * Reads a JPEG: grey, colour or CMYK, baseline or progressive, with or without its end marker.
 * Without the marker the picture must still reach its last row.
 */
export async function readJpeg(file: string, bytes: Uint8Array, decode: RgbaDecoder): Promise<Source> {
  const header = jpegHeader(bytes);
  if (!header) throw new Error('no frame header');
  checkSize(file, header.width, header.height);
  const { width, height, data } = header.components === 4 ? inkJpeg(bytes) : await decode(bytes);
  if (!header.ended && endsInOneColour(data, width, height)) throw new Error('its end is missing');
  return { width, height, channels: 4, space: 'rgb', white: 255, data, ...profileOf(header) };
}

/** C M Y K is inverted ink in practice; the library multiplies each ink by the black. The profile of an ink space does not apply then. */
function inkJpeg(bytes: Uint8Array): { width: number; height: number; data: Uint8ClampedArray } {
  const { width, height, data } = decodeInkJpeg(bytes, {
    useTArray: true,
    maxMemoryUsageInMB: 2048,
    tolerantDecoding: true,
  });
  return { width, height, data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length) };
}

/** Decoders fill what is missing with the last colour they knew: a whole row of blocks of one colour is such a fill. */
function endsInOneColour(data: Uint8ClampedArray, width: number, height: number): boolean {
  const from = Math.max(0, height - 8) * width * 4;
  for (let i = from + 4; i < data.length; i++) if (data[i] !== data[i - 4]) return false;
  return true;
}

function profileOf({ components, profile }: FrameHeader): { profile?: Uint8Array } {
  return profile && components !== 4 ? { profile } : {};
}
