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
 * @returns [cell] labels
 */
export function expandLabels(costs: LabelCosts, start: Int16Array, tried: readonly number[]): Int16Array {
  const label = start.slice();
  let idle = 0;
  for (let k = 0; idle < tried.length && k < SWEEPS * tried.length; k++)
    idle = expand(costs, label, tried[k % tried.length]) ? 0 : idle + 1;
  return label;
}

/** Lets one label take what it can. @returns whether it took anything */
function expand({ width: w, height: h, own, seams }: LabelCosts, label: Int16Array, alpha: number): boolean {
  const n = w * h;
  const edges = w * (h - 1) + h * (w - 1);
  const terminal = new Float32Array(n);
  const from = new Int32Array(edges);
  const to = new Int32Array(edges);
  const capacity = new Float32Array(edges);
  for (let i = 0; i < n; i++) terminal[i] = label[i] === alpha ? -NEVER : own[alpha][i] - own[label[i]][i];
  let e = 0;
  const join = (i: number, j: number): void => {
    const stays = seams.between(i, j, label[i], label[j]);
    const takesJ = seams.between(i, j, label[i], alpha);
    const takesI = seams.between(i, j, alpha, label[j]);
    const half = Math.max(0, takesJ + takesI - stays) / 2;
    terminal[i] += takesI - stays - half;
    terminal[j] += half - takesI;
    [from[e], to[e], capacity[e]] = [i, j, half];
    e++;
  };
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      if (x + 1 < w) join(i, i + 1);
      if (y + 1 < h) join(i, i + w);
    }
  const side = minimumCut({ nodes: n, terminal, from, to, capacity });
  let takes = false;
  for (let i = 0; i < n; i++)
    if (side[i] === 1 && label[i] !== alpha) {
      label[i] = alpha;
      takes = true;
    }
  return takes;
}
