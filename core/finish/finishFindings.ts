import { clippedShares } from '../capture/clippedShares';
import { type Finding, judge } from '../proof/finding';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { type CropFrame, sharedByAll } from './commonRectangle';

/**
 * Findings of the finished picture.
 * @param preview the finished, cropped picture at any size
 * @param crop in full-size pixels of the reference
 */
export function finishFindings(
  preview: EncodedImage,
  crop: Rectangle,
  reference: { readonly width: number; readonly height: number },
  frames: readonly CropFrame[],
): Finding[] {
  const clipped = clippedShares(preview);
  const scale = crop.width / preview.width;
  const place = (at?: Rectangle): { where?: Rectangle } =>
    at
      ? {
          where: {
            x: crop.x + at.x * scale,
            y: crop.y + at.y * scale,
            width: at.width * scale,
            height: at.height * scale,
          },
        }
      : {};
  return [
    judge('finish.uncovered', 100 * (1 - sharedByAll(crop, frames))),
    judge('finish.burnt', 100 * clipped.light, place(clipped.lightAt)),
    judge('finish.black', 100 * clipped.dark, place(clipped.darkAt)),
    judge('finish.kept', (100 * crop.width * crop.height) / (reference.width * reference.height)),
    judge('finish.size', (crop.width * crop.height) / 1e6),
  ];
}
