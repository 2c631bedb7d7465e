import { drawable, isBeforehand } from '../graph/missing';
import { type Value } from '../graph/tile';
import { nodesOfView } from './renderView';
import { type DrawnGraph, isOfSet, type SetScene, type View, type ViewScene } from './viewScene';

const NO_SET: SetScene = { width: 0, height: 0, frames: [] };

const pruned = new WeakMap<DrawnGraph, Map<string, DrawnGraph>>();

/** What is needed to draw some nodes of a graph, and nothing else. */
export function onlyFor(drawn: DrawnGraph, wanted: readonly string[]): DrawnGraph {
  const known = pruned.get(drawn) ?? new Map<string, DrawnGraph>();
  pruned.set(drawn, known);
  const key = wanted.join();
  const before = known.get(key);
  if (before) return before;
  const nodes = drawable(drawn.nodes, wanted);
  const made = new Map<string, Value>();
  for (const node of nodes) {
    const value = isBeforehand(node) ? drawn.made.get(node.hash) : undefined;
    if (value) made.set(node.hash, value);
  }
  const own = { nodes: new Map(nodes.map((n) => [n.hash, n])), made };
  known.set(key, own);
  return own;
}

/** The part of a scene that a view is made from: what is sent to a worker is no more than it looks at. */
export function sceneForView(scene: ViewScene, view: View): ViewScene {
  const { width, height, picture, set } = scene;
  const wanted = picture ? nodesOfView(picture, view) : [];
  if (!picture || wanted.length === 0) return isOfSet(view) ? { width, height, set } : scene;
  const framed = view.kind === 'difference' && 'frame' in view.to;
  return { width, height, picture: { ...picture, ...onlyFor(picture, wanted) }, set: framed ? set : NO_SET };
}
