import { commonRectangle } from '../finish/commonRectangle';
import { ratioValue } from '../finish/finish';
import { type Rectangle } from '../raster/raster';
import { mergedFrames, type Project, referenceOf } from './project';

/** The rectangle that every merged frame covers, of the chosen ratio; the whole reference when there is none. */
export function proposedCrop(project: Project): Rectangle | undefined {
  const reference = referenceOf(project);
  if (!reference) return undefined;
  const frames = mergedFrames(project).map(({ frame, registration }) => ({
    width: frame.width,
    height: frame.height,
    matrix: registration.matrix,
  }));
  const whole = { x: 0, y: 0, width: reference.width, height: reference.height };
  return commonRectangle(reference, frames, ratioValue(project.finish)) ?? whole;
}

/** The crop in force: the user's, else the proposed one. */
export function cropOf(project: Project): Rectangle | undefined {
  return project.finish.crop ?? proposedCrop(project);
}
