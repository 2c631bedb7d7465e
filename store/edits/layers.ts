import { type Draft } from 'immer';
import { type Alternative, type Fill, type Layer, type LayerVersion, PLAIN_LAYER } from '@/core/layers/layer';
import { type Place } from '@/core/layers/place';
import { type Frame, type Project } from '@/core/recipe/project';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { type Change, layerOf, placeInTree } from './drafts';

/** Lays a frame of a set over the picture, hidden, to be revealed with the brush. */
export const addFrameLayer =
  (id: string, frame: Frame): Change =>
  (draft) => {
    const where: Region = {
      ...EVERYWHERE,
      id: `${id}-where`,
      name: '',
      parts: [{ how: 'add', part: { kind: 'strokes', settings: { strokes: [] } }, turned: false, on: true }],
    };
    draft.layers.push({
      ...PLAIN_LAYER,
      id,
      name: frame.file.replace(/\.[^.]+$/, ''),
      kind: 'picture',
      source: { kind: 'frame', frame: frame.id },
      where,
    } as Draft<Layer>);
  };

/** A colour or gradient, or an adjustment of what lies beneath, over everything. */
export const addFill =
  (id: string, name: string, fill: Fill): Change =>
  (draft) => {
    draft.layers.push({ ...PLAIN_LAYER, id, name, kind: 'fill', fill } as Draft<Layer>);
  };

export const addBeneath =
  (id: string, name: string): Change =>
  (draft) => {
    draft.layers.push({ ...PLAIN_LAYER, id, name, kind: 'beneath' } as Draft<Layer>);
  };

/** Makes a group of a layer, where it is. */
export const groupLayer =
  (id: string, group: string, name: string): Change =>
  (draft) => {
    const found = placeInTree(draft, id);
    if (!found) return;
    const { list, at } = found;
    list[at] = { ...PLAIN_LAYER, id: group, name, kind: 'group', layers: [list[at]] } as Draft<Layer>;
  };

/** Puts the layers of a group where it was. */
export const ungroupLayer =
  (id: string): Change =>
  (draft) => {
    const found = placeInTree(draft, id);
    const group = found?.list[found.at];
    if (!found || group?.kind !== 'group') return;
    found.list.splice(found.at, 1, ...group.layers);
  };

export const removeLayer =
  (id: string): Change =>
  (draft) => {
    const found = placeInTree(draft, id);
    if (!found) return;
    const gone = withinLayer(found.list[found.at]);
    found.list.splice(found.at, 1);
    // a picture by itself is nowhere but in its layers
    const inSets = new Set(draft.sets.flatMap((s) => s.frames));
    const shown = new Set(draft.layers.flatMap(withinLayer));
    draft.frames = draft.frames.filter((f) => !gone.includes(f.id) || inSets.has(f.id) || shown.has(f.id));
  };

/** Frames that a layer and those in it show. */
function withinLayer(layer: Draft<Layer>): string[] {
  if (layer.kind === 'group') return layer.layers.flatMap(withinLayer);
  return layer.kind === 'picture' && layer.source.kind !== 'set' ? [layer.source.frame] : [];
}

/** Moves a layer nearer (+1) or farther (−1) within its list. */
export const moveLayer =
  (id: string, by: 1 | -1): Change =>
  (draft) => {
    const found = placeInTree(draft, id);
    if (!found) return;
    const to = found.at + by;
    if (to < 0 || to >= found.list.length) return;
    const [layer] = found.list.splice(found.at, 1);
    found.list.splice(to, 0, layer);
  };

/** Where a layer is dropped: before or after another (farther or nearer), or into a group. */
export interface LayerDrop {
  readonly target: string;
  readonly where: 'before' | 'after' | 'in';
}

/** Moves a layer to another place in the tree; never into itself. */
export const dropLayer =
  (id: string, { target, where }: LayerDrop): Change =>
  (draft) => {
    const from = placeInTree(draft, id);
    if (!from || id === target) return;
    const layer = from.list[from.at];
    if (layer.kind === 'group' && contains(layer, target)) return;
    from.list.splice(from.at, 1);
    const to = placeInTree(draft, target);
    const into = where === 'in' && to ? to.list[to.at] : undefined;
    if (into?.kind === 'group') into.layers.push(layer);
    else if (to) to.list.splice(where === 'before' ? to.at : to.at + 1, 0, layer);
    else from.list.splice(from.at, 0, layer);
  };

function contains(group: Draft<Layer>, id: string): boolean {
  return group.kind === 'group' && group.layers.some((l) => l.id === id || contains(l, id));
}

/** A second layer of the same, right above. @param newId gives ids to what may not be there twice */
export const copyLayer =
  (id: string, newId: () => string): Change =>
  (draft) => {
    const found = placeInTree(draft, id);
    if (!found) return;
    const copy = JSON.parse(JSON.stringify(found.list[found.at])) as Draft<Layer>;
    renew(copy, newId);
    copy.name = `${copy.name} (copy)`.slice(0, 120);
    found.list.splice(found.at + 1, 0, copy);
  };

function renew(layer: Draft<Layer>, newId: () => string): void {
  layer.id = newId();
  for (const version of [layer, ...layer.alternatives]) {
    for (const edit of version.edits) {
      edit.id = newId();
      if (typeof edit.where === 'object') edit.where.id = newId();
    }
    if (typeof version.where === 'object') version.where.id = newId();
  }
  if (layer.kind === 'group') layer.layers.forEach((l) => renew(l, newId));
}

export const setLayer =
  (
    id: string,
    change: Partial<Pick<Layer, 'opacity' | 'blend' | 'shown' | 'name' | 'linear' | 'distance'>>,
  ): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer) Object.assign(layer, change);
  };

export const setFill =
  (id: string, fill: Fill): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.kind === 'fill') layer.fill = fill as Draft<Fill>;
  };

/** Lays a layer elsewhere. */
export const setPlace =
  (id: string, change: Partial<Place>): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer?.place) Object.assign(layer.place, change);
    if (layer?.place && 'corners' in change && change.corners === undefined) delete layer.place.corners;
  };

const VERSIONED = ['opacity', 'blend', 'linear', 'where', 'edits', 'place', 'stand'] as const;

/** What of a layer may have several versions. */
function versionOf(layer: Draft<Layer> | Draft<Alternative>): Draft<LayerVersion> {
  const { opacity, blend, linear, where, edits, place, stand } = layer;
  return {
    opacity,
    blend,
    linear,
    edits,
    ...(where === undefined ? {} : { where }),
    ...(place ? { place } : {}),
    ...(stand ? { stand } : {}),
  };
}

/** Keeps a layer as it is beside itself; what is changed from now on is another version. */
export const addAlternative =
  (id: string, kept: string, name: string, next: string): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (!layer) return;
    const copy = JSON.parse(JSON.stringify(versionOf(layer))) as Draft<LayerVersion>;
    layer.alternatives.push({ ...copy, id: kept, name: layer.version ?? name });
    layer.version = next;
  };

/** Puts another version of a layer in force; the one that was is kept in its place. */
export const chooseAlternative =
  (id: string, alternative: string): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    const at = layer?.alternatives.findIndex((a) => a.id === alternative) ?? -1;
    if (!layer || at < 0) return;
    const chosen = layer.alternatives[at];
    const before = { ...versionOf(layer), id: chosen.id, name: layer.version ?? 'Version 1' };
    const after = versionOf(chosen);
    for (const key of VERSIONED) delete (layer as Partial<Draft<LayerVersion>>)[key];
    Object.assign(layer, after, { version: chosen.name });
    layer.alternatives[at] = before;
  };

export const removeAlternative =
  (id: string, alternative: string): Change =>
  (draft) => {
    const layer = layerOf(draft, id);
    if (layer) layer.alternatives = layer.alternatives.filter((a) => a.id !== alternative);
  };

/** The layer that shows a set, farthest first. */
export function layerOfSet(project: Pick<Project, 'layers'>, set: string): Layer | undefined {
  return project.layers.find((l) => l.kind === 'picture' && l.source.kind === 'set' && l.source.set === set);
}
