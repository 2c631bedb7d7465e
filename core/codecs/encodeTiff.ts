import { type EncodedImage } from '../raster/encodedImage';
import { srgbProfile } from './srgbProfile';

const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const UNDEFINED = 7;

/** Writes an uncompressed RGB TIFF of the image's own depth with the sRGB profile (TIFF 6.0, baseline; ICC.1 annex B.3). */
export function encodeTiff(image: EncodedImage): Uint8Array {
  const { width, height, data, white } = image;
  const bits = white === 255 ? 8 : 16;
  const profile = srgbProfile();
  const pixels = width * height * 3 * (bits / 8);
  const fields: [tag: number, type: number, count: number, value: number][] = [];
  const entries = 13;
  const afterDirectory = 8 + 2 + entries * 12 + 4;
  const [bitsAt, resolutionAt] = [afterDirectory, afterDirectory + 6];
  const profileAt = resolutionAt + 8;
  const pixelsAt = (profileAt + profile.length + 3) & ~3;
  fields.push(
    [256, LONG, 1, width],
    [257, LONG, 1, height],
    [258, SHORT, 3, bitsAt],
    [259, SHORT, 1, 1],
    [262, SHORT, 1, 2],
    [273, LONG, 1, pixelsAt],
    [277, SHORT, 1, 3],
    [278, LONG, 1, height],
    [279, LONG, 1, pixels],
    [282, RATIONAL, 1, resolutionAt],
    [283, RATIONAL, 1, resolutionAt],
    [296, SHORT, 1, 2],
    [34675, UNDEFINED, profile.length, profileAt],
  );
  const out = new Uint8Array(pixelsAt + pixels);
  const view = new DataView(out.buffer);
  view.setUint16(0, 0x4949, true);
  view.setUint16(2, 42, true);
  view.setUint32(4, 8, true);
  view.setUint16(8, entries, true);
  fields.forEach(([tag, type, count, value], i) => {
    const at = 10 + i * 12;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, type, true);
    view.setUint32(at + 4, count, true);
    if (type === SHORT && count === 1) view.setUint16(at + 8, value, true);
    else view.setUint32(at + 8, value, true);
  });
  for (let c = 0; c < 3; c++) view.setUint16(bitsAt + 2 * c, bits, true);
  view.setUint32(resolutionAt, 300, true);
  view.setUint32(resolutionAt + 4, 1, true);
  out.set(profile, profileAt);
  if (bits === 8) out.set(data, pixelsAt);
  else for (let i = 0; i < data.length; i++) view.setUint16(pixelsAt + 2 * i, data[i], true);
  return out;
}
