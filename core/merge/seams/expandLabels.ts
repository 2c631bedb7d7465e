import { minimumCut } from '../../cut/maxFlow';
import { type SeamCost } from './seamCost';

/** What is asked of labels on the cells of a grid. */
export interface LabelCosts {
  readonly width: number;
  readonly height: number;
  /** [label][cell] what it costs to have the label there, at least 0; {@link NEVER} where it cannot be */
  readonly own: readonly Float32Array[];
  /** between neighbours; a metric over the labels */
  readonly seams: SeamCost;
}

/** The cost of a label where it cannot be. */
export const NEVER = 1e5;
/** times that each label is tried, at most */
const SWEEPS = 3;

/**
 * Labels of least cost, by α-expansion (Boykov, Veksler & Zabih 2001): each label in turn takes whatever makes the whole cheaper, by a least cut; until none
 * does. The terms of pairs go into the graph as Kolmogorov & Zabih 2004 do it.
 * @param start [cell] labels to begin with
 * @param tried labels that may take cells, in this order
 * @param free [cell] 0 where the label is to stay; all may change when absent
 * @returns [cell] labels
 */
export function expandLabels(
  costs: LabelCosts,
  start: Int16Array,
  tried: readonly number[],
  free?: Uint8Array,
): Int16Array {
  const label = start.slice();
  const cells = Int32Array.from(freeCells(start.length, free));
  let idle = 0;
  for (let k = 0; idle < tried.length && k < SWEEPS * tried.length; k++)
    idle = expand(costs, label, tried[k % tried.length], cells) ? 0 : idle + 1;
  return label;
}

function* freeCells(count: number, free?: Uint8Array): Generator<number> {
  for (let i = 0; i < count; i++) if (!free || free[i]) yield i;
}

/** Lets one label take what it can of some cells. @returns whether it took anything */
function expand(
  { width: w, height: h, own, seams }: LabelCosts,
  label: Int16Array,
  alpha: number,
  cells: Int32Array,
): boolean {
  const n = cells.length;
  // every cell as a node, from 1 on; 0 where it stays as it is
  const node = new Int32Array(w * h);
  for (let k = 0; k < n; k++) node[cells[k]] = k + 1;
  const terminal = new Float32Array(n);
  const from = new Int32Array(2 * n);
  const to = new Int32Array(2 * n);
  const capacity = new Float32Array(2 * n);
  let e = 0;
  /** A pair of which the first may change, and perhaps the second. */
  const join = (k: number, i: number, j: number): void => {
    const stays = seams.between(i, j, label[i], label[j]);
    const takesI = seams.between(i, j, alpha, label[j]);
    const other = node[j] - 1;
    if (other < 0) {
      terminal[k] += takesI - stays;
      return;
    }
    const takesJ = seams.between(i, j, label[i], alpha);
    const half = Math.max(0, takesJ + takesI - stays) / 2;
    terminal[k] += takesI - stays - half;
    terminal[other] += half - takesI;
    [from[e], to[e], capacity[e]] = [k, other, half];
    e++;
  };
  for (let k = 0; k < n; k++) {
    const i = cells[k];
    const x = i % w;
    terminal[k] += label[i] === alpha ? -NEVER : own[alpha][i] - own[label[i]][i];
    if (x + 1 < w) join(k, i, i + 1);
    if (i + w < w * h) join(k, i, i + w);
    // those before it make a pair with it themselves when they may change
    if (x > 0 && node[i - 1] === 0) join(k, i, i - 1);
    if (i >= w && node[i - w] === 0) join(k, i, i - w);
  }
  const side = minimumCut({
    nodes: n,
    terminal,
    from: from.subarray(0, e),
    to: to.subarray(0, e),
    capacity: capacity.subarray(0, e),
  });
  let takes = false;
  for (let k = 0; k < n; k++)
    if (side[k] === 1 && label[cells[k]] !== alpha) {
      label[cells[k]] = alpha;
      takes = true;
    }
  return takes;
}
