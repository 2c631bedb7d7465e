import { type EncodedImage } from './encodedImage';

/** Luma of a picture's codes, 0…1 (weights of ITU-R BT.709). */
export function lumaOf({ data, white }: EncodedImage): Float32Array {
  const out = new Float32Array(data.length / 3);
  for (let i = 0, p = 0; i < out.length; i++, p += 3)
    out[i] = (0.2126 * data[p] + 0.7152 * data[p + 1] + 0.0722 * data[p + 2]) / white;
  return out;
}
