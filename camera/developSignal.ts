import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { type Raster } from '@/core/raster/raster';
import { encodeClipped } from '@/core/raster/srgb';

/** steps from black to a full well in the table of codes */
export const DEVELOPED = 65535;
let table: Uint8Array | undefined;

/**
 * sRGB codes of 65 536 even steps of the signal: the middle of a step is off by a twentieth of a code in the darkest tones, less elsewhere.
 * Made when they are first asked for: the screen that offers the camera does not develop anything.
 */
export function signalCodes(): Uint8Array {
  table ??= Uint8Array.from({ length: DEVELOPED + 1 }, (_, i) =>
    Math.round(255 * encodeClipped(i / DEVELOPED)),
  );
  return table;
}

/** A signal developed as 8-bit sRGB. */
export function developSignal({ width, height, planes }: Raster): EncodedImage {
  const image = emptyImage(width, height, 255);
  const { data } = image;
  const codes = signalCodes();
  planes.forEach((plane, c) => {
    for (let i = 0, o = c; i < plane.length; i++, o += 3) {
      const v = plane[i];
      data[o] = v >= 1 ? 255 : v > 0 ? codes[(v * DEVELOPED + 0.5) | 0] : 0;
    }
  });
  return image;
}

/** A signal as 16-bit codes of linear light, undeveloped. */
export function linearCodes({ width, height, planes }: Raster): EncodedImage {
  const image = emptyImage(width, height, 65535);
  planes.forEach((plane, c) => {
    for (let i = 0, o = c; i < plane.length; i++, o += 3)
      image.data[o] = Math.round(65535 * Math.max(0, Math.min(1, plane[i])));
  });
  return image;
}
