import { type Kernels, planeBytes } from '../kernels/kernels';
import { warpIntoKernels } from '../kernels/warpKernel';
import { IDENTITY } from '../raster/matrix3';
import { levelSize } from '../raster/pyramid';
import { bandArea, FEATHER, levelRows } from './bandGeometry';
import {
  type Band,
  type FusionBuffers,
  type FusionFrame,
  type FusionPlan,
  type MoverTakes,
} from './fusionPlan';
import { takeMovers } from './movers/takeMovers';
import { areChosen, type BlendWeights, chosenRowsKernel } from './blendWeights';
import { SIGMA } from './mertensWeight';

const FLOAT = 4;

/** {@link fuseBand} by the compiled kernels: the same steps, each plane touched as rarely as possible. */
export function fuseBandKernels(
  k: Kernels,
  frames: readonly FusionFrame[],
  measures: BlendWeights,
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
  takes?: MoverTakes,
): void {
  const { width, height, split } = plan;
  const area = bandArea(plan, band);
  const rows = area.height;
  const sizes = Array.from({ length: split + 1 }, (_, l) => ({
    w: levelSize(width, l),
    h: levelSize(rows, l),
  }));
  const counts = sizes.map(({ w, h }) => w * h);
  const plane = planeBytes(counts[0]);
  const feather = Math.max(2, FEATHER * Math.max(width, height));
  k.borrow(() => {
    const pictures = frames.map(() => k.take(3 * plane));
    const weights = frames.map(() => k.take(plane));
    const scratch = k.take(plane);
    frames.forEach(({ image, matrix }, f) => warpIntoKernels(k, image, matrix, area, pictures[f], plane));
    if (takes) {
      const planes = pictures.map((at) => [0, 1, 2].map((c) => k.floats(at + c * plane, counts[0])));
      takeMovers(planes, area, takes);
    }
    frames.forEach(({ image, matrix }, f) => {
      if (areChosen(measures)) chosenRowsKernel(k, measures, f, area, weights[f]);
      else
        k.mertensWeights(
          ...([pictures[f], plane, width, rows, measures.contrast, measures.saturation] as const),
          (-0.5 * measures.exposedness) / (SIGMA * SIGMA),
          scratch,
          weights[f],
        );
      if (matrix.some((v, i) => v !== IDENTITY[i]))
        k.featherWeights(
          ...[weights[f], width, rows, area.x, area.y, image.width - 1, image.height - 1, feather],
          ...matrix,
        );
    });
    k.normaliseAll(k.addresses(weights), frames.length, counts[0]);

    const sums = Array.from({ length: split }, (_, l) =>
      [0, 1, 2].map(() => {
        const at = k.take(counts[l] * FLOAT);
        k.floats(at, counts[l]).fill(0);
        return at;
      }),
    );
    const levels = (): number[] => counts.slice(1).map((n) => k.take(n * FLOAT));
    const [weightLevels, pictureLevels] = [levels(), levels()];
    const ring = k.take(5 * (sizes[1]?.w ?? width) * FLOAT);
    const reduceAll = (from: number, into: readonly number[]): void =>
      into.forEach((at, l) => k.reduceLevel(l === 0 ? from : into[l - 1], sizes[l].w, sizes[l].h, at, ring));
    /** copies the rows that the band owns out of a level */
    const keep = (from: number, level: number, to: Float32Array): void => {
      const { w } = sizes[level];
      const step = 2 ** level;
      const first = (band.top - area.y) / step;
      const owned = Math.min(levelRows(band, plan, level), sizes[level].h - first);
      to.set(k.floats(from + first * w * FLOAT, owned * w), (band.top / step) * w);
    };
    frames.forEach((_, f) => {
      reduceAll(weights[f], weightLevels);
      const weightAt = [weights[f], ...weightLevels];
      for (let c = 0; c < 3; c++) {
        const finest = pictures[f] + c * plane;
        reduceAll(finest, pictureLevels);
        const at = [finest, ...pictureLevels];
        for (let l = 0; l < split; l++) {
          const [{ w, h }, coarse] = [sizes[l], sizes[l + 1]];
          k.blendLevel(sums[l][c], weightAt[l], at[l], w, h, at[l + 1], coarse.w, coarse.h, scratch);
        }
        keep(at[split], split, buffers.coarse[f][c]);
      }
      keep(weightAt[split], split, buffers.coarse[f][3]);
      const half = Math.min(1, split);
      const { w } = sizes[half];
      const first = (band.top - area.y) >> 1;
      const owned = Math.min(levelRows(band, plan, 1), sizes[half].h - first);
      k.toBytes(weightAt[half] + first * w * FLOAT, owned * w, scratch);
      buffers.shares[f].set(k.bytes(scratch, owned * w), (band.top >> 1) * w);
    });
    for (let l = 0; l < split; l++) for (let c = 0; c < 3; c++) keep(sums[l][c], l, buffers.fine[l][c]);
  });
}
