import { addExpanded, gaussianPyramid, levelSize, type Plane } from '../raster/pyramid';
import { coverage, plainWarp } from '../raster/warp';
import { IDENTITY } from '../raster/matrix3';
import { kernels } from '../kernels/kernels';
import { bandArea, FEATHER, levelRows } from './bandGeometry';
import { fuseBandKernels } from './fuseBandKernels';
import {
  type Band,
  type FusionBuffers,
  type FusionFrame,
  type FusionPlan,
  type MoverTakes,
} from './fusionPlan';
import { takeMovers } from './movers/takeMovers';
import { areChosen, type BlendWeights, chosenRows } from './blendWeights';
import { mertensWeight } from './mertensWeight';

const copyRows = (from: Plane, firstRow: number, to: Float32Array, toRow: number, rows: number): void =>
  to.set(from.data.subarray(firstRow * from.width, (firstRow + rows) * from.width), toRow * from.width);

/**
 * The first of the three steps of exposure fusion (Mertens, Kautz & Van Reeth 2007), for one band: resample every frame once,
 * weigh it, normalise the weights over the frames, and blend Laplacian levels finer than `split` into `buffers.fine`. What the
 * coarser levels need is left in `buffers.coarse`.
 */
export function fuseBand(
  ...args: [
    frames: readonly FusionFrame[],
    measures: BlendWeights,
    plan: FusionPlan,
    buffers: FusionBuffers,
    band: Band,
    takes?: MoverTakes,
  ]
): void {
  const compiled = kernels();
  if (compiled) fuseBandKernels(compiled, ...args);
  else fuseBandPlain(...args);
}

/** The plain form of {@link fuseBand}: the reference that the kernels are held against. */
export function fuseBandPlain(
  frames: readonly FusionFrame[],
  measures: BlendWeights,
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
  takes?: MoverTakes,
): void {
  const { width, height, split } = plan;
  const unit = 2 ** split;
  const area = bandArea(plan, band);
  const { y: top, height: rows } = area;
  const feather = Math.max(2, FEATHER * Math.max(width, height));
  const pictures = frames.map((f) => plainWarp(f.image, f.matrix, area, 'lanczos'));
  if (takes) takeMovers(pictures, area, takes);
  const weights = frames.map((f, i) => {
    const whole = f.matrix.every((v, k) => v === IDENTITY[k]);
    const seen = whole ? undefined : coverage(f.image, f.matrix, area, feather);
    if (!areChosen(measures)) return mertensWeight(pictures[i], width, rows, measures, seen);
    const weight = new Float32Array(width * rows);
    chosenRows(measures, i, area, weight);
    if (seen) for (let k = 0; k < weight.length; k++) weight[k] *= seen[k];
    return weight;
  });
  normaliseWeights(weights);
  const accumulated = buffers.fine.map((_, level) =>
    [0, 1, 2].map(() => new Float32Array(levelSize(width, level) * levelSize(rows, level))),
  );
  frames.forEach((_, f) => {
    const weight = gaussianPyramid({ width, height: rows, data: weights[f] }, split);
    const store = (plane: Plane, channel: number): void => {
      const first = (band.top - top) / unit;
      copyRows(
        plane,
        first,
        buffers.coarse[f][channel],
        band.top / unit,
        Math.min(levelRows(band, plan, split), plane.height - first),
      );
    };
    for (let c = 0; c < 3; c++) {
      const levels = gaussianPyramid({ width, height: rows, data: pictures[f][c] }, split);
      for (let l = 0; l < split; l++) {
        addExpanded(levels[l], levels[l + 1], -1);
        const { data } = levels[l];
        const w = weight[l].data;
        const sum = accumulated[l][c];
        for (let i = 0; i < data.length; i++) sum[i] += w[i] * data[i];
      }
      store(levels[split], c);
    }
    store(weight[split], 3);
    storeShares(weight[Math.min(1, split)], band, top, plan, buffers.shares[f]);
  });
  for (let l = 0; l < split; l++) {
    const step = 2 ** l;
    for (let c = 0; c < 3; c++) {
      const plane = { width: levelSize(width, l), height: levelSize(rows, l), data: accumulated[l][c] };
      copyRows(plane, (band.top - top) / step, buffers.fine[l][c], band.top / step, levelRows(band, plan, l));
    }
  }
}

/** Divides by the sum over the frames; where no frame has any weight, the first one takes the pixel. */
function normaliseWeights(weights: readonly Float32Array[]): void {
  const n = weights[0].length;
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (const w of weights) sum += w[i];
    if (sum > 0) for (const w of weights) w[i] /= sum;
    else weights[0][i] = 1;
  }
}

function storeShares(half: Plane, band: Band, top: number, plan: FusionPlan, shares: Uint8Array): void {
  const first = (band.top - top) >> 1;
  const rows = levelRows(band, plan, 1);
  const at = (band.top >> 1) * half.width;
  for (let i = 0, j = first * half.width; i < rows * half.width && j < half.data.length; i++, j++)
    shares[at + i] = Math.round(255 * half.data[j]);
}
