import { type CutGraph, minimumCut } from '../../cut/maxFlow';
import { type DrawnFrame } from './frameOnCanvas';

const NONE = -1;
/** what a seam costs even where the frames agree: short seams are preferred */
const LENGTH = 0.012;
/** cost that no seam pays: the border of a frame holds */
const HOLD = 1e6;
/** a place nearer to a frame's middle belongs to it, if nothing else speaks; per share of the reach */
const MIDDLE = 0.002;

/**
 * Which frame makes which cell: one frame after the other is joined to what is there along the least visible seam, a graph cut whose cost
 * is how much both sides differ, less where there is structure to hide it (Kwatra et al. 2003; Agarwala et al. 2004). A seam so goes
 * around what moved and what parallax shifts.
 * @param drawn frames on a canvas of `width` × `height` cells, their gains evened
 * @param order frames in the order in which they are joined
 * @returns [cell] frame, −1 where there is none
 */
export function seamLabels(
  drawn: readonly (DrawnFrame | undefined)[],
  width: number,
  height: number,
  order: readonly number[],
): Int16Array {
  const labels = new Int16Array(width * height).fill(NONE);
  for (const k of order) {
    const frame = drawn[k];
    if (frame) join(labels, drawn, frame, k, width, height);
  }
  return labels;
}

function join(
  labels: Int16Array,
  drawn: readonly (DrawnFrame | undefined)[],
  frame: DrawnFrame,
  k: number,
  width: number,
  height: number,
): void {
  const node = new Int32Array(labels.length).fill(NONE);
  const cells: number[] = [];
  for (let i = 0; i < labels.length; i++) {
    if (frame.inside[i] < 0) continue;
    if (labels[i] === NONE) labels[i] = k;
    else {
      node[i] = cells.length;
      cells.push(i);
    }
  }
  if (cells.length === 0) return;
  const apart = new Float32Array(cells.length);
  const terminal = new Float32Array(cells.length);
  let reach = 1;
  for (const i of cells) reach = Math.max(reach, frame.inside[i]);
  cells.forEach((i, p) => {
    const other = drawn[labels[i]];
    if (!other) return;
    for (let c = 0; c < 3; c++) apart[p] += Math.abs(frame.planes[c][i] - other.planes[c][i]);
    terminal[p] = (MIDDLE * (other.inside[i] - frame.inside[i])) / reach;
  });
  const [from, to, capacity]: [number[], number[], number[]] = [[], [], []];
  const structure = (i: number, j: number): number => {
    let sum = 0;
    const other = drawn[labels[i]];
    for (let c = 0; c < 3; c++)
      sum +=
        Math.abs(frame.planes[c][i] - frame.planes[c][j]) +
        (other ? Math.abs(other.planes[c][i] - other.planes[c][j]) : 0);
    return sum;
  };
  const meet = (p: number, i: number, j: number): void => {
    const q = node[j];
    if (q !== NONE) {
      if (j < i) return;
      from.push(p);
      to.push(q);
      capacity.push(LENGTH + (apart[p] + apart[q]) / (1 + 4 * structure(i, j)));
    } else if (labels[j] === k) terminal[p] -= HOLD;
    else if (labels[j] !== NONE) terminal[p] += HOLD;
  };
  cells.forEach((i, p) => {
    const x = i % width;
    const y = (i - x) / width;
    if (x > 0) meet(p, i, i - 1);
    if (x + 1 < width) meet(p, i, i + 1);
    if (y > 0) meet(p, i, i - width);
    if (y + 1 < height) meet(p, i, i + width);
  });
  const graph: CutGraph = {
    nodes: cells.length,
    terminal,
    from: Int32Array.from(from),
    to: Int32Array.from(to),
    capacity: Float32Array.from(capacity),
  };
  const side = minimumCut(graph);
  cells.forEach((i, p) => {
    if (side[p] === 1) labels[i] = k;
  });
}
