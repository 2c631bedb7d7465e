import { sharedBytes } from './raster';

/**
 * A decoded source as it came out of its file: sRGB-encoded integers, R G B interleaved, upright (EXIF orientation applied).
 * Kept as integers until it is sampled, so that a set of frames stays small in memory.
 */
export interface EncodedImage {
  readonly width: number;
  readonly height: number;
  /** largest code value: 255 or 65535 */
  readonly white: 255 | 65535;
  /** `width * height * 3` code values, row by row */
  readonly data: Uint8Array | Uint16Array;
}

/** An all-black image in shared memory. */
export function emptyImage(width: number, height: number, white: 255 | 65535): EncodedImage {
  const length = width * height * 3;
  const data = white === 255 ? new Uint8Array(sharedBytes(length)) : new Uint16Array(sharedBytes(length * 2));
  return { width, height, white, data };
}

/**
 * Half the size by the mean of each 2×2 block, in code values. An odd last row or column is dropped, so pixel centre
 * x of the half lies at 2x + 0.5 of the whole.
 */
export function halveImage(image: EncodedImage): EncodedImage {
  const { width: w, data } = image;
  const width = Math.max(1, w >> 1);
  const height = Math.max(1, image.height >> 1);
  const half = emptyImage(width, height, image.white);
  const out = half.data;
  const below = image.height > 1 ? w * 3 : 0;
  const right = w > 1 ? 3 : 0;
  for (let y = 0, o = 0; y < height; y++) {
    let i = 2 * y * w * 3;
    for (let x = 0; x < width; x++, i += 6)
      for (let c = 0; c < 3; c++, o++) {
        const p = i + c;
        out[o] = (data[p] + data[p + right] + data[p + below] + data[p + below + right] + 2) >> 2;
      }
  }
  return half;
}
