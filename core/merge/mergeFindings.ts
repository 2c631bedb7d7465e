import { clippedShares } from '../capture/clippedShares';
import { type Finding, judge } from '../proof/finding';
import { type Matrix3 } from '../raster/matrix3';
import { type Merged } from './exposureFusion';
import { rimStep } from './rimStep';

/** Findings of a merged picture. `frames` are those that were merged, in the order of `merged.shares`. */
export function mergeFindings(
  merged: Merged,
  frames: readonly {
    readonly width: number;
    readonly height: number;
    readonly matrix: Matrix3;
    readonly name: string;
  }[],
): Finding[] {
  const clipped = clippedShares(merged.image);
  const rim = rimStep(merged.image, frames);
  const mean = merged.shares.map((s) => s.reduce((a, b) => a + b, 0) / s.length / 2.55);
  const least = mean.reduce((best, v, i) => (v < mean[best] ? i : best), 0);
  return [
    judge('merge.burnt', 100 * clipped.light, clipped.lightAt ? { where: clipped.lightAt } : {}),
    judge('merge.black', 100 * clipped.dark, clipped.darkAt ? { where: clipped.darkAt } : {}),
    judge('merge.rim', rim.step, rim.where ? { where: rim.where } : {}),
    judge('merge.leastShare', mean[least], {
      why:
        mean[least] <= 1
          ? `${frames[least].name} adds almost nothing; the merge would be the same without it.`
          : undefined,
    }),
  ];
}
