import { type EncodedImage } from '../../raster/encodedImage';
import { joined } from '../read/pngChunks';
import { exifBlock, type Metadata } from './exifBlock';
import { srgbProfile } from './srgbProfile';
import { xmpPacket } from './xmpPacket';

/** How a JPEG is made: small for delivery, or baseline as cameras write it, several times quicker to make. */
export type JpegForm = 'small' | 'baseline';

/** A JPEG encoder: R G B to bytes, quality 1…100. Given by the platform. */
export type JpegEncoder = (
  data: Uint8Array,
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
  const { width, height } = image;
  const bytes = await encode(eightBits(image), width, height, quality, form);
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

/** The codes of a picture as whole numbers of 8 bits. */
function eightBits({ data, white }: EncodedImage): Uint8Array {
  if (data instanceof Uint8Array) return data;
  const codes = new Uint8ClampedArray(data.length);
  const shift = 255 / white;
  for (let i = 0; i < codes.length; i++) codes[i] = data[i] * shift;
  return new Uint8Array(codes.buffer);
}

/** One application segment: marker, length, label, content. */
function segment(marker: number, label: string, content: Uint8Array): Uint8Array[] {
  const length = 2 + label.length + content.length;
  const head = [0xff, marker, length >> 8, length & 255, ...[...label].map((c) => c.charCodeAt(0))];
  return [Uint8Array.from(head), content];
}
