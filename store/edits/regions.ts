import { type Draft } from 'immer';
import { says } from '@/core/edits/ranked';
import { allLayers } from '@/core/layers/layer';
import { type Stroke } from '@/core/mask/stroke';
import { type Project } from '@/core/recipe/project';
import { EVERYWHERE, type Part, type Region, type RegionPart } from '@/core/region/region';
import { type Change, layerOf } from './drafts';
import { allEdits, editAt, type EditOwner } from './list';

/** Whose region it is: a layer's, an edit's, or one with a name of its own. */
export type RegionOwner =
  | { readonly kind: 'layer'; readonly layer: string }
  | { readonly kind: 'edit'; readonly at: EditOwner; readonly edit: string }
  | { readonly kind: 'named'; readonly region: string };

/** What has a region. */
interface Holder {
  where?: Draft<Region> | string;
}

function holderOf(draft: Draft<Project>, owner: RegionOwner): Holder | undefined {
  switch (owner.kind) {
    case 'layer':
      return layerOf(draft, owner.layer);
    case 'edit':
      return editAt(draft, owner.at, owner.edit);
    case 'named':
      return { where: owner.region };
  }
}

/** The region that an owner has, its own or a named one; undefined where it is everywhere. */
export function regionOf(project: Project, owner: RegionOwner): Region | undefined {
  const where = holderOf(project as unknown as Draft<Project>, owner)?.where;
  return typeof where === 'string' ? project.regions.find((r) => r.id === where) : where;
}

/** The region to be changed; a new one where there is none yet. */
function draftRegion(draft: Draft<Project>, owner: RegionOwner, newId: string): Draft<Region> | undefined {
  const holder = holderOf(draft, owner);
  if (!holder) return undefined;
  if (typeof holder.where === 'string') {
    const name = holder.where;
    return draft.regions.find((r) => r.id === name);
  }
  holder.where ??= { ...EVERYWHERE, id: newId, name: '', parts: [] } as Draft<Region>;
  return holder.where;
}

const ownerName = (owner: RegionOwner): string =>
  owner.kind === 'layer' ? owner.layer : owner.kind === 'edit' ? owner.edit : owner.region;

const change =
  (owner: RegionOwner, make: (region: Draft<Region>) => void): Change =>
  (draft) => {
    const region = draftRegion(draft, owner, `${ownerName(owner)}-where`);
    if (region) make(region);
  };

/** Adds a part to a region; the first one says where it is at all. */
export const addPart = (owner: RegionOwner, how: RegionPart['how'], part: Part): Change =>
  change(owner, (region) => {
    region.parts.push({ how, part, turned: false, on: true } as Draft<RegionPart>);
  });

export const setPart = (
  owner: RegionOwner,
  at: number,
  next: Partial<Pick<RegionPart, 'how' | 'turned' | 'on'>> & { readonly part?: Part },
): Change =>
  change(owner, (region) => {
    if (region.parts[at]) Object.assign(region.parts[at], next);
  });

export const removePart = (owner: RegionOwner, at: number): Change =>
  change(owner, (region) => {
    region.parts.splice(at, 1);
  });

export const setRegion = (
  owner: RegionOwner,
  next: Partial<Pick<Region, 'smooth' | 'grow' | 'feather' | 'follow' | 'invert' | 'name'>>,
): Change => change(owner, (region) => void Object.assign(region, next));

/** Everywhere, or nowhere until something is added. */
export const clearRegion =
  (owner: RegionOwner, to: 'everywhere' | 'nowhere'): Change =>
  (draft) => {
    const holder = holderOf(draft, owner);
    if (!holder) return;
    if (to === 'everywhere') delete holder.where;
    else
      holder.where = {
        ...EVERYWHERE,
        id: `${ownerName(owner)}-where`,
        name: '',
        parts: [
          { how: 'add', part: { kind: 'strokes', settings: { strokes: [] } }, turned: false, on: true },
        ],
      };
  };

/** Uses a named region, or a copy of it as its own. @param copy id of the copy; none to share it */
export const takeRegion =
  (owner: RegionOwner, region: string, copy?: string): Change =>
  (draft) => {
    const holder = holderOf(draft, owner);
    const named = draft.regions.find((r) => r.id === region);
    if (!holder || !named) return;
    holder.where =
      copy === undefined
        ? region
        : { ...(JSON.parse(JSON.stringify(named)) as Draft<Region>), id: copy, name: '' };
  };

/** Takes over what a file holds: the region as the owner's own, the named ones that it is made of into the project. */
export const bringRegion =
  (owner: RegionOwner, [region, ...others]: readonly Region[]): Change =>
  (draft) => {
    const holder = holderOf(draft, owner);
    if (!holder || owner.kind === 'named') return;
    draft.regions.push(...(others as Draft<Region>[]));
    holder.where = { ...region, name: '' } as Draft<Region>;
  };

/** Gives an owner's region a name, so that others can use it too. */
export const nameRegion =
  (owner: RegionOwner, id: string, name: string): Change =>
  (draft) => {
    const holder = holderOf(draft, owner);
    if (typeof holder?.where !== 'object') return;
    draft.regions.push({ ...holder.where, id, name });
    holder.where = id;
  };

/** The part that a brush draws into: the last of strokes, or a new one. */
function strokesIn(
  region: Draft<Region>,
  action: Stroke['action'],
  isEdit: boolean,
): { strokes: Draft<Stroke>[]; turned: boolean } {
  const isStrokes = (p: Draft<RegionPart>): boolean => p.on && !p.turned && p.part.kind === 'strokes';
  let at = region.parts.findLastIndex(isStrokes);
  if (at < 0) {
    // where a layer is shown everywhere a brush can only take away, then give back; an edit that is painted is meant there alone
    const how = action === 'hide' || (region.parts.length === 0 && !isEdit) ? 'remove' : 'add';
    region.parts.push({ how, part: { kind: 'strokes', settings: { strokes: [] } }, turned: false, on: true });
    at = region.parts.length - 1;
  }
  const { how, part } = region.parts[at];
  const strokes = part.kind === 'strokes' ? part.settings.strokes : [];
  return { strokes, turned: how === 'remove' };
}

/** Draws a stroke into an owner's region: it shows more, or less, whatever part of the region it falls into. */
export const addStroke = (owner: RegionOwner, stroke: Stroke): Change =>
  change(owner, (region) => {
    const { strokes, turned } = strokesIn(region, stroke.action, owner.kind === 'edit');
    const other = stroke.action === 'hide' ? 'reveal' : 'hide';
    strokes.push((turned ? { ...stroke, action: other } : stroke) as Draft<Stroke>);
  });

/** Every region of a project by itself, with the name of whose it is. */
export const ownRegions = (
  project: Project,
): readonly { readonly name: string; readonly region: Region }[] => [
  ...[
    ...allLayers(project.layers).map(({ name, where }) => ({ name, where })),
    ...allEdits(project).map((edit) => ({ name: says(edit), where: edit.where })),
  ].flatMap(({ name, where }) => (typeof where === 'object' ? [{ name, region: where }] : [])),
  ...project.regions.map((region) => ({ name: region.name, region })),
];
