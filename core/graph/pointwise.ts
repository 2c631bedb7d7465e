import { type Graph, type Node } from './graph';
import { OPERATORS } from './operators';
import { type Chain, type Step } from './runChain';

/**
 * The longest run of changes that ends at a node and looks at one pixel at a time, so that memory is touched once for all of them. A node
 * whose tiles are kept ends it.
 */
export function pointwiseChain(graph: Graph, last: Node, keeps: (hash: string) => boolean): Chain {
  const steps: Step[] = [];
  let node: Node | undefined = last;
  let from = last.hash;
  while (node && (node === last || !keeps(node.hash))) {
    const next = stepOf(graph, node, keeps);
    if (!next) break;
    steps.unshift(next.step);
    from = next.from;
    node = graph.get(from);
  }
  return { from, steps };
}

function stepOf(
  graph: Graph,
  node: Node,
  keeps: (hash: string) => boolean,
): { readonly step: Step; readonly from: string } | undefined {
  const own = OPERATORS.get(node.kind)?.within;
  if (own) return { step: { within: (k) => own(k, node.settings), amount: 1 }, from: node.inputs[0] };
  if (node.kind !== 'mix') return undefined;
  const [before, changed, mask] = node.inputs;
  const change = graph.get(changed);
  const within = change && OPERATORS.get(change.kind)?.within;
  if (!within || change.inputs[0] !== before || keeps(changed)) return undefined;
  const { amount } = node.settings as { readonly amount: number };
  return {
    step: { within: (k) => within(k, change.settings), amount, ...(mask ? { mask } : {}) },
    from: before,
  };
}
