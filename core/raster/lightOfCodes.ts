import { type EncodedImage } from './encodedImage';
import { linearTable, srgbToLinear } from './srgb';

/** Linear light of a picture's codes. Floats are clipped to 0…1: light beyond white is as white. */
export function lightOfCodes({ white }: EncodedImage): (code: number) => number {
  const table = white === 1 ? undefined : linearTable(white);
  return (code) => (table ? table[code] : srgbToLinear(Math.max(0, Math.min(1, code))));
}
