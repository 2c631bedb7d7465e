import { type EncodedImage } from '../raster/encodedImage';

/**
 * Writes encoded planes as code values 0…white, interleaved R G B, clipped and rounded; floats (white 1) stay as they are, unbounded.
 * @param out at least as long as the planes from pixel `offset` on
 */
export function layPixels(planes: readonly Float32Array[], out: EncodedImage, offset: number): void {
  const { white, data } = out;
  planes.forEach((plane, c) => {
    let o = offset * 3 + c;
    if (white === 1) for (let i = 0; i < plane.length; i++, o += 3) data[o] = plane[i];
    else
      for (let i = 0; i < plane.length; i++, o += 3) {
        const v = plane[i];
        data[o] = (v > 0 ? (v < 1 ? v : 1) : 0) * white + 0.5;
      }
  });
}
