import { type Kernels } from '../../kernels/kernels';
import { type Graph, type Node } from '../graph';
import { inLight } from '../light';
import { type ReadyChain } from '../runChain';
import { type LightTile, type Value } from '../tile';
import { isNowhere, lightOf, maskOf } from '../wanted';
import { type BlendSettings, blendLayers, rememberedAlpha } from './blendLayers';
import { blendRun, type LaidLayer } from './blendRun';

/** Layers that lie on each other, and what they are laid on. */
export interface LayerStack {
  /** hash of what is beneath all of them */
  readonly from: string;
  /** the topmost first */
  readonly layers: readonly Node[];
}

const settingsOf = (node: Node): BlendSettings => node.settings as BlendSettings;

/**
 * The longest run of layers that ends at a node and blends in one light, so that memory is touched once for all of them.
 * @param ends whether a node must be made by itself: because it is kept, or because others ask for it too
 */
export function layerStack(
  graph: Graph,
  last: Node,
  ends: (hash: string) => boolean,
): LayerStack | undefined {
  const layers: Node[] = [];
  let from = last.hash;
  for (let node: Node | undefined = last; node; node = graph.get(from)) {
    const [beneath] = node.inputs;
    if (node.kind !== blendLayers.kind || !beneath) break;
    if (node !== last && (ends(node.hash) || settingsOf(node).linear !== settingsOf(last).linear)) break;
    layers.push(node);
    from = beneath;
  }
  return layers.length > 0 ? { from, layers } : undefined;
}

/** What a stack is made from, at the place that is drawn. */
export interface StackSource {
  /** what a node gives. @param encoded the light that it is wanted in */
  readonly valueOf: (hash: string, encoded?: boolean) => Value;
  /** the changes that a layer comes of, where nobody else asks for it and it is not kept */
  readonly chainOf: (hash: string) => ReadyChain | undefined;
}

/** Lays a stack; nothing is asked for that lies nowhere. */
export function layStack(
  k: Kernels,
  { from, layers }: LayerStack,
  { valueOf, chainOf }: StackSource,
): LightTile {
  const encoded = !settingsOf(layers[0]).linear;
  const laid: LaidLayer[] = [];
  for (const node of layers) {
    const [, layer, where] = node.inputs;
    const mask = where ? maskOf(valueOf(where), node.kind) : undefined;
    if (isNowhere(mask)) continue;
    const over = chainOf(layer) ?? inLight(lightOf(valueOf(layer, encoded), node.kind), encoded);
    const { opacity, mode } = settingsOf(node);
    const alpha = rememberedAlpha('is' in over ? over : over.light, opacity, mask?.plane);
    if (!isNowhere({ is: 'mask', plane: alpha })) laid.unshift({ over, alpha, mode });
  }
  const beneath = inLight(lightOf(valueOf(from, encoded), layers[0].kind), encoded);
  return laid.length > 0 ? blendRun(k, beneath, laid) : beneath;
}
