import { produce } from 'immer';
import { ValidationError } from 'yup';
import { allLayers } from '../layers/layer';
import { simplifyStroke } from '../mask/simplifyStroke';
import { type Stroke } from '../mask/stroke';
import { Problem } from '../proof/problem';
import { longEdgeOf, setGrid } from './pictureGrid';
import { migrateProject } from './migrateProject';
import { PROJECT_VERSION } from './emptyProject';
import { type Project } from './project';
import { setScope } from './setFrames';
import { regionsOf } from './regionsOf';
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
  return withUsedReferences(withSimpleStrokes(checked, refuse));
}

/** The other frames of a set lie on its reference: it takes part, whatever the file says. */
function withUsedReferences(project: Project): Project {
  const references = new Set(project.sets.map((s) => s.reference));
  const unused = project.frames.some((f) => !f.used && references.has(f.id));
  if (!unused) return project;
  return { ...project, frames: project.frames.map((f) => (references.has(f.id) ? { ...f, used: true } : f)) };
}

const LONGEST_DETAIL = 160;

/** What is wrong, without the value, which may be very long. */
function shortened(detail: string): string {
  const [what] = detail.split(', but the final value was', 1);
  return what.length > LONGEST_DETAIL ? `${what.slice(0, LONGEST_DETAIL)} …` : what;
}

const repeated = (ids: readonly string[]): boolean => new Set(ids).size !== ids.length;

/** What does not belong together in a project whose fields are right one by one. */
function contradiction(project: Project): string | undefined {
  const { frames, sets, layers, base, regions, watchPoints } = project;
  const ids = new Set(frames.map((f) => f.id));
  if (ids.size !== frames.length) return 'its frames do not belong together';
  const setIds = new Set(sets.map((s) => s.id));
  if (setIds.size !== sets.length || !setIds.has(base)) return 'its sets do not belong together';
  const members = sets.flatMap((s) => s.frames);
  if (members.some((m) => !ids.has(m))) return 'a frame of a set is missing';
  if (repeated(members)) return 'a frame belongs to two sets';
  const astray = sets.find((s) => s.frames.length > 0 && !s.frames.includes(s.reference));
  if (astray) return `the reference of “${astray.name}” is none of its frames`;
  const all = allLayers(layers);
  if (all.length > PROJECT_LIMITS.layers) return `it has ${all.length} layers, more than a picture can hold`;
  if (repeated(all.map((l) => l.id))) return 'two layers are the same';
  const lost = all.find(
    (l) =>
      l.kind === 'picture' &&
      (l.source.kind === 'set' ? !setIds.has(l.source.set) : !ids.has(l.source.frame)),
  );
  if (lost) return `what layer “${lost.name}” shows is missing`;
  if (repeated(regions.map((r) => r.id))) return 'two regions are the same';
  if (repeated(watchPoints.map((w) => w.id))) return 'two watch points are the same';
  return turnsContradiction(project) ?? sizeContradiction(project);
}

function turnsContradiction({ made, frames }: Project): string | undefined {
  const ids = new Set(frames.map((f) => f.id));
  for (const fact of Object.values(made)) {
    const panorama = fact.of === 'fits' ? fact.panorama : undefined;
    if (!panorama) continue;
    const { fit, frames: turned } = panorama;
    if (turned.length !== fit.rotations.length || !fit.rotations.some((R) => R))
      return 'the turns of its panorama do not belong to its frames';
    if (turned.some((id) => !ids.has(id)) || fit.pairs.some((p) => Math.max(p.a, p.b) >= turned.length))
      return 'its panorama is made of frames that are not there';
  }
  return undefined;
}

function sizeContradiction(project: Project): string | undefined {
  for (const { id } of project.sets) {
    const scope = setScope(project, id);
    const grid = scope && setGrid(scope);
    if (
      grid &&
      !(Math.min(grid.width, grid.height) >= 1 && Math.max(grid.width, grid.height) <= LONGEST_SIDE)
    )
      return 'its picture has no size that can be drawn';
  }
  const { crop } = project.geometry;
  const reach = CROP_REACH * longEdgeOf(project);
  if (
    crop &&
    reach > 0 &&
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
  const simple = produce(project, (draft) => {
    for (const region of regionsOf(draft))
      for (const { part } of region.parts)
        if (part.kind === 'strokes')
          (part.settings as { strokes: Stroke[] }).strokes = part.settings.strokes.map((s) =>
            simplifyOnce(s, longEdge),
          );
  });
  const kept = strokePoints(simple);
  return kept > PROJECT_LIMITS.points
    ? refuse(`its strokes have ${kept} points, more than a hand can draw`)
    : simple;
}

/** A stroke is simplified when that takes away most of its points: one that is simple already comes back as it was. */
function simplifyOnce(stroke: Stroke, longEdge: number): Stroke {
  const simple = simplifyStroke(stroke, longEdge);
  return simple.points.length * 2 < stroke.points.length ? simple : stroke;
}
