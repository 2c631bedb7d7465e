/**
 * A picture in working form: planar 32-bit floats, scene-linear with sRGB primaries, unbounded (values below 0 and above 1 are kept).
 * `planes` holds R, G, B in that order, each `width * height` long, row by row.
 */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly planes: readonly Float32Array[];
}

/** An axis-aligned rectangle in pixels: `x`, `y` is its first pixel, `width` and `height` count pixels. */
export interface Rectangle {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Floats that workers can share: backed by a SharedArrayBuffer where the platform has one, by ordinary memory elsewhere.
 * @param length number of floats, zeroed
 */
export function sharedFloats(length: number): Float32Array {
  return new Float32Array(sharedBytes(length * 4));
}

/** Gives zeroed bytes. */
export type Allocate = (bytes: number) => ArrayBuffer;

/**
 * Memory of one worker alone for what is large and soon over, used over and over: engines give back late what was large.
 * @returns begins anew: what was given before must not be used any more
 */
export function reusedBytes(): () => Allocate {
  let kept: ArrayBuffer[] = [];
  return () => {
    let free = kept;
    kept = [];
    return (length) => {
      const known = free.find((b) => b.byteLength === length);
      free = free.filter((b) => b !== known);
      if (known) new Uint8Array(known).fill(0);
      const bytes = known ?? new ArrayBuffer(length);
      kept.push(bytes);
      return bytes;
    };
  };
}

/** Zeroed bytes that workers can share; see {@link sharedFloats}. */
export function sharedBytes(length: number): ArrayBuffer {
  // The typed arrays accept both kinds of buffer; one static type keeps the signatures readable.
  return typeof SharedArrayBuffer === 'undefined'
    ? new ArrayBuffer(length)
    : (new SharedArrayBuffer(length) as unknown as ArrayBuffer);
}

/** A black raster of `count` planes. */
export function emptyRaster(width: number, height: number, count = 3): Raster {
  return { width, height, planes: Array.from({ length: count }, () => sharedFloats(width * height)) };
}
