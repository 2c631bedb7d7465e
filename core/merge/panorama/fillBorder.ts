import { type EncodedImage } from '../../raster/encodedImage';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { fillRectangle } from '../rectangle/fillRectangle';
import { type RectangleMesh } from '../rectangle/rectangleMesh';
import { type PanoramaCanvas } from './canvas';
import { previewPanorama, smallCanvas } from './previewPanorama';

/** long edge of the picture in which straight edges are looked for, pixels */
const LOOKED_AT = 1100;

/**
 * The mesh that bends a fitted set's paper until its picture fills a rectangle.
 * @param images [frame] small pictures of the frames; undefined for those that take no part
 * @param paper not bent yet, at full size
 * @returns undefined when no frame has a place on it
 */
export function fillBorder(
  images: readonly (EncodedImage | undefined)[],
  fit: PanoramaFit,
  paper: PanoramaCanvas,
): RectangleMesh | undefined {
  const { width, height, rgba } = previewPanorama(images, fit, paper, LOOKED_AT);
  const luma = new Float32Array(width * height);
  const covered = new Uint8Array(width * height);
  for (let i = 0, o = 0; i < luma.length; i++, o += 4) {
    // luma of encoded values by the weights of ITU-R BT.709
    luma[i] = (0.2126 * rgba[o] + 0.7152 * rgba[o + 1] + 0.0722 * rgba[o + 2]) / 255;
    covered[i] = rgba[o + 3] > 0 ? 1 : 0;
  }
  const { projection } = paper;
  const { scale, left, top } = smallCanvas(paper, LOOKED_AT);
  return fillRectangle({ width, height, luma, covered, projection, scale, left, top });
}
