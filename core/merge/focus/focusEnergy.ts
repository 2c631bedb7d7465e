import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3 } from '../../raster/matrix3';
import { sharedFloats } from '../../raster/raster';
import { type ReducedGrid, reducedGrid } from '../../raster/reducedGrid';
import { coverage, warpImage } from '../../raster/warp';
import { noiseSigma } from '../../capture/noise';

/** How sharp one fitted frame is at every place of the reference's grid, halved. */
export interface FocusEnergy extends ReducedGrid {
  /** mean square of the modified Laplacian over the cell, encoded units, noise taken away; −1 where the frame does not reach */
  readonly fine: Float32Array;
  /** the same over steps of four pixels: structure that even blurred frames show */
  readonly coarse: Float32Array;
  /** mean luminance, encoded */
  readonly grey: Float32Array;
  /** variance that noise alone gives `fine` */
  readonly noise: number;
}

const ROWS = 256;
const HALO = 4;

/**
 * The sum-modified Laplacian (Nayar & Nakagawa 1994) of a fitted frame, |2L − L(x−s) − L(x+s)| + |2L − L(y−s) − L(y+s)| with steps of
 * one and of four pixels, squared and averaged over cells of 2 × 2 pixels.
 * @param matrix reference pixel → frame pixel @param width of the reference's grid
 */
export function focusEnergy(
  source: EncodedImage,
  matrix: Matrix3,
  width: number,
  height: number,
): FocusEnergy {
  const image = asCodes(source);
  const grid = reducedGrid(width, height, 1);
  const plane = (): Float32Array => sharedFloats(grid.width * grid.height);
  const [fine, coarse, grey] = [plane(), plane(), plane()];
  // four absolute differences of independent noise of variance σ², weighted 2, 1, 1 in each direction: E[(a + b)²] with a, b ~ |N(0, 6σ²)|
  const sigma = noiseSigma(image) ?? 0;
  const noise = NOISE_SQUARE * sigma * sigma;
  for (let top = 0; top < height; top += ROWS) {
    const rows = Math.min(ROWS, height - top);
    const from = Math.max(0, top - HALO);
    const area = { x: 0, y: from, width, height: Math.min(height, top + rows + HALO) - from };
    const [R, G, B] = warpImage(image, matrix, area, 'lanczos');
    const seen = coverage(image, matrix, area, 0);
    const L = new Float32Array(R.length);
    for (let i = 0; i < L.length; i++) L[i] = 0.25 * (R[i] + 2 * G[i] + B[i]);
    const last = area.height - 1;
    for (let y = top - from; y < top - from + rows; y++) {
      const cells = ((y + from) >> 1) * grid.width;
      const line = y * width;
      for (let x = 0; x < width; x++) {
        const i = line + x;
        const cell = cells + (x >> 1);
        if (seen[i] === 0) fine[cell] = -1e9;
        let near: number;
        let far: number;
        if (x >= 4 && y >= 4 && x + 4 < width && y + 4 <= last) {
          const twice = 2 * L[i];
          near = Math.abs(twice - L[i - 1] - L[i + 1]) + Math.abs(twice - L[i - width] - L[i + width]);
          const rows = 4 * width;
          far = Math.abs(twice - L[i - 4] - L[i + 4]) + Math.abs(twice - L[i - rows] - L[i + rows]);
        } else {
          near = laplacian(L, i, x, y, width, last, 1);
          far = laplacian(L, i, x, y, width, last, 4);
        }
        fine[cell] += near * near;
        coarse[cell] += far * far;
        grey[cell] += L[i];
      }
    }
  }
  for (let y = 0, k = 0; y < grid.height; y++)
    for (let x = 0; x < grid.width; x++, k++) {
      const n = (2 * x + 1 < width ? 2 : 1) * (2 * y + 1 < height ? 2 : 1);
      fine[k] = fine[k] < 0 ? -1 : Math.max(0, fine[k] / n - noise);
      coarse[k] /= n;
      grey[k] /= n;
    }
  return { ...grid, fine, coarse, grey, noise };
}

/** E[(|a| + |b|)²] for two normals of variance 6: 12 (1 + 2/π); luminance of three channels weighs noise by 6/16. */
const NOISE_SQUARE = 12 * (1 + 2 / Math.PI) * (6 / 16);

/** The same next to a border, which is repeated. */
function laplacian(
  L: Float32Array,
  i: number,
  x: number,
  y: number,
  width: number,
  last: number,
  step: number,
): number {
  const left = L[i - Math.min(step, x)];
  const right = L[i + Math.min(step, width - 1 - x)];
  const up = L[i - Math.min(step, y) * width];
  const down = L[i + Math.min(step, last - y) * width];
  return Math.abs(2 * L[i] - left - right) + Math.abs(2 * L[i] - up - down);
}
