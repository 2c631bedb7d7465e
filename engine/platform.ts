import { type JpegDecoder } from '@/core/codecs/decodeImage';
import { type JpegEncoder } from '@/core/codecs/encodeJpeg';

/** What the computation needs from where it runs. */
export interface Platform {
  readonly decodeJpeg: JpegDecoder;
  readonly encodeJpeg: JpegEncoder;
}
