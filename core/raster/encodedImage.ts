import { type Allocate, sharedBytes } from './raster';

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
  /** the row that `data` begins with, where only some rows of a large picture are at hand; 0 when absent */
  readonly firstRow?: number;
  /** names what is read again where the pixels are away: `data` is empty then */
  readonly away?: string;
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

/** An all-black image, in shared memory unless other memory is given. */
export function emptyImage(
  width: number,
  height: number,
  white: White,
  allocate: Allocate = sharedBytes,
): EncodedImage {
  const length = width * height * 3;
  return { width, height, white, data: CODES[white](length, allocate) };
}

const CODES = {
  255: (n: number, allocate: Allocate) => new Uint8Array(allocate(n)),
  65535: (n: number, allocate: Allocate) => new Uint16Array(allocate(n * 2)),
  1: (n: number, allocate: Allocate) => new Float32Array(allocate(n * 4)),
} as const;

/** The picture in 16-bit codes, clipped to 0…white, where it holds floats; what compares frames works on codes. */
export function asCodes(image: EncodedImage): EncodedImage {
  if (image.white !== 1) return image;
  const codes = emptyImage(image.width, image.height, 65535);
  const { data } = image;
  for (let i = 0; i < data.length; i++) codes.data[i] = Math.max(0, Math.min(1, data[i])) * 65535 + 0.5;
  return codes;
}
