import { type Matrix3, transform } from '../../raster/matrix3';
import { type Rectangle } from '../../raster/raster';
import { pixelOf, turned } from '../../register/rotation/cameraModel';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { type PanoramaCanvas, planeAt } from './canvas';
import { largestBox } from './largestBox';
import { PROJECTIONS } from './projection';

const CELLS = 260;
type Ray = readonly [x: number, y: number, z: number];

/** cells along a block */
const BLOCK = 4;

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
  const sees = (R: Matrix3, ray: Ray): boolean => {
    const p = pixelOf(lens, ...turned(R, ray));
    return p !== undefined && p[0] >= 0 && p[1] >= 0 && p[0] <= lens.width - 1 && p[1] <= lens.height - 1;
  };
  // the frame that saw the last place most likely sees the next
  let last = rotations[0];
  const seen = (rays: readonly Ray[]): boolean => {
    if (rays.every((ray) => sees(last, ray))) return true;
    const other = rotations.find((R) => R !== last && rays.every((ray) => sees(R, ray)));
    last = other ?? last;
    return other !== undefined;
  };
  // corners of cells: a cell counts when all four are seen. What one frame sees all corners of it sees all of, its border hardly bends
  const corners = new Uint8Array((w + 1) * (h + 1));
  for (let top = 0; top <= h; top += BLOCK)
    for (let left = 0; left <= w; left += BLOCK) {
      const [right, bottom] = [Math.min(w, left + BLOCK - 1), Math.min(h, top + BLOCK - 1)];
      const rim = [rayAt(left, top), rayAt(right, top), rayAt(left, bottom), rayAt(right, bottom)];
      const whole = rim.every((ray) => ray !== undefined) && seen(rim);
      for (let y = top; y <= bottom; y++)
        for (let x = left; x <= right; x++) {
          const ray = whole || rayAt(x, y);
          corners[y * (w + 1) + x] = ray === true || (ray && seen([ray])) ? 1 : 0;
        }
    }
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
