import { commonRectangle, type CropFrame } from '../finish/commonRectangle';
import { ratioValue } from '../finish/cropRatio';
import { straighteningOf } from '../finish/straighten';
import { IDENTITY, type Matrix3, multiply } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { coveredBox } from '../merge/panorama/coveredBox';
import { panoramaCanvas, pictureGrid } from './pictureGrid';
import { baseScope, mergedFrames, panoramaOf, referenceOf } from './setFrames';
import { type Project } from './project';

/** Straightened pixel → picture pixel; the identity while nothing is straightened. */
export function straightenOf(project: Project): Matrix3 {
  const grid = pictureGrid(project);
  const { straighten } = project.geometry;
  if (!grid || (!straighten.level && !straighten.uprights)) return IDENTITY;
  return straighteningOf(straighten, grid);
}

/** Merged frames of the base and its reference as they lie on the straightened grid. */
export function placedFrames(project: Project): CropFrame[] {
  const scope = baseScope(project);
  // a panorama's frames lie on its canvas by their turns, and its crop is worked out from these
  if (!scope || scope.set.kind === 'panorama') return [];
  const reference = referenceOf(scope);
  const straighten = straightenOf(project);
  const frames = mergedFrames(scope).map(({ registration, width, height }) => ({
    width,
    height,
    matrix: multiply(registration.matrix, straighten),
  }));
  return reference && straighten !== IDENTITY ? [...frames, { ...reference, matrix: straighten }] : frames;
}

/** The rectangle of the straightened picture that every merged frame of the base covers, of the chosen ratio; all of it when there is none. */
export function proposedCrop(project: Project): Rectangle | undefined {
  const grid = pictureGrid(project);
  const scope = baseScope(project);
  if (!grid || !scope) return undefined;
  const whole = { x: 0, y: 0, width: grid.width, height: grid.height };
  const canvas = panoramaCanvas(scope);
  const panorama = panoramaOf(scope);
  const ratio = ratioValue(project.geometry);
  if (canvas && panorama) return coveredBox(panorama.fit, canvas, straightenOf(project), ratio) ?? whole;
  return commonRectangle(grid, placedFrames(project), ratio) ?? whole;
}

/** The crop in force: the user's, else the proposed one. */
export function cropOf(project: Project): Rectangle | undefined {
  return project.geometry.crop ?? proposedCrop(project);
}
