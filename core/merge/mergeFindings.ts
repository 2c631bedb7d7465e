import { clippedShares } from '../capture/clippedShares';
import { type Finding, judge } from '../proof/finding';
import { type Matrix3 } from '../raster/matrix3';
import { type Merged } from './exposureFusion';
import { type Movers } from './movers/mover';
import { rimStep } from './rimStep';

/**
 * Findings of a merged picture. `frames` are those that were merged, in the order of `merged.shares`.
 * @param sharesMatter whether a frame that adds nothing is one too many
 */
export function mergeFindings(
  merged: Pick<Merged, 'image' | 'shares' | 'responseOff'> & { readonly movers?: Pick<Movers, 'list'> },
  frames: readonly {
    readonly width: number;
    readonly height: number;
    readonly matrix: Matrix3;
    readonly name: string;
  }[],
  sharesMatter = true,
): Finding[] {
  const clipped = clippedShares(merged.image);
  const rim = rimStep(merged.image, frames);
  const mean = merged.shares.map((s) => s.reduce((a, b) => a + b, 0) / s.length / 2.55);
  const least = mean.reduce((best, v, i) => (v < mean[best] ? i : best), 0);
  return [
    judge('merge.burnt', 100 * clipped.light, clipped.lightAt ? { where: clipped.lightAt } : {}),
    judge('merge.black', 100 * clipped.dark, clipped.darkAt ? { where: clipped.darkAt } : {}),
    ...(merged.movers ? [judgeMovers(merged.movers, frames)] : []),
    ...(merged.responseOff === undefined ? [] : [judge('merge.response', merged.responseOff)]),
    judge('merge.rim', rim.step, rim.where ? { where: rim.where } : {}),
    ...(sharesMatter ? [judgeLeast(mean[least], frames[least].name)] : []),
  ];
}

function judgeLeast(share: number, name: string): Finding {
  return judge('merge.leastShare', share, {
    why: share <= 1 ? `${name} adds almost nothing; the merge would be the same without it.` : undefined,
  });
}

function judgeMovers({ list }: Pick<Movers, 'list'>, frames: readonly { readonly name: string }[]): Finding {
  if (list.length === 0) return judge('merge.movers', 0);
  const largest = list.reduce((a, b) => (b.area > a.area ? b : a));
  const names = [...new Set(list.map((m) => frames[m.frame].name))].join(', ');
  return judge('merge.movers', list.length, {
    where: largest.box,
    why: `${list.length} ${list.length === 1 ? 'place shows' : 'places show'} something that moved. Each is taken from one frame alone (${names}), so that nothing doubles. Another frame can be chosen on the picture.`,
  });
}
