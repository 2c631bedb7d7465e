import { commonRectangle, type CropFrame } from '../finish/commonRectangle';
import { ratioValue } from '../finish/finish';
import { straighteningOf } from '../finish/straighten';
import { IDENTITY, type Matrix3, multiply } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { coveredBox } from '../merge/panorama/coveredBox';
import { panoramaCanvas, pictureGrid } from './pictureGrid';
import { mergedFrames, type Project, referenceOf } from './project';

/** Straightened pixel → reference pixel; the identity while nothing is straightened. */
export function straightenOf(project: Project): Matrix3 {
  const grid = pictureGrid(project);
  const { straighten } = project.finish;
  if (!grid || (!straighten.level && !straighten.uprights)) return IDENTITY;
  return straighteningOf(straighten, grid);
}

/** Merged frames and the reference as they lie on the straightened grid. */
export function placedFrames(project: Project): CropFrame[] {
  // a panorama's frames lie on its canvas by their turns, and its crop is worked out from these
  if (project.set.kind === 'panorama') return [];
  const reference = referenceOf(project);
  const straighten = straightenOf(project);
  const frames = mergedFrames(project).map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: multiply(registration.matrix, straighten),
  }));
  return reference && straighten !== IDENTITY ? [...frames, { ...reference, matrix: straighten }] : frames;
}

/** The rectangle of the straightened picture that every merged frame covers, of the chosen ratio; all of it when there is none. */
export function proposedCrop(project: Project): Rectangle | undefined {
  const grid = pictureGrid(project);
  if (!grid) return undefined;
  const whole = { x: 0, y: 0, width: grid.width, height: grid.height };
  const canvas = panoramaCanvas(project);
  if (canvas && project.panorama)
    return (
      coveredBox(project.panorama.fit, canvas, straightenOf(project), ratioValue(project.finish)) ?? whole
    );
  return commonRectangle(grid, placedFrames(project), ratioValue(project.finish)) ?? whole;
}

/** The crop in force: the user's, else the proposed one. */
export function cropOf(project: Project): Rectangle | undefined {
  return project.finish.crop ?? proposedCrop(project);
}
