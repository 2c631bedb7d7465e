import { type Matrix3, transform } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { seesDirection } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type PanoramaCanvas, planeAt } from './canvas';
import { largestBox } from './largestBox';
import { PROJECTIONS } from './projection';

const CELLS = 260;
type Ray = readonly [x: number, y: number, z: number];

/** cells along a block that is looked at first, a power of two */
const BLOCK = 16;
/** what is seen of a block of so many cells and none of its corners is left out */
const SLIVER = 4;

/**
 * The largest level rectangle of a panorama that its frames cover, from the fit alone.
 * @param straighten straightened pixel → canvas pixel @param ratio width / height to keep, or `free`
 * @returns full-size pixels; undefined when nothing is covered
 */
export function coveredBox(
  fit: PanoramaFit,
  canvas: PanoramaCanvas,
  straighten: Matrix3,
  ratio: number | 'free',
): Rectangle | undefined {
  const step = Math.max(canvas.width, canvas.height) / CELLS;
  const [w, h] = [Math.floor(canvas.width / step), Math.floor(canvas.height / step)];
  const { toRay } = PROJECTIONS[canvas.projection];
  const { lens } = fit;
  const rotations = fit.rotations.flatMap((R) => (R ? [R] : []));
  if (rotations.length === 0) return undefined;
  const rayAt = (x: number, y: number): Ray | undefined =>
    toRay(...planeAt(canvas, ...transform(straighten, x * step, y * step)));
  // the frame that saw the last place most likely sees the next
  let last = rotations[0];
  const seen = (rays: readonly Ray[]): boolean => {
    if (rays.every((ray) => seesDirection(lens, last, ray))) return true;
    const other = rotations.find((R) => R !== last && rays.every((ray) => seesDirection(lens, R, ray)));
    last = other ?? last;
    return other !== undefined;
  };
  // corners of cells: a cell counts when all four are seen
  const corners = new Uint8Array((w + 1) * (h + 1));
  const look = (left: number, top: number, size: number): void => {
    if (left > w || top > h) return;
    const [right, bottom] = [Math.min(w, left + size - 1), Math.min(h, top + size - 1)];
    const rays: Ray[] = [];
    for (const y of top < bottom ? [top, bottom] : [top])
      for (const x of left < right ? [left, right] : [left]) {
        const ray = rayAt(x, y);
        if (ray) rays.push(ray);
      }
    const all = (top < bottom ? 2 : 1) * (left < right ? 2 : 1);
    // a frame's border hardly bends within a block: what one frame sees all corners of it sees all of
    if (rays.length === all && seen(rays)) {
      for (let y = top; y <= bottom; y++) corners.fill(1, y * (w + 1) + left, y * (w + 1) + right + 1);
      return;
    }
    if (size === 1 || (size <= SLIVER && !rays.some((ray) => seen([ray])))) return;
    const half = size / 2;
    for (const y of [top, top + half]) for (const x of [left, left + half]) look(x, y, half);
  };
  for (let top = 0; top <= h; top += BLOCK)
    for (let left = 0; left <= w; left += BLOCK) look(left, top, BLOCK);
  const covered = new Uint8Array(w * h);
  for (let y = 0, k = 0; y < h; y++)
    for (let x = 0; x < w; x++, k++) {
      const c = y * (w + 1) + x;
      covered[k] = corners[c] & corners[c + 1] & corners[c + w + 1] & corners[c + w + 2];
    }
  const box = largestBox(covered, w, h, ratio);
  if (!box) return undefined;
  const x = Math.ceil(box.x * step);
  const y = Math.ceil(box.y * step);
  return { x, y, width: Math.floor(box.width * step), height: Math.floor(box.height * step) };
}
