import { type EncodedImage, emptyImage, type White } from '../../raster/encodedImage';
import { type Allocate, sharedBytes } from '../../raster/raster';

/**
 * Turns a stored picture upright by its EXIF orientation (EXIF 2.32, tag 274): 1 as stored, 2–4 mirrored or upside down, 5–8 with
 * rows and columns exchanged. Unknown values count as 1.
 * @param channels of `data`: 3 or 4; a fourth is dropped
 * @param allocate where the picture lies
 */
export function orientImage(
  data: Uint8Array | Uint16Array | Uint8ClampedArray | Float32Array,
  width: number,
  height: number,
  channels: 3 | 4,
  white: White,
  orientation: number,
  allocate: Allocate = sharedBytes,
): EncodedImage {
  // what lies as it should already, in memory that will do, is not copied: 100 megapixels are 300 MB
  if (channels === 3 && !(orientation >= 2 && orientation <= 8) && willDo(data, allocate !== sharedBytes))
    return { width, height, white, data };
  const swapped = orientation >= 5 && orientation <= 8;
  const image = emptyImage(swapped ? height : width, swapped ? width : height, white, allocate);
  const [W, H, out] = [image.width, image.height, image.data];
  // where the output's first pixel lies in the source and how to step from there
  const fromRight = [2, 3, 7, 8].includes(orientation);
  const fromBottom = [3, 4, 6, 7].includes(orientation);
  const across = swapped ? (fromBottom ? -width : width) : fromRight ? -1 : 1;
  const down = swapped ? (fromRight ? -1 : 1) : fromBottom ? -width : width;
  const start = (fromRight ? width - 1 : 0) + (fromBottom ? (height - 1) * width : 0);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0, i = (start + y * down) * channels; x < W; x++, i += across * channels, o += 3) {
      out[o] = data[i];
      out[o + 1] = data[i + 1];
      out[o + 2] = data[i + 2];
    }
  return image;
}

function willDo(
  data: Uint8Array | Uint16Array | Uint8ClampedArray | Float32Array,
  unshared: boolean,
): data is Uint8Array | Uint16Array | Float32Array {
  return (
    (unshared || (typeof SharedArrayBuffer !== 'undefined' && data.buffer instanceof SharedArrayBuffer)) &&
    !(data instanceof Uint8ClampedArray)
  );
}
