import { type Edit } from '../edits/edit';
import { type FillColour, type FillGradient } from '../graph/fill/fills';
import { type Stand } from '../ground/space';
import { type Region } from '../region/region';
import { type BlendMode } from './blendMode';
import { type Place } from './place';

/** Where the pixels of a picture layer come from: a merged set, a frame of a set as it lies there, or a picture by itself. */
export type LayerSource =
  | { readonly kind: 'set'; readonly set: string }
  | { readonly kind: 'frame'; readonly frame: string }
  | { readonly kind: 'plate'; readonly frame: string };

/** What a layer may have in several versions, one of them in force. */
export interface LayerVersion {
  /** 0…1 */
  readonly opacity: number;
  readonly blend: BlendMode;
  /** blends linear light instead of encoded values */
  readonly linear: boolean;
  /** where it is shown: a region of its own, or the id of a named one; everywhere when absent */
  readonly where?: Region | string;
  readonly edits: readonly Edit[];
  /** of a picture: where it lies; absent where it lies as its set does */
  readonly place?: Place;
  /** of a picture by itself: how it stands in the picture's space */
  readonly stand?: Stand;
}

/** A version of a layer that is kept beside the one in force. */
export interface Alternative extends LayerVersion {
  readonly id: string;
  readonly name: string;
}

interface LayerBase extends LayerVersion {
  readonly id: string;
  readonly name: string;
  readonly shown: boolean;
  /** metres from the camera, where that is known */
  readonly distance?: number;
  /** name of the version in force, where there are several */
  readonly version?: string;
  readonly alternatives: readonly Alternative[];
}

export interface PictureLayer extends LayerBase {
  readonly kind: 'picture';
  readonly source: LayerSource;
}

/** A colour, or a gradient between two. */
export type Fill =
  { readonly kind: 'colour'; readonly colour: FillColour } | ({ readonly kind: 'gradient' } & FillGradient);

export interface FillLayer extends LayerBase {
  readonly kind: 'fill';
  readonly fill: Fill;
}

/** Layers that are made one before they are laid over what is beneath. */
export interface GroupLayer extends LayerBase {
  readonly kind: 'group';
  /** farthest first */
  readonly layers: readonly Layer[];
}

/** An adjustment: its pixels are what lies beneath it, changed by its edits. */
export interface BeneathLayer extends LayerBase {
  readonly kind: 'beneath';
}

/** One part of the picture, laid over those before it. */
export type Layer = PictureLayer | FillLayer | GroupLayer | BeneathLayer;

/** How a layer begins. */
export const PLAIN_LAYER: Omit<LayerBase, 'id' | 'name'> = {
  shown: true,
  opacity: 1,
  blend: 'normal',
  linear: false,
  edits: [],
  alternatives: [],
};

/** All layers of a tree, those in groups after their group, farthest first. */
export function allLayers(layers: readonly Layer[]): Layer[] {
  return layers.flatMap((l) => (l.kind === 'group' ? [l, ...allLayers(l.layers)] : [l]));
}

/** A layer by its id, wherever in the tree it is. */
export function findLayer(layers: readonly Layer[], id: string): Layer | undefined {
  return allLayers(layers).find((l) => l.id === id);
}
