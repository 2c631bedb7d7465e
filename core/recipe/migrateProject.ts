import { isRealDate } from '../capture/realDate';
import { migrateTo9 } from './migrateTo9';
import { PLAIN_OTHER } from './emptyProject';

/** What earlier versions began with. */
const NO_ADJUST = { zones: [], saturation: 1 };
const NATURAL = { strength: 0.75, detail: 1 };
const PLAIN_MASK = { feather: 0, follow: 0, inverted: false };
const SHARPEN = { radius: 1.7, amount: 0, edge: 0.25 };

/** Steps from each version to the next; what they give is checked afterwards like any other project. */
const STEPS: Readonly<Record<number, (project: Record<string, unknown>) => Record<string, unknown>>> = {
  // 2: places that move are taken from one frame each, and the frame can be chosen
  1: (project) => ({
    ...project,
    version: 2,
    set: project.set && typeof project.set === 'object' ? { ...project.set, movers: [] } : project.set,
  }),
  // 3: masks keep to tones, are feathered, follow edges and turn inside out
  2: (project) => ({
    ...project,
    version: 3,
    layers: Array.isArray(project.layers) ? project.layers.map(withWholeMask) : project.layers,
  }),
  // 4: radiance merge, preparation, matching, straightening, sharpening, noise reduction, watch points
  3: (project) => ({
    ...project,
    version: 4,
    frames: Array.isArray(project.frames)
      ? project.frames.map((f: unknown) => extended(f, { measures: {} }))
      : project.frames,
    set: extended(project.set, {
      prepare: { balance: 'shot' },
      method: 'fusion',
      tone: NATURAL,
      response: 'srgb',
    }),
    layers: Array.isArray(project.layers)
      ? project.layers.map((l: unknown) => extended(l, { adjust: NO_ADJUST }))
      : project.layers,
    match: { set: NO_ADJUST, whole: NO_ADJUST },
    // a picture that was finished without them stays as it was
    finish: extended(project.finish, { straighten: {}, noise: 0, sharpen: SHARPEN }),
    watchPoints: [],
  }),
  // 5: sets of other kinds than brackets
  4: (project) => ({
    ...project,
    version: 5,
    set: extended(project.set, { kindChosen: false, other: PLAIN_OTHER }),
  }),
  // 6: a frame may be a cut-out, and none was before; a panorama may solve how its lens bends; focus has two schools, a sky gradient two forms
  5: (project) => ({ ...project, version: 6, set: withNewMerges(project.set) }),
  // 7: the brackets of a panorama's views are merged first; until now all frames were joined as they were
  6: (project) => ({ ...project, version: 7, set: withViews(project.set) }),
  // 8: a panorama's border may be bent to a rectangle; until now it was cropped
  7: (project) => ({ ...project, version: 8, set: withOther(project.set, { border: 'crop' }) }),
  // 9: the picture is a document of sets, layers, regions and edits
  8: (project) => ({ ...migrateTo9(project) }),
};

/** A part of a stored project with new members; anything that is no object stays for the check to refuse. */
function extended(part: unknown, added: object): unknown {
  return part && typeof part === 'object' ? { ...part, ...added } : part;
}

function withOther(set: unknown, added: object): unknown {
  if (!set || typeof set !== 'object' || !('other' in set)) return set;
  return { ...set, other: extended(set.other, added) };
}

function withNewMerges(set: unknown): unknown {
  return withOther(set, { bend: false, focus: 'auto', backgroundForm: 'curve' });
}

function withViews(set: unknown): unknown {
  return extended(withOther(set, { views: 'merged' }), { views: [] });
}

function withWholeMask(layer: unknown): unknown {
  if (!layer || typeof layer !== 'object' || !('mask' in layer)) return layer;
  return { ...layer, mask: { ...(layer.mask as object), ...PLAIN_MASK } };
}

/** Cameras without a clock write zeros, which earlier builds kept as the time of a shot. */
function withoutUnrealTime(frame: unknown): unknown {
  if (!frame || typeof frame !== 'object' || !('facts' in frame)) return frame;
  const { facts } = frame;
  if (!facts || typeof facts !== 'object' || !('taken' in facts)) return frame;
  const { taken, ...others } = facts;
  return typeof taken === 'string' && !isRealDate(taken) ? { ...frame, facts: others } : frame;
}

/** Brings a stored project of an earlier version up to the present one; anything else comes back as it was. */
export function migrateProject(value: unknown): unknown {
  let project = value;
  for (;;) {
    if (!project || typeof project !== 'object' || !('version' in project)) return project;
    const step = typeof project.version === 'number' ? STEPS[project.version] : undefined;
    if (!step)
      return 'frames' in project && Array.isArray(project.frames)
        ? { ...project, frames: project.frames.map(withoutUnrealTime) }
        : project;
    project = step(project);
  }
}
