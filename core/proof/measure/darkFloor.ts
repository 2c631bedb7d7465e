import { type EncodedImage } from '../../raster/encodedImage';
import { type Rectangle } from '../../raster/raster';

/** Code of 255 under which a print shows no drawing. */
export const DARK_FLOOR = 30;

/** Share of the pixels of a region whose every channel lies under the floor, 0…1. */
export function darkFloorShare(
  { width, height, data, white }: EncodedImage,
  region: Rectangle,
  floor = DARK_FLOOR,
): number {
  const limit = (floor / 255) * white;
  const [x0, y0] = [Math.max(0, Math.floor(region.x)), Math.max(0, Math.floor(region.y))];
  const [x1, y1] = [
    Math.min(width, Math.ceil(region.x + region.width)),
    Math.min(height, Math.ceil(region.y + region.height)),
  ];
  let dark = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = (y * width + x) * 3;
      if (data[i] < limit && data[i + 1] < limit && data[i + 2] < limit) dark++;
    }
  return x1 > x0 && y1 > y0 ? dark / ((x1 - x0) * (y1 - y0)) : 0;
}
