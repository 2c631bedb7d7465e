import { type GridFrame } from '../frameOnGrid';

/** what a seam costs for each cell of its length, so that it is short where all frames agree; encoded 0…1 */
const LENGTH = 0.004;
/** step between two cells from which a seam is hidden half, encoded 0…1 */
const HIDES = 0.04;

/** What it costs to cut between two cells that lie beside each other. */
export interface SeamCost {
  /** between cell i, of frame a, and cell j, of frame b; 0 for one frame; never more by way of a third frame */
  readonly between: (i: number, j: number, a: number, b: number) => number;
}

/**
 * How much a seam between two frames would show (Agarwala et al. 2004, “matching colors & edges”): by how far they differ on both of its sides, less where all
 * frames have an edge of their own there. One edge for all frames keeps it a metric, so that labels can be expanded.
 * @param stride cells of a row
 */
export function seamCost(frames: readonly GridFrame[], stride: number): SeamCost {
  const n = frames[0].seen.length;
  const [right, below] = [1, stride].map((step) => {
    const edge = new Float32Array(n);
    for (let i = 0; i + step < n; i++) {
      let sum = 0;
      for (const { planes } of frames) {
        let most = 0;
        for (const p of planes) most = Math.max(most, Math.abs(p[i] - p[i + step]));
        sum += most;
      }
      edge[i] = HIDES / (HIDES + sum / frames.length);
    }
    return edge;
  });
  const apart = (i: number, a: number, b: number): number => {
    const [p, q] = [frames[a].planes, frames[b].planes];
    return (Math.abs(p[0][i] - q[0][i]) + Math.abs(p[1][i] - q[1][i]) + Math.abs(p[2][i] - q[2][i])) / 3;
  };
  return {
    between: (i, j, a, b) => {
      if (a === b) return 0;
      const [first, step] = i < j ? [i, j - i] : [j, i - j];
      const hidden = step === 1 ? right[first] : below[first];
      return LENGTH + (apart(i, a, b) + apart(j, a, b)) * hidden;
    },
  };
}
