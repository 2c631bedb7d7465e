import { type EncodedImage } from '../../raster/encodedImage';
import { RARE_FORMATS } from '../rareFormats';
import { encodeJpeg, type JpegEncoder } from './encodeJpeg';
import { encodeAlphaPng, encodePng } from './encodePng';
import { encodeTiff } from './encodeTiff';
import { type Metadata } from './exifBlock';

/** Formats of a flat picture. */
export type PictureKind = 'png' | 'tiff' | 'jpeg' | 'exr';

/** Encodes a picture at its own depth (JPEG: 8 bit, EXR: half float light); a PNG keeps the opacity of a cut-out. @param quality of a JPEG, 1…100 */
export async function encodePicture(
  image: EncodedImage,
  kind: PictureKind,
  jpeg: JpegEncoder,
  quality: number,
  metadata?: Metadata,
): Promise<Uint8Array> {
  switch (kind) {
    case 'png':
      return image.alpha
        ? encodeAlphaPng(withAlpha(image), image.width, image.height)
        : encodePng(image, metadata);
    case 'tiff':
      return encodeTiff(image, metadata);
    case 'jpeg':
      return encodeJpeg(image, quality, jpeg, metadata);
    case 'exr':
      return (await RARE_FORMATS.encodeExr()).encodeExr(image);
  }
}

/** R G B A, straight; floats as 16 bit. */
function withAlpha({ width, height, white, data, alpha }: EncodedImage): Uint8Array | Uint16Array {
  const n = width * height;
  const most = white === 255 ? 255 : 65535;
  const out = white === 255 ? new Uint8Array(4 * n) : new Uint16Array(4 * n);
  for (let i = 0; i < n; i++) {
    for (let c = 0; c < 3; c++)
      out[4 * i + c] =
        white === 1 ? Math.round(most * Math.min(1, Math.max(0, data[3 * i + c]))) : data[3 * i + c];
    out[4 * i + 3] = ((alpha ? alpha[3 * i] : 255) * most) / 255;
  }
  return out;
}
