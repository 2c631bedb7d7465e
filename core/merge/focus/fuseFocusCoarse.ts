import {
  collapseInPlace,
  gaussianPyramid,
  laplacianInPlace,
  levelSize,
  type Plane,
} from '../../raster/pyramid';
import { type FusionBuffers, type FusionPlan } from '../fusionPlan';
import { salience } from './salience';

/** levels above this one hold tone, not focus: there frames count by how much of the fine detail around is theirs */
const COARSEST = 6;

/** what every frame counts for, however little of the fine detail is its own */
const LEAST_SHARE = 0.01;

/** How much of the fine detail around a place is a frame's, at level `split` and those above: where it is sharp its tone is true, too. */
function finePrior(
  share: Uint8Array,
  { width, height, split }: FusionPlan,
  depth: number,
): Plane[] | undefined {
  if (split < 2) return undefined;
  const half = { width: levelSize(width, 1), height: levelSize(height, 1) };
  const all = gaussianPyramid({ ...half, data: Float32Array.from(share, (v) => v / 255) }, split - 1 + depth);
  return all.slice(split - 1);
}

/**
 * The second step of the pyramid school, once for the whole picture: level `split` and everything coarser into `buffers.base`. Only as
 * many levels as blur reaches are chosen from; below them the tone is that of the frames that are sharp around a place, or of all alike where none is.
 */
export function fuseFocusCoarse(plan: FusionPlan, buffers: FusionBuffers): void {
  const width = levelSize(plan.width, plan.split);
  const height = levelSize(plan.height, plan.split);
  const depth = Math.min(plan.depth, COARSEST) - plan.split;
  const plane = (data: Float32Array): Plane => ({ width, height, data });
  const priors = buffers.shares.map((share) => finePrior(share, plan, Math.max(0, depth)));
  const sums: (Plane[] | undefined)[] = [undefined, undefined, undefined];
  const totals: Float32Array[] = [];
  buffers.coarse.forEach((frame, f) => {
    const seen = gaussianPyramid(plane(frame[3].slice()), Math.max(0, depth));
    const pyramids = [0, 1, 2].map((c) => {
      const levels = gaussianPyramid(plane(frame[c].slice()), Math.max(0, depth));
      laplacianInPlace(levels);
      return levels;
    });
    seen.forEach(({ data: inside }, l) => {
      const last = l === seen.length - 1;
      const prior = priors[f]?.[l].data;
      const counts = inside.map(
        (v, i) => (v > 0.999 ? 1 : 1e-6) * (prior ? (prior[i] + LEAST_SHARE) ** 3 : 1),
      );
      const weight = last
        ? counts
        : salience(
            pyramids.map((p) => p[l]),
            plan.split + l,
            0,
            counts,
          );
      totals[l] ??= new Float32Array(weight.length);
      for (let i = 0; i < weight.length; i++) totals[l][i] += weight[i];
      for (const levels of pyramids) {
        const { data } = levels[l];
        for (let i = 0; i < data.length; i++) data[i] *= weight[i];
      }
    });
    pyramids.forEach((levels, c) => {
      const sum = sums[c];
      if (!sum) sums[c] = levels;
      else
        levels.forEach(({ data }, l) => {
          const total = sum[l].data;
          for (let i = 0; i < data.length; i++) total[i] += data[i];
        });
    });
  });
  sums.forEach((sum, c) => {
    if (!sum) return;
    sum.forEach(({ data }, l) => {
      for (let i = 0; i < data.length; i++) data[i] /= totals[l][i];
    });
    buffers.base[c].set(collapseInPlace(sum).data);
  });
}
