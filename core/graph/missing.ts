import { type Graph, type Node } from './graph';
import { OPERATORS } from './operators';

/** What must be made before some nodes can be evaluated, in the order in which it can be made. @param made whether a node's value is at hand */
export function missing(graph: Graph, wanted: readonly string[], made: (hash: string) => boolean): Node[] {
  const needed: Node[] = [];
  const seen = new Set<string>();
  const visit = (hash: string): void => {
    const node = graph.get(hash);
    if (!node || seen.has(hash)) return;
    seen.add(hash);
    const beforehand = OPERATORS.get(node.kind)?.beforehand === true;
    // what is made asks for nothing any more
    if (beforehand && made(hash)) return;
    node.inputs.forEach(visit);
    if (beforehand) needed.push(node);
  };
  wanted.forEach(visit);
  return needed;
}

/** The nodes that are evaluated to draw some, inputs first: what was made beforehand is taken as it is, whatever it was made from. */
export function drawable(graph: Graph, wanted: readonly string[]): Node[] {
  const order = new Map<string, Node>();
  const visit = (hash: string): void => {
    const node = graph.get(hash);
    if (!node || order.has(hash)) return;
    if (!OPERATORS.get(node.kind)?.beforehand) node.inputs.forEach(visit);
    order.set(hash, node);
  };
  wanted.forEach(visit);
  return [...order.values()];
}

/** Whether a node is made beforehand. */
export const isBeforehand = ({ kind }: Pick<Node, 'kind'>): boolean =>
  OPERATORS.get(kind)?.beforehand === true;
