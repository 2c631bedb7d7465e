import { type Decoders } from '@/core/codecs/decodeImage';
import { type JpegEncoder } from '@/core/codecs/write/encodeJpeg';

/** What the computation needs from where it runs. */
export interface Platform extends Decoders {
  readonly encodeJpeg: JpegEncoder;
  /** strips of a rendered pass of the stand-in scene, such as `mill.sky`, top first */
  readonly readScene: (pass: string) => Promise<readonly Uint8Array[]>;
}
