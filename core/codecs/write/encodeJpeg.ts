import { type EncodedImage } from '../../raster/encodedImage';
import { joined } from '../read/pngChunks';
import { exifBlock, type Metadata } from './exifBlock';
import { srgbProfile } from './srgbProfile';
import { xmpPacket } from './xmpPacket';

/** How the code of a JPEG is laid out: small for delivery, or baseline as cameras write it, a third quicker to make. */
export type JpegForm = 'small' | 'baseline';

/** A JPEG encoder: R G B A to bytes, quality 1…100. Given by the platform. */
export type JpegEncoder = (
  data: Uint8ClampedArray,
  width: number,
  height: number,
  quality: number,
  form: JpegForm,
) => Promise<Uint8Array>;

/** Writes a JPEG with EXIF, XMP and the sRGB profile (ICC.1 annex B.4) after the file's own first segment. */
export async function encodeJpeg(
  image: EncodedImage,
  quality: number,
  encode: JpegEncoder,
  metadata?: Metadata,
  form: JpegForm = 'small',
): Promise<Uint8Array> {
  const { width, height, data, white } = image;
  const rgba = new Uint8ClampedArray(width * height * 4);
  const shift = 255 / white;
  for (let i = 0, o = 0; o < rgba.length; i += 3, o += 4) {
    rgba[o] = data[i] * shift;
    rgba[o + 1] = data[i + 1] * shift;
    rgba[o + 2] = data[i + 2] * shift;
    rgba[o + 3] = 255;
  }
  const bytes = await encode(rgba, width, height, quality, form);
  const xmp = metadata && xmpPacket(metadata);
  const segments = joined([
    ...(metadata ? segment(0xe1, 'Exif\0\0', exifBlock(metadata)) : []),
    ...(xmp ? segment(0xe1, 'http://ns.adobe.com/xap/1.0/\0', xmp) : []),
    ...segment(0xe2, 'ICC_PROFILE\0\x01\x01', srgbProfile()),
  ]);
  // JFIF wants its APP0 to stay first
  const at = bytes[2] === 0xff && bytes[3] === 0xe0 ? 4 + bytes[4] * 256 + bytes[5] : 2;
  return joined([bytes.subarray(0, at), segments, bytes.subarray(at)]);
}

/** One application segment: marker, length, label, content. */
function segment(marker: number, label: string, content: Uint8Array): Uint8Array[] {
  const length = 2 + label.length + content.length;
  const head = [0xff, marker, length >> 8, length & 255, ...[...label].map((c) => c.charCodeAt(0))];
  return [Uint8Array.from(head), content];
}
