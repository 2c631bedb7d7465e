import { reducedCanvas } from '../merge/panorama/canvas';
import { frameOnCanvas, reducedLens } from '../merge/panorama/frameOnCanvas';
import { levelAtHand } from '../raster/awayPixels';
import { type Rectangle } from '../raster/raster';
import { type TurnedSet } from './viewScene';

/**
 * The reference of a panorama alone, where it lies on the paper: encoded planes, black around it.
 * @param area in pixels of the paper halved `level` times
 */
export function turnedReference(
  { fit, canvas, frames, reference }: TurnedSet,
  level: number,
  area: Rectangle,
): Float32Array[] {
  const rotation = fit.rotations[reference];
  const levels = frames[reference]?.levels;
  const own = levels ? levelAtHand(levels, level) : 0;
  const drawn =
    rotation &&
    levels &&
    frameOnCanvas(levels[own], reducedLens(fit.lens, own), rotation, reducedCanvas(canvas, level), area, {
      kernel: level === 0 ? 'lanczos' : 'bilinear',
      radius: false,
    });
  if (!drawn) return [0, 1, 2].map(() => new Float32Array(area.width * area.height));
  const { planes, inside } = drawn;
  return planes.map((plane) => plane.map((v, i) => (inside[i] < 0 ? 0 : v)));
}
