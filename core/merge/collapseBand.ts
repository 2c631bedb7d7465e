import { type EncodedImage } from '../raster/encodedImage';
import { addExpanded, levelSize, type Plane } from '../raster/pyramid';
import { type Band, type FusionBuffers, type FusionPlan } from './fusionPlan';

/** Rows of margin at level `split`: each expansion reaches one coarse row beyond, and the last one must be a whole one. */
const MARGIN = 2;

/**
 * The last step of exposure fusion for one band: rebuilds the finest level from the fused Laplacian and writes it into `merged`
 * (16 bit, sRGB-encoded, clipped to 0…white).
 */
export function collapseBand(
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
  merged: EncodedImage,
): void {
  const { width, height, split } = plan;
  const unit = 2 ** split;
  const firstCoarse = Math.max(0, band.top / unit - MARGIN);
  const endCoarse = Math.min(levelSize(height, split), Math.ceil((band.top + band.rows) / unit) + MARGIN);
  const { data, white } = merged;
  for (let c = 0; c < 3; c++) {
    let below: Plane = rowsOf(buffers.base[c], levelSize(width, split), firstCoarse, endCoarse);
    for (let l = split - 1; l >= 0; l--) {
      const step = 2 ** (split - l);
      const end = Math.min(levelSize(height, l), endCoarse * step);
      const level = rowsOf(buffers.fine[l][c], levelSize(width, l), firstCoarse * step, end);
      addExpanded(level, below, 1);
      below = level;
    }
    const from = (band.top - firstCoarse * unit) * width;
    const to = band.top * width;
    for (let i = 0; i < band.rows * width; i++)
      data[(to + i) * 3 + c] = Math.min(white, Math.max(0, below.data[from + i] * white + 0.5));
  }
}

/** A copy, so that neighbouring bands still find the Laplacian. */
function rowsOf(data: Float32Array, width: number, first: number, end: number): Plane {
  return { width, height: end - first, data: data.slice(first * width, end * width) };
}
