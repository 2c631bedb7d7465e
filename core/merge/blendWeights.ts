import { type Kernels } from '../kernels/kernels';
import { spreadRowsKernel } from '../kernels/spreadRows';
import { type Rectangle } from '../raster/raster';
import { gridRow, type ReducedGrid } from '../raster/reducedGrid';
import { type FusionMeasures } from './mertensWeight';

/** Weights that were worked out beforehand: which frame makes which place. */
export interface ChosenWeights extends ReducedGrid {
  /** [frame] share 0…1 for each cell */
  readonly planes: readonly Float32Array[];
}

/** How a blend weighs its frames: by the quality of each pixel, or as chosen. */
export type BlendWeights = FusionMeasures | ChosenWeights;

/** Whether the weights were worked out beforehand. */
export function areChosen(weights: BlendWeights): weights is ChosenWeights {
  return 'planes' in weights;
}

const TINY = 1e-6;

/** Fills one frame's weights for the rows of a band; never quite 0, so that a place no other frame covers is still made. */
export function chosenRows(chosen: ChosenWeights, frame: number, area: Rectangle, out: Float32Array): void {
  const plane = chosen.planes[frame];
  for (let y = 0; y < area.height; y++) {
    const row = out.subarray(y * area.width, (y + 1) * area.width);
    if (gridRow(row, plane, chosen, area.x, area.y + y)) for (let x = 0; x < row.length; x++) row[x] += TINY;
    else row.fill(TINY);
  }
}

/** {@link chosenRows} by the compiled kernels, into their memory at `out`. */
export function chosenRowsKernel(
  k: Kernels,
  { planes, width, height, level }: ChosenWeights,
  frame: number,
  area: Rectangle,
  out: number,
): void {
  spreadRowsKernel(k, planes[frame], { width, height, cell: 2 ** level }, area, TINY, out);
}
