import { addExpanded, gaussianPyramid, levelSize, type Plane } from '../../raster/pyramid';
import { coverage, plainWarp } from '../../raster/warp';
import { kernels } from '../../kernels/kernels';
import { noiseVariance } from '../../capture/noise';
import { bandArea, levelRows } from '../bandGeometry';
import { type Band, type FusionBuffers, type FusionFrame, type FusionPlan } from '../fusionPlan';
import { fuseFocusKernels } from './fuseFocusKernels';
import { REACH } from './reach';
import { salience } from './salience';

/** a place that no frame covers still gets the first one's border */
const TINY = 1e-6;

/**
 * The pyramid school of focus merging for one band: in each level of the Laplacian pyramids finer than `split`, every place goes to the
 * frame that shows most detail there (Burt & Kolczynski 1993). Fills `buffers` as the blend by weights does, so that the same last step
 * rebuilds the picture; the coarse levels follow in `fuseFocusCoarse`.
 */
export function fuseFocusBand(
  ...args: [frames: readonly FusionFrame[], plan: FusionPlan, buffers: FusionBuffers, band: Band]
): void {
  const compiled = kernels();
  if (compiled) fuseFocusKernels(compiled, ...args);
  else fuseFocusBandPlain(...args);
}

/** The plain form of {@link fuseFocusBand}: the reference that the kernels are held against. */
export function fuseFocusBandPlain(
  frames: readonly FusionFrame[],
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
): void {
  const { width, split } = plan;
  const area = bandArea(plan, band, REACH);
  const rows = area.height;
  const levels = buffers.fine.map((_, l) => levelSize(width, l) * levelSize(rows, l));
  const sums = levels.map((n) => [0, 1, 2].map(() => new Float32Array(n)));
  const totals = levels.map((n) => new Float32Array(n));
  /** [frame] what it counts for on the half-size picture */
  const halves: Float32Array[] = [];
  frames.forEach(({ image, matrix, noise = noiseVariance(image) }, f) => {
    const seen = gaussianPyramid({ width, height: rows, data: coverage(image, matrix, area, 0) }, split);
    const pyramids = plainWarp(image, matrix, area, 'lanczos').map((data) =>
      gaussianPyramid({ width, height: rows, data }, split),
    );
    pyramids.forEach((pyramid, c) => keep(pyramid[split], buffers.coarse[f][c], band, area.y, plan, split));
    keep(seen[split], buffers.coarse[f][3], band, area.y, plan, split);
    for (const pyramid of pyramids)
      for (let l = 0; l < split; l++) addExpanded(pyramid[l], pyramid[l + 1], -1);
    for (let l = 0; l < split; l++) {
      const planes = pyramids.map((p) => p[l]);
      const weight = salience(planes, l, noise, whole(seen[l].data));
      const total = totals[l];
      for (let i = 0; i < total.length; i++) total[i] += weight[i];
      sums[l].forEach((sum, c) => {
        const { data } = planes[c];
        for (let i = 0; i < sum.length; i++) sum[i] += weight[i] * data[i];
      });
      if (l === Math.min(1, split - 1)) halves.push(weight);
    }
  });
  for (let l = 0; l < split; l++) {
    const size = { width: levelSize(width, l), height: levelSize(rows, l) };
    sums[l].forEach((sum, c) => {
      for (let i = 0; i < sum.length; i++) sum[i] /= totals[l][i];
      keep({ ...size, data: sum }, buffers.fine[l][c], band, area.y, plan, l);
    });
  }
  if (split < 2) return;
  const first = ((band.top - area.y) >> 1) * levelSize(width, 1);
  const owned = levelRows(band, plan, 1) * levelSize(width, 1);
  const to = (band.top >> 1) * levelSize(width, 1);
  halves.forEach((weight, f) => {
    for (let i = 0; i < owned; i++)
      buffers.shares[f][to + i] = Math.round((255 * weight[first + i]) / totals[1][first + i]);
  });
}

/** 1 where all of a cell is seen, next to nothing elsewhere. */
function whole(seen: Float32Array): Float32Array {
  return seen.map((v) => (v > 0.999 ? 1 : TINY));
}

/** Copies the rows of a level that the band owns. */
function keep(
  { width, height, data }: Plane,
  to: Float32Array,
  band: Band,
  top: number,
  plan: FusionPlan,
  level: number,
): void {
  const step = 2 ** level;
  const first = (band.top - top) / step;
  const owned = Math.min(levelRows(band, plan, level), height - first);
  to.set(data.subarray(first * width, (first + owned) * width), (band.top / step) * width);
}
