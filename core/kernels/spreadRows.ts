import { type Rectangle } from '../raster/raster';
import { type Kernels } from './kernels';

/** A plane of cells over a picture, `cell` pixels a side. */
export interface CellGrid {
  readonly width: number;
  readonly height: number;
  readonly cell: number;
}

/** Spreads a plane of cells over an area of the picture, linearly between their middles, plus `least`, into the kernels' memory at `out`. */
export function spreadRowsKernel(
  k: Kernels,
  plane: Float32Array,
  { width, height, cell }: CellGrid,
  area: Rectangle,
  least: number,
  out: number,
): void {
  const rowOf = (y: number): number => Math.min(height - 1, Math.max(0, Math.floor((y + 0.5) / cell - 0.5)));
  const first = rowOf(area.y);
  const end = Math.min(height, rowOf(area.y + area.height - 1) + 2);
  k.borrow(() => {
    const cells = k.upload(plane.subarray(first * width, end * width));
    const line = k.take(4 * width + 16);
    k.spreadCellRows(
      ...[cells, width, height, first, cell, area.x, area.y, area.width, area.height],
      ...[least, line, out],
    );
  });
}
