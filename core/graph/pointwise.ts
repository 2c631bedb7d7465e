import { type Kernels, planeBytes } from '../kernels/kernels';
import { type Graph, type Node } from './graph';
import { type Within } from './operator';
import { OPERATORS } from './operators';
import { type LightTile, type MaskTile } from './tile';

/** One change of a chain, and how far it is taken over. */
interface Step {
  readonly within: (k: Kernels) => Within;
  /** 1 takes it whole */
  readonly amount: number;
  /** hash of the mask by which it is taken over; absent for everywhere */
  readonly mask?: string;
}

/** Changes that look at one pixel at a time, one after the other. */
export interface Chain {
  /** hash of the node that they begin at */
  readonly from: string;
  /** first change first */
  readonly steps: readonly Step[];
}

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

/** pixels that are taken through all changes at a time, so that they stay in the cache */
const CHUNK = 1 << 14;

/** Runs a chain over a tile. @param masks of its steps, in their order @returns linear light */
export function runChain(
  k: Kernels,
  from: LightTile,
  { steps }: Chain,
  masks: readonly (MaskTile | undefined)[],
): LightTile {
  const [{ length }] = from.planes;
  const out = from.planes.map(() => new Float32Array(length));
  k.borrow(() => {
    const plane = planeBytes(CHUNK);
    const at = k.take(3 * plane);
    const mixes = steps.some((s) => s.amount < 1 || s.mask !== undefined);
    const [before, share] = mixes ? [k.take(3 * plane), k.take(plane)] : [0, 0];
    const runs = steps.map((s) => s.within(k));
    for (let first = 0; first < length; first += CHUNK) {
      const count = Math.min(CHUNK, length - first);
      from.planes.forEach((p, c) => {
        k.floats(at + c * plane, count).set(p.subarray(first, first + count));
        if (from.encoded) k.decodePlane(at + c * plane, count, 1);
      });
      steps.forEach(({ amount }, i) => {
        const mask = masks[i]?.plane.subarray(first, first + count);
        if (mask?.every((v) => v === 0)) return;
        const partly = amount < 1 || mask !== undefined;
        if (partly)
          for (let c = 0; c < 3; c++)
            k.floats(before + c * plane, count).set(k.floats(at + c * plane, count));
        runs[i](at, plane, count);
        if (!partly) return;
        if (mask) k.floats(share, count).set(mask);
        for (let c = 0; c < 3; c++)
          k.mixPlane(at + c * plane, before + c * plane, mask ? share : 0, count, amount);
      });
      out.forEach((p, c) => p.set(k.floats(at + c * plane, count), first));
    }
  });
  return { is: 'light', planes: out, encoded: false, ...(from.alpha ? { alpha: from.alpha } : {}) };
}
