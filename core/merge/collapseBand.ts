import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type EncodedImage } from '../raster/encodedImage';
import { addExpanded, levelSize, type Plane } from '../raster/pyramid';
import { type Band, type FusionBuffers, type FusionPlan } from './fusionPlan';

/** Rows of margin at level `split`: each expansion reaches one coarse row beyond, and the last one must be a whole one. */
const MARGIN = 2;

/**
 * The last step of exposure fusion for one band: rebuilds the finest level from the fused Laplacian and writes it into `merged`
 * (16 bit, sRGB-encoded; a pixel beyond white is scaled back to it, so that its hue stays).
 */
export function collapseBand(
  ...args: [plan: FusionPlan, buffers: FusionBuffers, band: Band, merged: EncodedImage]
): void {
  const compiled = kernels();
  if (compiled) collapseBandKernels(compiled, ...args);
  else collapseBandPlain(...args);
}

/** The coarse rows that a band is rebuilt from. */
function coarseRows({ height, split }: FusionPlan, band: Band): { first: number; end: number } {
  const unit = 2 ** split;
  return {
    first: Math.max(0, band.top / unit - MARGIN),
    end: Math.min(levelSize(height, split), Math.ceil((band.top + band.rows) / unit) + MARGIN),
  };
}

/** {@link collapseBand} by the compiled kernels. */
function collapseBandKernels(
  k: Kernels,
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
  merged: EncodedImage,
): void {
  const { width, height, split } = plan;
  const { first, end } = coarseRows(plan, band);
  const levels = Array.from({ length: split + 1 }, (_, l) => {
    const step = 2 ** (split - l);
    const w = levelSize(width, l);
    const h = Math.min(levelSize(height, l), end * step) - first * step;
    return { w, h, from: first * step * w };
  });
  const count = band.rows * width;
  k.borrow(() => {
    const plane = planeBytes(levels[0].w * levels[0].h);
    const finest = k.take(3 * plane);
    const line = k.take(width * 4);
    const out = k.take(count * 6);
    for (let c = 0; c < 3; c++)
      k.borrow(() => {
        const at = levels.map(({ w, h, from }, l) => {
          const p = l === 0 ? finest + c * plane : k.take(w * h * 4);
          const data = l === split ? buffers.base[c] : buffers.fine[l][c];
          k.floats(p, w * h).set(data.subarray(from, from + w * h));
          return p;
        });
        for (let l = split - 1; l >= 0; l--) {
          const [fine, coarse] = [levels[l], levels[l + 1]];
          k.addExpandedLevel(at[l], fine.w, fine.h, at[l + 1], coarse.w, coarse.h, 1, line);
        }
      });
    k.toCodes16(finest + (band.top * width - levels[0].from) * 4, plane, count, out);
    merged.data.set(k.words(out, count * 3), band.top * width * 3);
  });
}

/** The plain form of {@link collapseBand}: the reference that the kernels are held against. */
export function collapseBandPlain(
  plan: FusionPlan,
  buffers: FusionBuffers,
  band: Band,
  merged: EncodedImage,
): void {
  const { width, height, split } = plan;
  const unit = 2 ** split;
  const { first: firstCoarse, end: endCoarse } = coarseRows(plan, band);
  const planes = [0, 1, 2].map((c) => {
    let below: Plane = rowsOf(buffers.base[c], levelSize(width, split), firstCoarse, endCoarse);
    for (let l = split - 1; l >= 0; l--) {
      const step = 2 ** (split - l);
      const end = Math.min(levelSize(height, l), endCoarse * step);
      const level = rowsOf(buffers.fine[l][c], levelSize(width, l), firstCoarse * step, end);
      addExpanded(level, below, 1);
      below = level;
    }
    return below.data;
  });
  const { data, white } = merged;
  const from = (band.top - firstCoarse * unit) * width;
  const to = band.top * width * 3;
  for (let i = 0; i < band.rows * width; i++) {
    const [r, g, b] = [planes[0][from + i], planes[1][from + i], planes[2][from + i]];
    // the blend overshoots beside lamps: clipping each channel by itself would turn their glow yellow and green
    const scale = white / Math.max(1, r, g, b);
    data[to + i * 3] = Math.max(0, r * scale + 0.5);
    data[to + i * 3 + 1] = Math.max(0, g * scale + 0.5);
    data[to + i * 3 + 2] = Math.max(0, b * scale + 0.5);
  }
}

/** A copy, so that neighbouring bands still find the Laplacian. */
function rowsOf(data: Float32Array, width: number, first: number, end: number): Plane {
  return { width, height: end - first, data: data.slice(first * width, end * width) };
}
