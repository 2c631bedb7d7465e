import { Problem } from '../../proof/problem';
import { checkSize } from '../fileLimits';
import { RARE_FORMATS } from '../rareFormats';
import { type FrameHeader, jpegHeader } from './jpegHeader';
import { type Allocate } from '../../raster/raster';
import { type JpegDecoder, type JpegForm, type Source } from './source';

/** passes over the picture: progressive files have about ten (common practice) */
const MOST_SCANS = 64;
/** pixels from which a picture counts as large */
const LARGE = 10e6;

/**
 * Reads a JPEG: grey, colour or CMYK, baseline or progressive, with or without its end marker.
 * Without the marker the picture must still reach its last row.
 */
export async function readJpeg(
  file: string,
  bytes: Uint8Array,
  decode: JpegDecoder,
  allocate?: Allocate,
): Promise<Source> {
  const header = jpegHeader(bytes);
  if (!header) throw new Error('no frame header');
  checkSize(file, header.width, header.height, bytes.length);
  if (header.scans > MOST_SCANS)
    throw new Problem(
      `“${file}” is stored in ${header.scans} passes over the picture, far more than any camera or program makes. It may be meant to do harm; leave it out.`,
    );
  // every block of 8 × 8 has one bit at least, for its mean (ITU-T T.81, F.1.2)
  if (bytes.length * 8 * 64 < header.width * header.height) throw new Error('far too short for its size');
  const ink = header.components === 4;
  const { width, height, channels, data } = ink
    ? await inksOf(bytes, header)
    : await decode(bytes, formOf(header), allocate);
  if (!header.ended && endsInOneColour(data, width, height, channels)) throw new Error('its end is missing');
  const { profile } = header;
  return {
    ...{ width, height, channels, white: 255, data, space: ink ? 'cmyk' : 'rgb' },
    ...(profile ? { profile } : {}),
  };
}

function formOf({ components, ended, width, height }: FrameHeader): JpegForm {
  if (components !== 3 || !ended) return 'other';
  return width * height > LARGE ? 'largePlain' : 'plain';
}

async function inksOf(bytes: Uint8Array, { width, height, twisted }: FrameHeader) {
  const { readInkJpeg } = await RARE_FORMATS.readInkJpeg();
  const data = await readInkJpeg(bytes, twisted);
  if (data.length !== width * height * 4) throw new Error('sizes differ');
  return { width, height, channels: 4 as const, data };
}

/** Decoders fill what is missing with the last colour they knew: a whole row of blocks of one colour is such a fill. */
function endsInOneColour(
  data: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  channels: number,
): boolean {
  const from = Math.max(0, height - 8) * width * channels;
  for (let i = from + channels; i < data.length; i++) if (data[i] !== data[i - channels]) return false;
  return true;
}
