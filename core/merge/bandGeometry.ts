import { levelSize } from '../raster/pyramid';
import { type Rectangle } from '../raster/raster';
import { type Band, type FusionPlan } from './fusionPlan';

/** Extra rows above and below a band so that its levels 0…2 and level 3 come out as if the picture were whole: 23 are reached. */
const HALO = 24;

/** A frame's weight fades in over this share of the long edge, so that its border leaves no rim. */
export const FEATHER = 0.01;

/** The rows of the picture that a band is made from. @param reach rows beyond the band that its levels ask for */
export function bandArea({ width, height, split }: FusionPlan, band: Band, reach = HALO): Rectangle {
  const unit = 2 ** split;
  const halo = Math.ceil(reach / unit) * unit;
  const top = Math.max(0, band.top - halo);
  return { x: 0, y: top, width, height: Math.min(height, band.top + band.rows + halo) - top };
}

/** Rows of a level that a band owns. */
export function levelRows(band: Band, plan: FusionPlan, level: number): number {
  const step = 2 ** level;
  const end =
    band.top + band.rows >= plan.height ? levelSize(plan.height, level) : (band.top + band.rows) / step;
  return end - band.top / step;
}
