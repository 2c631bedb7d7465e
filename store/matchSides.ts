import { type EditKindName } from '@/core/edits/editKinds';
import { findEdit } from '@/core/edits/ranked';
import { type CompiledPicture } from '@/core/graph/compiledPicture';
import { allLayers, findLayer } from '@/core/layers/layer';
import { isAway } from '@/core/raster/awayPixels';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { invert, levelToFull, type Matrix3, multiply, normalise, transform } from '@/core/raster/matrix3';
import { type Rectangle } from '@/core/raster/raster';
import { baseScope, fitOf } from '@/core/recipe/setFrames';
import { type Frame, type Project } from '@/core/recipe/project';
import { type SeenNode } from '@/core/view/seenPicture';
import { type Bench, type BuiltPicture } from './benchState';
import { drawnGraph } from './buildScene';
import { editsAt, type EditOwner } from './edits/list';
import { nodeForEdit } from './nodeBefore';

/** What a picture is matched to: what lies about a layer, a part of the picture that has a name, or a frame of the project as it was shot. */
export type MatchReference =
  | { readonly kind: 'around' }
  | { readonly kind: 'region'; readonly region: string }
  | { readonly kind: 'frame'; readonly frame: string };

export interface NamedReference {
  readonly reference: MatchReference;
  readonly name: string;
}

/** What something can be matched to. */
export function matchReferences(project: Project, at: EditOwner): NamedReference[] {
  const layer = at.kind === 'layer' ? allLayers(project.layers).find((l) => l.id === at.id) : undefined;
  const own = layer?.kind === 'picture' && layer.source.kind !== 'set' ? layer.source.frame : '';
  const isFarthest = layer !== undefined && project.layers[0] === layer;
  return [
    ...((layer?.kind === 'picture' || layer?.kind === 'group') && !isFarthest
      ? [{ reference: { kind: 'around' } as const, name: 'what is about it' }]
      : []),
    ...project.regions.map(({ id, name }) => ({
      reference: { kind: 'region', region: id } as const,
      name: `${name} of this picture`,
    })),
    ...project.frames
      .filter((f) => f.id !== own)
      .map((f) => ({ reference: { kind: 'frame', frame: f.id } as const, name: f.file })),
  ];
}

/** Something to look like, and how much it counts. */
export interface WeighedReference extends NamedReference {
  /** 0…1 */
  readonly weight: number;
}

/** What something is matched to; none for nothing, and for what is gone. */
export function matchedTo(project: Project, at: EditOwner): WeighedReference[] {
  const settings = findEdit(editsAt(project, at), 'match')?.settings;
  if (!settings) return [];
  const offered = matchReferences(project, at);
  return (settings.weighed ?? [{ to: settings.to, weight: 1 }]).flatMap(({ to, weight }) => {
    const reference = offered.find(({ name }) => name === to);
    return reference ? [{ ...reference, weight }] : [];
  });
}

/** The frame that something is matched to, of several the first; undefined for what lies about it, and for nothing. */
export function matchedFrame(project: Project, at: EditOwner): string | undefined {
  const first = matchedTo(project, at).at(0)?.reference;
  return first?.kind === 'frame' ? first.frame : undefined;
}

/** Where a frame lies on the grid of the picture: pixel of the picture → its own; undefined where it was not fitted, or the paper is a panorama’s. */
export function onPictureGrid(project: Project, frame: Frame): Matrix3 | undefined {
  const scope = baseScope(project);
  const fit = scope && scope.set.kind !== 'panorama' ? fitOf(scope, frame) : undefined;
  return fit?.fitted ? fit.matrix : undefined;
}

/** pixels that either side is looked at with */
const LOOKED_AT = 4e5;
/** how far about a layer its surroundings reach, parts of its size */
const ABOUT = 0.5;

/** The two pictures that are compared. */
export interface MatchSides {
  readonly target: SeenNode;
  readonly reference: SeenNode | EncodedImage;
  /** pixel of the target → pixel of the reference, where both were fitted to each other */
  readonly laidOver?: Matrix3;
}

/** What an edit of a kind finds at a place; undefined where that is not made, or not shown. */
export function foundBy(bench: Bench, at: EditOwner, kind: EditKindName): SeenNode | undefined {
  const state = bench.store.getState();
  const { built } = bench.shown(state);
  if (!built) return undefined;
  const { compiled } = built;
  const layer = at.kind === 'layer' ? compiled.layers.find((l) => l.id === at.id) : undefined;
  if (at.kind === 'layer' && !layer) return undefined;
  const { project } = state.history;
  const node = nodeForEdit(project, compiled, at, kind);
  return seen(built, node, placeOf(project, compiled, at), layer?.mask);
}

/** pixels of each side of a square at full size that grain and edges are measured in */
const NEAR = 640;

/**
 * A layer and what lies beneath and about it, pixel for pixel about its middle.
 * @param kind before which edit of the layer it is looked at
 * @returns undefined where it is not shown, nothing lies beneath it, or pixels of either are away
 */
export function textureSides(
  bench: Bench,
  at: EditOwner,
  kind: EditKindName,
): { readonly own: SeenNode; readonly about: SeenNode } | undefined {
  const state = bench.store.getState();
  const { built } = bench.shown(state);
  const layer = at.kind === 'layer' ? built?.compiled.layers.find((l) => l.id === at.id) : undefined;
  if (!built || !layer || layer.beneath === '') return undefined;
  const { compiled } = built;
  const { project } = state.history;
  const node = nodeForEdit(project, compiled, at, kind);
  const box = placeOf(project, compiled, at);
  const own = seen(built, node, middleOf(box, compiled), layer.mask, 0);
  const about = seen(built, layer.beneath, middleOf(grown(box, compiled), compiled), undefined, 0);
  // a picture whose full pixels are away would be looked at enlarged, and told to be soft
  return own && about && isWhole(own) && isWhole(about) ? { own, about } : undefined;
}

/** Whether every picture that a node is drawn from has its full pixels at hand. */
const isWhole = ({ drawn }: SeenNode): boolean =>
  [...drawn.made.values()].every((made) => made.is !== 'picture' || !isAway(made.levels));

/** The middle of a place, no larger than what is looked at pixel for pixel. */
function middleOf({ x, y, width, height }: Rectangle, compiled: CompiledPicture): Rectangle {
  const [w, h] = [Math.min(NEAR, width), Math.min(NEAR, height)];
  const from = { x: x + (width - w) / 2, y: y + (height - h) / 2 };
  return clipped(from, { x: from.x + w, y: from.y + h }, compiled);
}

/** The pictures of a group, each with what lies beneath the group about it: what is left of each when all are changed alike. */
export function memberSides(
  bench: Bench,
  group: string,
): { readonly id: string; readonly name: string; readonly own: SeenNode; readonly about: SeenNode }[] {
  const state = bench.store.getState();
  const { built } = bench.shown(state);
  const { project } = state.history;
  const found = findLayer(project.layers, group);
  const beneath = built?.compiled.layers.find((l) => l.id === group)?.beneath ?? '';
  if (!built || found?.kind !== 'group' || beneath === '') return [];
  const { compiled } = built;
  // as the match finds it: with all that is changed in the group before
  const node = nodeForEdit(project, compiled, { kind: 'layer', id: group }, 'match');
  return allLayers(found.layers).flatMap(({ id, name, kind }) => {
    const made = kind === 'picture' ? compiled.layers.find((l) => l.id === id) : undefined;
    if (!made) return [];
    const box = boxOf(compiled, id);
    const own = seen(built, node, box, made.mask);
    const about = seen(built, beneath, grown(box, compiled));
    return own && about ? [{ id, name, own, about }] : [];
  });
}

/** What an edit of a kind finds, and what it is to look like; undefined where one of them is not made, or there is nothing beneath a layer. */
export function matchSides(
  bench: Bench,
  at: EditOwner,
  kind: EditKindName,
  reference: MatchReference,
): MatchSides | undefined {
  const target = foundBy(bench, at, kind);
  const state = bench.store.getState();
  const { built } = bench.shown(state);
  if (!target || !built) return undefined;
  const { project } = state.history;
  const { compiled } = built;
  if (reference.kind === 'around') {
    const layer = at.kind === 'layer' ? compiled.layers.find((l) => l.id === at.id) : undefined;
    const about =
      layer && layer.beneath !== ''
        ? seen(built, layer.beneath, grown(placeOf(project, compiled, at), compiled))
        : undefined;
    return about && { target, reference: about };
  }
  if (reference.kind === 'region') {
    const mask = compiled.regions.get(reference.region);
    // as the picture is before it is matched as a whole: a match is not to run after itself
    const node = nodeForEdit(project, compiled, { kind: 'whole' }, 'match');
    const part = mask === undefined ? undefined : seen(built, node, wholeOf(compiled), mask);
    return part && { target, reference: part };
  }
  const frame = project.frames.find((f) => f.id === reference.frame);
  const levels = frame && state.decoded[frame.hash]?.levels;
  if (!frame || !levels) return undefined;
  const level = levels.findIndex(({ width, height }) => width * height <= LOOKED_AT);
  const small = level < 0 ? levels.length - 1 : level;
  const matrix = at.kind === 'layer' ? undefined : onPictureGrid(project, frame);
  return {
    target,
    reference: levels[small],
    ...(matrix
      ? { laidOver: multiply(invert(levelToFull(small)), multiply(matrix, levelToFull(target.level))) }
      : {}),
  };
}

const wholeOf = ({ width, height }: CompiledPicture): Rectangle => ({ x: 0, y: 0, width, height });

/** The part of the picture that something takes up. */
function placeOf(project: Project, compiled: CompiledPicture, at: EditOwner): Rectangle {
  if (at.kind !== 'layer') return wholeOf(compiled);
  const layer = findLayer(project.layers, at.id);
  const pictures = layer ? allLayers([layer]).filter((l) => l.kind === 'picture') : [];
  if (pictures.length === 0) return wholeOf(compiled);
  // that of a group is what all of its pictures take up
  const boxes = pictures.map((l) => boxOf(compiled, l.id));
  return clipped(
    { x: Math.min(...boxes.map((b) => b.x)), y: Math.min(...boxes.map((b) => b.y)) },
    {
      x: Math.max(...boxes.map((b) => b.x + b.width)),
      y: Math.max(...boxes.map((b) => b.y + b.height)),
    },
    compiled,
  );
}

/** The part of the picture that a layer's own picture covers; all of it where that is none. */
function boxOf(compiled: CompiledPicture, layer: string): Rectangle {
  const laid = compiled.laid.get(layer);
  if (!laid) return wholeOf(compiled);
  const back = normalise(invert(laid.matrix));
  const corners = [
    [0, 0],
    [laid.width, 0],
    [0, laid.height],
    [laid.width, laid.height],
  ].map(([x, y]) => transform(back, x - 0.5, y - 0.5));
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  return clipped(
    { x: Math.min(...xs), y: Math.min(...ys) },
    { x: Math.max(...xs), y: Math.max(...ys) },
    compiled,
  );
}

type Corner = Pick<Rectangle, 'x' | 'y'>;

function clipped(from: Corner, to: Corner, { width, height }: CompiledPicture): Rectangle {
  const [x, y] = [Math.max(0, Math.floor(from.x)), Math.max(0, Math.floor(from.y))];
  return {
    ...{ x, y },
    width: Math.max(1, Math.min(width, Math.ceil(to.x)) - x),
    height: Math.max(1, Math.min(height, Math.ceil(to.y)) - y),
  };
}

/** A part of the picture with its surroundings. */
const grown = ({ x, y, width, height }: Rectangle, compiled: CompiledPicture): Rectangle =>
  clipped(
    { x: x - ABOUT * width, y: y - ABOUT * height },
    { x: x + (1 + ABOUT) * width, y: y + (1 + ABOUT) * height },
    compiled,
  );

/** A node on a part of the picture, as small as it is looked at. @param halvings of its pixels; as many as make it small when left out */
function seen(
  built: BuiltPicture,
  node: string,
  box: Rectangle,
  mask?: string,
  halvings?: number,
): SeenNode | undefined {
  const drawn = drawnGraph(built, mask === undefined ? [node] : [node, mask]);
  if (!drawn) return undefined;
  const level = halvings ?? Math.max(0, Math.ceil(Math.log2((box.width * box.height) / LOOKED_AT) / 2));
  const scale = 2 ** level;
  const area = {
    x: Math.floor(box.x / scale),
    y: Math.floor(box.y / scale),
    width: Math.max(1, Math.floor(box.width / scale)),
    height: Math.max(1, Math.floor(box.height / scale)),
  };
  return { drawn, node, level, area, ...(mask === undefined ? {} : { mask }) };
}
