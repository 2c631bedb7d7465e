import { type EncodedImage } from '../../raster/encodedImage';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type PanoramaCanvas } from './canvas';
import { frameOnCanvas, reducedLens } from './frameOnCanvas';

/** A small picture to look at; blank places are transparent. */
export interface PanoramaPreview {
  readonly width: number;
  readonly height: number;
  /** R G B A, 8 bit */
  readonly rgba: Uint8ClampedArray;
}

/**
 * How a fitted set looks on a paper: each place from the frame that lies deepest inside its own border there, neither evened nor
 * blended, so that it is there at once.
 * @param images [frame] small pictures of the frames; undefined for those that take no part
 * @param paper at full size
 * @param longEdge of the preview, pixels
 */
export function previewPanorama(
  images: readonly (EncodedImage | undefined)[],
  fit: PanoramaFit,
  paper: PanoramaCanvas,
  longEdge: number,
): PanoramaPreview {
  const canvas = smallCanvas(paper, longEdge);
  const { width, height } = canvas;
  const area = { x: 0, y: 0, width, height };
  const rgba = new Uint8ClampedArray(4 * width * height);
  const depth = new Float32Array(width * height).fill(-1);
  fit.rotations.forEach((rotation, f) => {
    const image = images[f];
    if (!rotation || !image) return;
    const lens = reducedLens(fit.lens, Math.log2(fit.lens.width / image.width));
    const drawn = frameOnCanvas(image, lens, rotation, canvas, area, { kernel: 'bilinear', radius: false });
    if (!drawn) return;
    const { planes, inside } = drawn;
    for (let i = 0; i < depth.length; i++) {
      if (inside[i] < 0 || inside[i] <= depth[i]) continue;
      depth[i] = inside[i];
      for (let c = 0; c < 3; c++) rgba[4 * i + c] = 255 * planes[c][i];
      rgba[4 * i + 3] = 255;
    }
  });
  return { width, height, rgba };
}

/** The same paper drawn at a long edge of so many pixels. */
export function smallCanvas(paper: PanoramaCanvas, longEdge: number): PanoramaCanvas {
  const k = longEdge / Math.max(paper.width, paper.height);
  return {
    ...paper,
    width: Math.max(1, Math.round(paper.width * k)),
    height: Math.max(1, Math.round(paper.height * k)),
    scale: paper.scale * k,
    left: paper.left * k,
    top: paper.top * k,
  };
}
