import { type EncodedImage } from '../../raster/encodedImage';
import { RARE_FORMATS } from '../rareFormats';
import { encodeJpeg, type JpegEncoder } from './encodeJpeg';
import { encodePng } from './encodePng';
import { encodeTiff } from './encodeTiff';
import { type Metadata } from './exifBlock';

/** Formats of a flat picture. */
export type PictureKind = 'png' | 'tiff' | 'jpeg' | 'exr';

/** Encodes a picture at its own depth (JPEG: 8 bit, EXR: half float light). @param quality of a JPEG, 1…100 */
export async function encodePicture(
  image: EncodedImage,
  kind: PictureKind,
  jpeg: JpegEncoder,
  quality: number,
  metadata?: Metadata,
): Promise<Uint8Array> {
  switch (kind) {
    case 'png':
      return encodePng(image, metadata);
    case 'tiff':
      return encodeTiff(image, metadata);
    case 'jpeg':
      return encodeJpeg(image, quality, jpeg, metadata);
    case 'exr':
      return (await RARE_FORMATS.encodeExr()).encodeExr(image);
  }
}
