import { ValidationError } from 'yup';
import { simplifyStroke } from '../mask/simplifyStroke';
import { Problem } from '../proof/problem';
import { longEdgeOf, pictureGrid } from './pictureGrid';
import { migrateProject } from './migrateProject';
import { type Project, PROJECT_VERSION } from './project';
import { PROJECT_LIMITS, strokePoints } from './projectLimits';
import { PROJECT_SCHEMA } from './projectSchema';

/** points of all strokes of a project, as they come */
const MOST_DRAWN = 2_000_000;

/** of a picture, pixels: what a JPEG can hold (ITU-T T.81) */
const LONGEST_SIDE = 65535;

/** a crop may reach this far beyond the picture, long edges of it: straightening moves the picture under it */
const CROP_REACH = 2;

/**
 * The one gate through which a stored project comes back: every field checked, unknown ones refused, what belongs together held
 * against each other.
 * @param where the file or shelf it came from, for the sentence
 * @throws Problem naming the first thing that is wrong
 */
export function parseProject(value: unknown, where: string): Project {
  const version = value && typeof value === 'object' && 'version' in value ? value.version : undefined;
  if (typeof version === 'number' && version > PROJECT_VERSION)
    throw new Problem(`“${where}” was written by a newer Marsh (version ${version}). Open it with that one.`);
  const refuse = (detail: string): never => {
    throw new Problem(`“${where}” is not a whole Marsh project: ${detail}. Open another copy.`);
  };
  let checked: Project;
  try {
    checked = PROJECT_SCHEMA.validateSync(migrateProject(value), {
      strict: true,
      abortEarly: true,
    }) as unknown as Project;
  } catch (thrown) {
    return refuse(thrown instanceof ValidationError ? shortened(thrown.errors[0]) : 'it is not a project');
  }
  const wrong = contradiction(checked);
  if (wrong) refuse(wrong);
  return withSimpleStrokes(checked, refuse);
}

const LONGEST_DETAIL = 160;

/** What is wrong, without the value, which may be very long. */
function shortened(detail: string): string {
  const [what] = detail.split(', but the final value was', 1);
  return what.length > LONGEST_DETAIL ? `${what.slice(0, LONGEST_DETAIL)} …` : what;
}

/** What does not belong together in a project whose fields are right one by one. */
function contradiction(project: Project): string | undefined {
  const { frames, layers, set, panorama, finish, watchPoints } = project;
  const ids = new Set(frames.map((f) => f.id));
  const lost = layers.find((l) => l.source.kind === 'frame' && !ids.has(l.source.frame));
  if (lost) return `the frame of layer “${lost.name}” is missing`;
  if (ids.size !== frames.length || (frames.length > 0 && !ids.has(set.reference)))
    return 'its frames do not belong together';
  if (new Set(layers.map((l) => l.id)).size !== layers.length) return 'two layers are the same';
  if (new Set(watchPoints.map((w) => w.id)).size !== watchPoints.length)
    return 'two watch points are the same';
  if (panorama) {
    const { fit, frames: turned } = panorama;
    if (turned.length !== fit.rotations.length || !fit.rotations.some((R) => R))
      return 'the turns of its panorama do not belong to its frames';
    if (turned.some((id) => !ids.has(id)) || fit.pairs.some((p) => Math.max(p.a, p.b) >= turned.length))
      return 'its panorama is made of frames that are not there';
  }
  const grid = pictureGrid(project);
  if (grid && !(Math.min(grid.width, grid.height) >= 1 && Math.max(grid.width, grid.height) <= LONGEST_SIDE))
    return 'its picture has no size that can be drawn';
  const { crop } = finish;
  const reach = CROP_REACH * longEdgeOf(project);
  if (
    crop &&
    grid &&
    (Math.max(crop.width, crop.height) > reach ||
      Math.min(crop.x, crop.y) < -reach ||
      Math.max(crop.x + crop.width, crop.y + crop.height) > 2 * reach)
  )
    return `its crop of ${Math.round(crop.width)} × ${Math.round(crop.height)} px is far larger than the picture`;
  return undefined;
}

/** Strokes without the points that nobody can see; what was simplified once stays as it is. */
function withSimpleStrokes(project: Project, refuse: (detail: string) => never): Project {
  const drawn = strokePoints(project);
  if (drawn > MOST_DRAWN) return refuse(`its strokes have ${drawn} points, more than a hand can draw`);
  const longEdge = longEdgeOf(project);
  if (drawn === 0 || longEdge === 0) return project;
  const layers = project.layers.map((layer) => ({
    ...layer,
    mask: { ...layer.mask, strokes: layer.mask.strokes.map((s) => simplifyOnce(s, longEdge)) },
  }));
  const simple = { ...project, layers };
  const kept = strokePoints(simple);
  return kept > PROJECT_LIMITS.points
    ? refuse(`its strokes have ${kept} points, more than a hand can draw`)
    : simple;
}

/** A stroke is simplified when that takes away most of its points: one that is simple already comes back as it was. */
function simplifyOnce(stroke: Project['layers'][number]['mask']['strokes'][number], longEdge: number) {
  const simple = simplifyStroke(stroke, longEdge);
  return simple.points.length * 2 < stroke.points.length ? simple : stroke;
}
