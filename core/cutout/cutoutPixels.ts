import { encodeClipped } from '../raster/srgb';
import { type Cutout } from './cutFromDabs';

/** R G B A of a cut-out, sRGB codes, straight alpha. @param white code of white and of full cover */
export function cutoutPixels(
  { width, height, alpha, colour }: Cutout,
  white: 255 | 65535,
): Uint8Array | Uint16Array {
  const out = white === 255 ? new Uint8Array(4 * width * height) : new Uint16Array(4 * width * height);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) out[4 * i + c] = Math.round(white * encodeClipped(colour[3 * i + c]));
    out[4 * i + 3] = Math.round(white * alpha[i]);
  }
  return out;
}
