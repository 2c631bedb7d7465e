import { type Edit } from '@/core/edits/edit';
import { says } from '@/core/edits/ranked';
import { allLayers } from '@/core/layers/layer';
import { type Stroke, strokeBox } from '@/core/mask/stroke';
import { type Finding, judge, type Place } from '@/core/proof/finding';
import { type LimitId } from '@/core/proof/limits';
import { type PictureGrid, pictureGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { type PictureEffects } from '@/core/view/pictureEffects';
import { allEdits } from './edits/list';
import { ownRegions } from './edits/regions';

/** the largest ΔE2000 of what does nothing, and the share of a picture that a hidden layer must change to be named */
const [UNSEEN, LEAST_SHARE] = [0.3, 0.005];
/** share of a picture on one side of a region that parts it: half a pixel at the size that is looked at, as a repaired speck is a region too */
const LEAST_SIDE = 1.5e-6;

const list = (names: readonly string[]): string => names.map((n) => `“${n}”`).join(', ');

/** A count of things that are named; nothing where there are none. */
const named = (id: LimitId, names: readonly string[], says: string, where?: Place): Finding[] =>
  names.length === 0
    ? []
    : [judge(id, names.length, { why: `${list(names)}: ${says}`, ...(where ? { where } : {}) })];

/** What layers, their regions and their strokes do that nobody sees. */
export function layerEffects(project: Project, effects: PictureEffects | undefined): Finding[] {
  const layers = allLayers(project.layers);
  const done = new Map(effects?.changes.map((c) => [c.id, c]));
  const idle = layers.filter((l) => l.shown && (done.get(l.id)?.most ?? 1) < UNSEEN);
  const hidden = layers.filter((l) => !l.shown && (done.get(l.id)?.share ?? 0) > LEAST_SHARE);
  const covered = new Map(effects?.masks.map((m) => [m.id, m.covered]));
  const flat = (id: string): boolean => {
    const share = covered.get(id);
    return share !== undefined && (share < LEAST_SIDE || share > 1 - LEAST_SIDE);
  };
  const regions = [
    ...layers.filter((l) => l.shown && flat(l.id)).map((l) => l.name),
    ...allEdits(project)
      .filter((e) => flat(e.id))
      .map((e) => says(e)),
  ];
  return [
    ...named(
      'layers.idle',
      idle.map((l) => l.name),
      'changes nothing that can be seen: it is covered, or looks like what lies beneath. Hide it, or take it away.',
    ),
    ...named(
      'layers.hidden',
      hidden.map((l) => l.name),
      'is hidden, and would change the picture. Show it, or take it away if it is done with.',
    ),
    ...named(
      'layers.regions',
      regions,
      'its region covers nothing, or everything. Draw it anew, or take the region away.',
    ),
    ...strokeFindings(project, effects),
  ];
}

/** Of edits, those that do nothing that can be seen. */
export function idleEdits(edits: readonly Edit[], effects: PictureEffects | undefined): readonly Edit[] {
  const done = new Map(effects?.changes.map((c) => [c.id, c]));
  return edits.filter((e) => (done.get(e.id)?.most ?? 1) < UNSEEN);
}

/** Edits that do nothing that can be seen, as a finding. */
export function editEffects(project: Project, effects: PictureEffects | undefined): Finding[] {
  return named(
    'match.idle',
    idleEdits(allEdits(project), effects).map((e) => says(e)),
    'does nothing that can be seen. Switch it off, or take it away.',
  );
}

/** Where strokes do nothing, whosever region they are in. */
function strokeFindings(project: Project, effects: PictureEffects | undefined): Finding[] {
  const grid = pictureGrid(project);
  if (!grid || !effects) return [];
  const places = ownRegions(project).flatMap(({ name, region }) =>
    effects.strokes.flatMap(({ id, part: at, count, idle }) => {
      const part = id === region.id ? region.parts[at]?.part : undefined;
      // what was found of other strokes says nothing of these
      if (part?.kind !== 'strokes' || part.settings.strokes.length !== count) return [];
      return idle.map((k) => ({ name, stroke: part.settings.strokes[k] }));
    }),
  );
  if (places.length === 0) return [];
  return [
    judge('layers.strokes', places.length, {
      why: `In ${list([...new Set(places.map((p) => p.name))])}: painted over later, or over what was so already. Each can be taken out in the list of strokes.`,
      where: placeOf(places[0].stroke, grid),
    }),
  ];
}

function placeOf(stroke: Stroke, { width, height }: PictureGrid): Place {
  const longEdge = Math.max(width, height);
  const box = strokeBox(stroke);
  return {
    x: box.x * longEdge,
    y: box.y * longEdge,
    width: box.width * longEdge,
    height: box.height * longEdge,
  };
}
