import { kernels } from '../kernels/kernels';
import { type Graph, type Node } from './graph';
import { inLight } from './light';
import { type Operator } from './operator';
import { OPERATORS } from './operators';
import { pointwiseChain, runChain } from './pointwise';
import { type At, type Value } from './tile';
import { type TileCache } from './tileCache';
import { lightOf, maskOf } from './wanted';

/** What a graph is evaluated with. */
export interface World {
  /** what was made beforehand, by the hash of its node */
  readonly made: (hash: string) => Value | undefined;
  readonly cache: TileCache;
  /** whether tiles of a node are worth keeping */
  readonly keeps: (hash: string) => boolean;
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

/**
 * What a node gives at a place. The same graph gives the same values for the same place, down to the last bit, on every machine: views,
 * findings and files ask for tiles of one layout, so that they agree.
 * @throws NotMade where something made beforehand is missing
 */
export function evaluate(graph: Graph, hash: string, at: At, world: World): Value {
  const node = nodeOf(graph, hash);
  const op = operatorOf(node.kind);
  if (op.beforehand) {
    const made = world.made(hash);
    if (!made) throw new NotMade(node);
    return made;
  }
  const { level, area, kernel } = at;
  const keeps = world.keeps(hash);
  const key = `${hash} ${level} ${area.x} ${area.y} ${area.width} ${area.height} ${kernel}`;
  const known = keeps ? world.cache.get(key) : undefined;
  if (known) return known;
  const value = run(graph, node, op, at, world);
  if (keeps) world.cache.set(key, value);
  return value;
}

function run(graph: Graph, node: Node, op: Operator, at: At, world: World): Value {
  const compiled = kernels();
  const chain = compiled && pointwiseChain(graph, node, world.keeps);
  if (compiled && chain && chain.steps.length > 0) {
    const from = lightOf(evaluate(graph, chain.from, at, world), node.kind);
    const masks = chain.steps.map((s) =>
      s.mask ? maskOf(evaluate(graph, s.mask, at, world), node.kind) : undefined,
    );
    return runChain(compiled, from, chain, masks);
  }
  if (!op.run) throw new Error(`“${node.kind}” cannot be evaluated`);
  const inputs = node.inputs.map((input, i) => {
    if (input === '') return undefined;
    const place = op.needs ? op.needs(node.settings, at, i) : at;
    if (!place) return undefined;
    const value = evaluate(graph, input, place, world);
    return value.is === 'light' && op.works ? inLight(value, op.works === 'encoded') : value;
  });
  return op.run(inputs, node.settings, at);
}
