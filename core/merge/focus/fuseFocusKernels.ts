import { noiseVariance } from '../../capture/noise';
import { type Kernels, planeBytes } from '../../kernels/kernels';
import { warpIntoKernels } from '../../kernels/warpKernel';
import { levelSize } from '../../raster/pyramid';
import { bandArea, levelRows } from '../bandGeometry';
import { type Band, type FusionBuffers, type FusionFrame, type FusionPlan } from '../fusionPlan';
import { REACH } from './reach';
import { salienceFloor, WINDOW } from './salience';

/** {@link fuseFocusBand} by the compiled kernels: the same steps. */
export function fuseFocusKernels(
  k: Kernels,
  frames: readonly FusionFrame[],
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
): void {
  const { width, split } = plan;
  const area = bandArea(plan, band, REACH);
  const sizes = Array.from({ length: split + 1 }, (_, l) => ({
    w: levelSize(width, l),
    h: levelSize(area.height, l),
  }));
  const counts = sizes.map(({ w, h }) => w * h);
  const plane = planeBytes(counts[0]);
  const fused = Math.max(1, split);
  /** copies the rows that the band owns out of a level */
  const keep = (from: number, level: number, to: Float32Array): void => {
    const { w, h } = sizes[level];
    const step = 2 ** level;
    const first = (band.top - area.y) / step;
    const owned = Math.min(levelRows(band, plan, level), h - first);
    to.set(k.floats(from + first * w * 4, owned * w), (band.top / step) * w);
  };
  k.borrow(() => {
    const empty = (n: number): number => {
      const at = k.take(4 * n);
      k.floats(at, n).fill(0);
      return at;
    };
    const sums = counts.slice(0, fused).map((n) => [0, 1, 2].map(() => empty(n)));
    const totals = counts.slice(0, fused).map(empty);
    const sumLists = sums.map(k.addresses);
    const finest = k.take(4 * plane);
    const levelsOf = (from: number): number[] => [from, ...counts.slice(1).map((n) => k.take(4 * n))];
    const [red, green, blue, seen] = [0, 1, 2, 3].map((c) => levelsOf(finest + c * plane));
    const planeLists = counts.map((_, l) => k.addresses([red[l], green[l], blue[l]]));
    const [local, work, rows] = [k.take(plane), k.take(plane), k.take(plane)];
    const ring = k.take(5 * 4 * (width + 4));
    const column = k.take(8 * (width + 4));
    const half = Math.min(1, split - 1);
    const halves = frames.map(() => k.take(4 * counts[Math.max(0, half)]));
    frames.forEach(({ image, matrix, noise = noiseVariance(image) }, f) => {
      warpIntoKernels(k, image, matrix, area, finest, plane);
      k.floats(seen[0], counts[0]).fill(1);
      k.featherWeights(
        ...[seen[0], width, area.height, area.x, area.y, image.width - 1, image.height - 1, 0.5],
        ...matrix,
      );
      [red, green, blue, seen].forEach((levels, c) => {
        for (let l = 0; l < split; l++) k.reduceLevel(levels[l], sizes[l].w, sizes[l].h, levels[l + 1], ring);
        keep(levels[split], split, buffers.coarse[f][c]);
        if (c < 3)
          for (let l = 0; l < split; l++) {
            const [fine, coarse] = [sizes[l], sizes[l + 1]];
            k.addExpandedLevel(levels[l], fine.w, fine.h, levels[l + 1], coarse.w, coarse.h, -1, ring);
          }
      });
      for (let l = 0; l < split; l++) {
        const { w, h } = sizes[l];
        const { own, floor } = salienceFloor(3, l, noise);
        k.energyPlane(red[l], green[l], blue[l], counts[l], work);
        const weight = l === half ? halves[f] : local;
        k.meanPlane(work, w, h, WINDOW, weight, rows, column);
        k.addBySalience(
          ...[weight, seen[l], counts[l], own, 1 / floor],
          ...[planeLists[l], sumLists[l], totals[l]],
        );
      }
    });
    for (let l = 0; l < split; l++)
      sums[l].forEach((sum, c) => {
        k.dividePlane(sum, totals[l], counts[l]);
        keep(sum, l, buffers.fine[l][c]);
      });
    if (split < 2) return;
    const { w } = sizes[1];
    const first = ((band.top - area.y) >> 1) * w;
    const owned = Math.min(levelRows(band, plan, 1), sizes[1].h - first / w) * w;
    halves.forEach((weight, f) => {
      k.dividePlane(weight, totals[1], counts[1]);
      k.toBytes(weight + 4 * first, owned, work);
      buffers.shares[f].set(k.bytes(work, owned), (band.top >> 1) * w);
    });
  });
}
