import { gridRow } from '../../raster/reducedGrid';
import { type MoverTakes } from '../fusionPlan';

/**
 * Counts things that were laid in for the frames that they are of.
 * @param shares [frame][pixel of half size] share 0…255 in the picture, changed in place
 * @param width of the picture, full-size pixels
 */
export function shareThings(shares: readonly Uint8Array[], takes: MoverTakes, width: number): void {
  const w = (width + 1) >> 1;
  const half = { ...takes, level: takes.level - 1 };
  const row = new Float32Array(w);
  takes.planes.forEach((take, from) => {
    if (!take) return;
    for (let y = 0; y * w < shares[from].length; y++) {
      if (!gridRow(row, take, half, 0, y)) continue;
      for (let x = 0, at = y * w; x < w; x++, at++)
        shares.forEach((share, f) => {
          share[at] = Math.round(share[at] + row[x] * ((f === from ? 255 : 0) - share[at]));
        });
    }
  });
}
