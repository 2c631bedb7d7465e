import { type EncodedImage } from '../../raster/encodedImage';
import { IDENTITY } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type RectangleMesh } from '../rectangle/rectangleMesh';
import { type PanoramaCanvas, placeCanvas, planeAt } from './canvas';
import { coveredBox } from './coveredBox';
import { fillBorder } from './fillBorder';
import { type PanoramaPreview, previewPanorama, smallCanvas } from './previewPanorama';
import { type ProjectionKind } from './projection';
import { length2 } from '../../raster/length';

/** One way to be rid of a panorama's blank border, with what is lost by it. */
export interface BorderChoice {
  readonly preview: PanoramaPreview;
  /** what stays, pixels of the preview */
  readonly box: Rectangle;
  /** share of what was shot that stays, 0…1 */
  readonly kept: number;
  /** what the bending does to shapes, %, and to straight lines, full-size pixels; 0 where nothing is bent */
  readonly stretch: number;
  readonly bow: number;
}

/** Cropping, and bending the border to a rectangle. */
export interface BorderChoices {
  readonly crop: BorderChoice;
  readonly warp: BorderChoice;
  /** what bends it; absent when no frame has a place */
  readonly mesh?: RectangleMesh;
}

/**
 * Both ways to be rid of the blank border of a fitted set.
 * @param images [frame] small pictures of the frames; undefined for those that take no part
 * @param ratio width / height of the crop, or `free`
 * @param longEdge of the previews, pixels
 * @param known the mesh, if it has been made
 */
export function borderChoices(
  images: readonly (EncodedImage | undefined)[],
  fit: PanoramaFit,
  projection: ProjectionKind,
  ratio: number | 'free',
  longEdge: number,
  known?: RectangleMesh,
): BorderChoices {
  const flat = placeCanvas(fit, projection);
  const mesh = known ?? fillBorder(images, fit, flat);
  const first = previewPanorama(images, fit, flat, longEdge);
  const small = smallCanvas(flat, longEdge);
  let shot = 0;
  for (let o = 3; o < first.rgba.length; o += 4) if (first.rgba[o] > 0) shot++;
  // in units of the plane, which both papers share
  shot /= small.scale * small.scale;
  const choiceOf = (paper: PanoramaCanvas, preview: PanoramaPreview): BorderChoice => {
    const canvas = smallCanvas(paper, longEdge);
    const k = preview.width / paper.width;
    const full = coveredBox(fit, paper, IDENTITY, ratio);
    const box = full
      ? { x: full.x * k, y: full.y * k, width: full.width * k, height: full.height * k }
      : { x: 0, y: 0, width: preview.width, height: preview.height };
    return {
      preview,
      box,
      kept: shot > 0 ? Math.min(1, areaOf(canvas, box) / shot) : 0,
      stretch: paper.mesh?.stretch ?? 0,
      bow: (paper.mesh?.bow ?? 0) * length2(paper.width, paper.height),
    };
  };
  const bent = mesh ? placeCanvas(fit, projection, undefined, mesh) : flat;
  return {
    crop: choiceOf(flat, first),
    warp: choiceOf(bent, previewPanorama(images, fit, bent, longEdge)),
    ...(mesh ? { mesh } : {}),
  };
}

/** cells across a rectangle between which the paper counts as evenly bent */
const CELLS = 48;

/** The area of the projection's plane that a rectangle of the paper shows: the sum of its cells' (shoelace formula). */
function areaOf(canvas: PanoramaCanvas, box: Rectangle): number {
  const at = (i: number, j: number): [number, number] =>
    planeAt(canvas, box.x + (i * box.width) / CELLS, box.y + (j * box.height) / CELLS);
  let area = 0;
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
      area += 0.5 * ((c[0] - a[0]) * (d[1] - b[1]) - (d[0] - b[0]) * (c[1] - a[1]));
    }
  return area;
}
