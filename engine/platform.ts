import { type Decoders } from '@/core/codecs/decodeImage';
import { type JpegEncoder } from '@/core/codecs/write/encodeJpeg';

/** What the computation needs from where it runs. */
export interface Platform extends Decoders {
  readonly encodeJpeg: JpegEncoder;
}
