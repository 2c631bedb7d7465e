import { type EncodedImage, emptyImage } from '../raster/encodedImage';
import { type Allocate } from '../raster/raster';
import { linearToSrgb, srgbToLinear } from '../raster/srgb';

/**
 * A picture with the light of each channel multiplied: how a frame's white balance is brought to that of its set.
 * @param gains of linear R, G, B
 */
export function prepareImage(
  image: EncodedImage,
  gains: readonly [number, number, number],
  allocate?: Allocate,
): EncodedImage {
  const { width, height, white, data } = image;
  const out = emptyImage(width, height, white, allocate);
  for (let c = 0; c < 3; c++) {
    const change = (code: number): number => linearToSrgb(srgbToLinear(code / white) * gains[c]) * white;
    if (white === 1) {
      for (let i = c; i < data.length; i += 3) out.data[i] = change(data[i]);
      continue;
    }
    const table = Float64Array.from({ length: white + 1 }, (_, code) => Math.min(white, change(code) + 0.5));
    for (let i = c; i < data.length; i += 3) out.data[i] = table[data[i]];
  }
  return out;
}

/** Gains that bring a frame to the reference's white balance. @param balance stops of red and blue over green against the reference */
export function evenGains([red, blue]: readonly [number, number]): [number, number, number] {
  return [2 ** -red, 1, 2 ** -blue];
}
