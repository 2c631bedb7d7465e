import { type Draft } from 'immer';
import { allLayers, type Layer } from '@/core/layers/layer';
import { type Frame, type FrameSet, type Project } from '@/core/recipe/project';

/** A change of a project, made on a draft of it. */
export type Change = (draft: Draft<Project>) => void;

/** A set of a draft by its id. */
export function setOf(draft: Draft<Project>, id: string): Draft<FrameSet> | undefined {
  return draft.sets.find((s) => s.id === id);
}

/** The set that a frame belongs to. */
export function setOfFrame(draft: Draft<Project>, frame: string): Draft<FrameSet> | undefined {
  return draft.sets.find((s) => s.frames.includes(frame));
}

/** Frames of a set, in the order they came. */
export function framesOf(draft: Draft<Project>, set: Draft<FrameSet>): Draft<Frame>[] {
  const own = new Set(set.frames);
  return draft.frames.filter((f) => own.has(f.id));
}

/** A layer of a draft, wherever in the tree it is. */
export function layerOf(draft: Draft<Project>, id: string): Draft<Layer> | undefined {
  return allLayers(draft.layers as Layer[]).find((l) => l.id === id) as Draft<Layer> | undefined;
}

/** The list of layers that one lies in, and its place there. */
export function placeInTree(
  draft: Draft<Project>,
  id: string,
): { readonly list: Draft<Layer>[]; readonly at: number } | undefined {
  const within = (list: Draft<Layer>[]): ReturnType<typeof placeInTree> => {
    const at = list.findIndex((l) => l.id === id);
    if (at >= 0) return { list, at };
    for (const layer of list) {
      const found = layer.kind === 'group' ? within(layer.layers) : undefined;
      if (found) return found;
    }
    return undefined;
  };
  return within(draft.layers);
}

/** Keeps the layers of a tree that a test lets through; groups that lose all of theirs go as well. */
export function keepLayers(
  layers: readonly Draft<Layer>[],
  keeps: (layer: Draft<Layer>) => boolean,
): Draft<Layer>[] {
  return layers.flatMap((l): Draft<Layer>[] => {
    if (!keeps(l)) return [];
    if (l.kind !== 'group') return [l];
    const own = keepLayers(l.layers, keeps);
    return own.length > 0 || l.layers.length === 0 ? [Object.assign(l, { layers: own })] : [];
  });
}
