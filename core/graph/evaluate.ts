import { kernels } from '../kernels/kernels';
import { layerStack, layStack } from './blend/layerStack';
import { type Graph, type Node } from './graph';
import { inLight } from './light';
import { type Operator } from './operator';
import { OPERATORS } from './operators';
import { pointwiseChain } from './pointwise';
import { type ReadyChain, runChain } from './runChain';
import { type At, type Value } from './tile';
import { cutPlane } from './resample';
import { type TileCache } from './tileCache';
import { lightOf, maskOf } from './wanted';
import { type Rectangle } from '../raster/raster';

/** What a graph is evaluated with. */
export interface World {
  /** what was made beforehand, by the hash of its node */
  readonly made: (hash: string) => Value | undefined;
  readonly cache: TileCache;
  /** whether tiles of a node are worth keeping */
  readonly keeps: (hash: string) => boolean;
  /** where a node that is kept is evaluated when it is asked for at a place; just there when left out */
  readonly keptAt?: (at: At) => At;
}

/** Something that must be made beforehand is not at hand. */
export class NotMade extends Error {
  constructor(readonly node: Node) {
    super(`${node.kind} ${node.hash} is not made`);
  }
}

export function operatorOf(kind: string): Operator {
  const found = OPERATORS.get(kind);
  if (!found) throw new Error(`there is no step “${kind}”`);
  return found;
}

/** The node of a hash. */
export function nodeOf(graph: Graph, hash: string): Node {
  const node = graph.get(hash);
  if (!node) throw new Error(`the graph has no node ${hash}`);
  return node;
}

/** Values of one request, so that what several steps ask for is made once. */
type Scratch = Map<string, { readonly at: At; readonly value: Value }[]>;

const consumers = new WeakMap<Graph, ReadonlyMap<string, number>>();

/** How many nodes take each one. */
function consumersOf(graph: Graph): ReadonlyMap<string, number> {
  const known = consumers.get(graph);
  if (known) return known;
  const counts = new Map<string, number>();
  for (const { inputs } of graph.values())
    for (const input of inputs) counts.set(input, (counts.get(input) ?? 0) + 1);
  consumers.set(graph, counts);
  return counts;
}

/**
 * What a node gives at a place. The same graph gives the same values for the same place, down to the last bit, on every machine: views,
 * findings and files ask for tiles of one layout, so that they agree.
 * @param graph complete: nothing is added to it any more
 * @throws NotMade where something made beforehand is missing
 */
export function evaluate(graph: Graph, hash: string, at: At, world: World): Value {
  return valueOf(graph, hash, at, world, new Map());
}

/** @param encoded the light that it is wanted in, where that is known: what is kept is brought into it whole and once, not with every cut */
function valueOf(
  graph: Graph,
  hash: string,
  at: At,
  world: World,
  scratch: Scratch,
  encoded?: boolean,
): Value {
  const node = nodeOf(graph, hash);
  const op = operatorOf(node.kind);
  if (op.beforehand) {
    const made = world.made(hash);
    if (!made) throw new NotMade(node);
    return made;
  }
  const shared = (consumersOf(graph).get(hash) ?? 0) > 1;
  const before = shared ? found(scratch.get(hash), at) : undefined;
  if (before) return before;
  const keeps = world.keeps(hash);
  const place = keeps && world.keptAt ? world.keptAt(at) : at;
  const known = keeps ? world.cache.get(hash, place) : undefined;
  const made = known ?? run(graph, node, op, place, world, scratch);
  if (keeps && !known) world.cache.set(hash, place, made);
  const value = keeps && encoded !== undefined && made.is === 'light' ? inLight(made, encoded) : made;
  if (shared) scratch.set(hash, [...(scratch.get(hash) ?? []), { at: place, value }]);
  return cutValue(value, place.area, at.area);
}

/** A value that was made for the same place, or for one around it. */
function found(made: ReturnType<Scratch['get']>, { level, kernel, area }: At): Value | undefined {
  const around = made?.find(
    ({ at }) =>
      at.level === level &&
      at.kernel === kernel &&
      at.area.x <= area.x &&
      at.area.y <= area.y &&
      at.area.x + at.area.width >= area.x + area.width &&
      at.area.y + at.area.height >= area.y + area.height,
  );
  return around && cutValue(around.value, around.at.area, area);
}

/** The part of a value that lies on an area within that of the value. */
function cutValue(value: Value, from: Rectangle, area: Rectangle): Value {
  const same = from.width === area.width && from.height === area.height;
  if (same || (value.is !== 'light' && value.is !== 'mask')) return value;
  const cut = (plane: Float32Array): Float32Array => cutPlane(plane, from, area);
  return value.is === 'mask'
    ? { is: 'mask', plane: cut(value.plane) }
    : { ...value, planes: value.planes.map(cut), ...(value.alpha ? { alpha: cut(value.alpha) } : {}) };
}

/** The changes of single pixels that a node ends, with what they take; undefined where it ends none. */
function chainAt(graph: Graph, node: Node, at: At, world: World, scratch: Scratch): ReadyChain | undefined {
  const chain = pointwiseChain(graph, node, world.keeps);
  if (chain.steps.length === 0) return undefined;
  // what is kept is decoded once, not with every change of the chain
  const decoded = world.keeps(chain.from) ? false : undefined;
  const light = lightOf(valueOf(graph, chain.from, at, world, scratch, decoded), node.kind);
  const masks = chain.steps.map((s) =>
    s.mask ? maskOf(valueOf(graph, s.mask, at, world, scratch), node.kind) : undefined,
  );
  return { ...chain, masks, light: decoded === undefined ? light : inLight(light, decoded) };
}

function run(graph: Graph, node: Node, op: Operator, at: At, world: World, scratch: Scratch): Value {
  const compiled = kernels();
  const chain = compiled && chainAt(graph, node, at, world, scratch);
  if (compiled && chain) return runChain(compiled, chain);
  const isOwn = (hash: string): boolean => world.keeps(hash) || (consumersOf(graph).get(hash) ?? 0) > 1;
  const stack = compiled && layerStack(graph, node, isOwn);
  if (stack)
    return layStack(compiled, stack, {
      valueOf: (hash, encoded) => valueOf(graph, hash, at, world, scratch, encoded),
      chainOf: (hash) => (isOwn(hash) ? undefined : chainAt(graph, nodeOf(graph, hash), at, world, scratch)),
    });
  if (!op.run) throw new Error(`“${node.kind}” cannot be evaluated`);
  const inputs: (Value | undefined)[] = node.inputs.map(() => undefined);
  // last first: what looks around itself asks for more of what it changes than the mix that takes both
  for (let i = node.inputs.length - 1; i >= 0; i--) {
    const place = node.inputs[i] === '' ? undefined : op.needs ? op.needs(node.settings, at, i) : at;
    if (!place || op.skips?.(i, inputs, node.inputs)) continue;
    const encoded = op.works && op.works === 'encoded';
    const value = valueOf(graph, node.inputs[i], place, world, scratch, encoded);
    inputs[i] = value.is === 'light' && encoded !== undefined ? inLight(value, encoded) : value;
  }
  return op.run(inputs, node.settings, at);
}
