import { sharedBytes } from './raster';

/** Code of white: 255 and 65535 for integers of 8 and 16 bits, 1 for floats, which go on below black and above white. */
export type White = 255 | 65535 | 1;

/**
 * A decoded source: sRGB-encoded values, R G B interleaved, upright (EXIF orientation applied). Integers stay as they came out of
 * their file, so that a set of frames stays small in memory; floats hold what integers cannot, light beyond white and colours
 * beyond sRGB (negative values), by the transfer function continued as an odd function.
 */
export interface EncodedImage {
  readonly width: number;
  readonly height: number;
  readonly white: White;
  /** `width * height * 3` code values, row by row */
  readonly data: Uint8Array | Uint16Array | Float32Array;
  /**
   * Opacity of a cut-out, straight: every value three times, so that it is resampled as the picture is; 0…255. Absent where a picture
   * is opaque.
   */
  readonly alpha?: Uint8Array;
}

/** The opacity of a cut-out as a picture of its own. */
export function alphaImage({ width, height, alpha }: EncodedImage): EncodedImage | undefined {
  return alpha && { width, height, white: 255, data: alpha };
}

/** The same samples in shared memory. */
export function sharedCopy<T extends Uint8Array | Uint16Array | Float32Array>(data: T): T {
  const copy = new (data.constructor as new (memory: ArrayBufferLike) => T)(sharedBytes(data.byteLength));
  copy.set(data);
  return copy;
}

/** An all-black image in shared memory. */
export function emptyImage(width: number, height: number, white: White): EncodedImage {
  const length = width * height * 3;
  return { width, height, white, data: CODES[white](length) };
}

const CODES = {
  255: (n: number) => new Uint8Array(sharedBytes(n)),
  65535: (n: number) => new Uint16Array(sharedBytes(n * 2)),
  1: (n: number) => new Float32Array(sharedBytes(n * 4)),
} as const;

/** The picture in 16-bit codes, clipped to 0…white, where it holds floats; what compares frames works on codes. */
export function asCodes(image: EncodedImage): EncodedImage {
  if (image.white !== 1) return image;
  const codes = emptyImage(image.width, image.height, 65535);
  const { data } = image;
  for (let i = 0; i < data.length; i++) codes.data[i] = Math.max(0, Math.min(1, data[i])) * 65535 + 0.5;
  return codes;
}

/**
 * Half the size by the mean of each 2×2 block, in code values. An odd last row or column is dropped, so pixel centre
 * x of the half lies at 2x + 0.5 of the whole.
 */
export function halveImage(image: EncodedImage): EncodedImage {
  const opacity = alphaImage(image);
  const half = halved(image);
  return opacity ? { ...half, alpha: halved(opacity).data as Uint8Array } : half;
}

function halved(image: EncodedImage): EncodedImage {
  const { width: w, data } = image;
  const width = Math.max(1, w >> 1);
  const height = Math.max(1, image.height >> 1);
  const half = emptyImage(width, height, image.white);
  const out = half.data;
  const round = image.white === 1 ? 0 : 0.5;
  const below = image.height > 1 ? w * 3 : 0;
  const right = w > 1 ? 3 : 0;
  for (let y = 0, o = 0; y < height; y++) {
    let i = 2 * y * w * 3;
    for (let x = 0; x < width; x++, i += 6)
      for (let c = 0; c < 3; c++, o++) {
        const p = i + c;
        out[o] = (data[p] + data[p + right] + data[p + below] + data[p + below + right]) * 0.25 + round;
      }
  }
  return half;
}
