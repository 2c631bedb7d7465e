import { type EncodedImage } from '../raster/encodedImage';
import { srgbProfile } from './srgbProfile';

/** A JPEG encoder: R G B A to bytes, quality 1…100. Given by the platform. */
export type JpegEncoder = (
  data: Uint8ClampedArray,
  width: number,
  height: number,
  quality: number,
) => Promise<Uint8Array>;

/** Writes a JPEG with the sRGB profile in an APP2 segment (ICC.1 annex B.4) after the file's own first segment. */
export async function encodeJpeg(
  image: EncodedImage,
  quality: number,
  encode: JpegEncoder,
): Promise<Uint8Array> {
  const { width, height, data, white } = image;
  const rgba = new Uint8ClampedArray(width * height * 4);
  const shift = white === 255 ? 1 : 1 / 257;
  for (let i = 0, o = 0; o < rgba.length; i += 3, o += 4) {
    rgba[o] = data[i] * shift;
    rgba[o + 1] = data[i + 1] * shift;
    rgba[o + 2] = data[i + 2] * shift;
    rgba[o + 3] = 255;
  }
  const bytes = await encode(rgba, width, height, quality);
  const profile = srgbProfile();
  const label = [...'ICC_PROFILE'].map((c) => c.charCodeAt(0));
  const length = 2 + label.length + 3 + profile.length;
  const segment = Uint8Array.from([0xff, 0xe2, length >> 8, length & 255, ...label, 0, 1, 1, ...profile]);
  // JFIF wants its APP0 to stay first
  const at = bytes[2] === 0xff && bytes[3] === 0xe0 ? 4 + bytes[4] * 256 + bytes[5] : 2;
  const out = new Uint8Array(bytes.length + segment.length);
  out.set(bytes.subarray(0, at));
  out.set(segment, at);
  out.set(bytes.subarray(at), at + segment.length);
  return out;
}
