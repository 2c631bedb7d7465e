import { collapseInPlace, gaussianPyramid, laplacianInPlace, levelSize, type Plane } from '../raster/pyramid';
import { type FusionBuffers, type FusionPlan } from './fusionPlan';

/** The second step of exposure fusion, once for the whole picture: blends level `split` and everything coarser into `buffers.base`. */
export function fuseCoarse(plan: FusionPlan, buffers: FusionBuffers): void {
  const width = levelSize(plan.width, plan.split);
  const height = levelSize(plan.height, plan.split);
  const depth = plan.depth - plan.split;
  const plane = (data: Float32Array): Plane => ({ width, height, data });
  const weights = buffers.coarse.map((frame) => gaussianPyramid(plane(frame[3]), depth));
  for (let c = 0; c < 3; c++) {
    let sum: Plane[] = [];
    buffers.coarse.forEach((frame, f) => {
      const levels = gaussianPyramid(plane(frame[c].slice()), depth);
      laplacianInPlace(levels);
      levels.forEach(({ data }, l) => {
        const w = weights[f][l].data;
        for (let i = 0; i < data.length; i++) data[i] *= w[i];
      });
      if (f === 0) sum = levels;
      else
        levels.forEach(({ data }, l) => {
          const total = sum[l].data;
          for (let i = 0; i < data.length; i++) total[i] += data[i];
        });
    });
    buffers.base[c].set(collapseInPlace(sum).data);
  }
}
