import {
  collapseInPlace,
  gaussianPyramid,
  laplacianInPlace,
  levelSize,
  type Plane,
} from '../../raster/pyramid';
import { type FusionBuffers, type FusionPlan } from '../fusionPlan';
import { salience } from './salience';

/** levels above this one hold tone, not focus: frames share them evenly */
const COARSEST = 6;

/**
 * The second step of the pyramid school, once for the whole picture: level `split` and everything coarser into `buffers.base`. Only as
 * many levels as blur reaches are chosen from; below them the frames are the same picture and their mean is taken.
 */
export function fuseFocusCoarse(plan: FusionPlan, buffers: FusionBuffers): void {
  const width = levelSize(plan.width, plan.split);
  const height = levelSize(plan.height, plan.split);
  const depth = Math.min(plan.depth, COARSEST) - plan.split;
  const plane = (data: Float32Array): Plane => ({ width, height, data });
  const sums: (Plane[] | undefined)[] = [undefined, undefined, undefined];
  const totals: Float32Array[] = [];
  for (const frame of buffers.coarse) {
    const seen = gaussianPyramid(plane(frame[3].slice()), Math.max(0, depth));
    const pyramids = [0, 1, 2].map((c) => {
      const levels = gaussianPyramid(plane(frame[c].slice()), Math.max(0, depth));
      laplacianInPlace(levels);
      return levels;
    });
    seen.forEach(({ data: inside }, l) => {
      const last = l === seen.length - 1;
      const weight = last
        ? inside.map((v) => v + 1e-6)
        : salience(
            pyramids.map((p) => p[l]),
            plan.split + l,
            0,
            inside.map((v) => (v > 0.999 ? 1 : 1e-6)),
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
  }
  sums.forEach((sum, c) => {
    if (!sum) return;
    sum.forEach(({ data }, l) => {
      for (let i = 0; i < data.length; i++) data[i] /= totals[l][i];
    });
    buffers.base[c].set(collapseInPlace(sum).data);
  });
}
