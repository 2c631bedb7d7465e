import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3 } from '../../raster/matrix3';
import { type Allocate, sharedBytes } from '../../raster/raster';
import { type ReducedGrid, reducedGrid } from '../../raster/reducedGrid';
import { noiseVariance } from '../../capture/noise';
import { type Kernels, kernels, planeBytes } from '../../kernels/kernels';
import { type SharpCells, sharpCells, sharpCellsInto } from './sharpCells';

/** How sharp one fitted frame is at every place of the reference's grid, halved. */
export interface FocusEnergy extends ReducedGrid {
  /** mean square of the modified Laplacian over the cell, encoded units, noise taken away; −1 where the frame does not reach */
  readonly fine: Float32Array;
  /** the same over steps of four pixels: structure that even blurred frames show */
  readonly coarse: Float32Array;
  /** mean luminance, encoded */
  readonly grey: Float32Array;
  /** variance of the frame's noise, encoded */
  readonly variance: number;
  /** what noise alone gives `fine` */
  readonly noise: number;
}

/** E[(|a| + |b|)²] for two normals of variance 6: 12 (1 + 2/π); luminance of three channels weighs noise by 6/16. */
const NOISE_SQUARE = 12 * (1 + 2 / Math.PI) * (6 / 16);

/** border pixels may miss the source by rounding */
const SLACK = 1e-6;

/**
 * Measures the sharpness of a frame on its own pixels, which no resampling has softened, and lays it on the reference's grid.
 * @param matrix reference pixel → frame pixel @param width of the reference's grid @param allocate where its planes lie
 */
export function focusEnergy(
  source: EncodedImage,
  matrix: Matrix3,
  width: number,
  height: number,
  allocate: Allocate = sharedBytes,
): FocusEnergy {
  const k = kernels();
  return k
    ? compiledEnergy(k, source, matrix, width, height, allocate)
    : plainEnergy(source, matrix, width, height, allocate);
}

/** Planes to fill, and what noise adds to what is fine. */
function emptyEnergy(image: EncodedImage, width: number, height: number, allocate: Allocate): FocusEnergy {
  const grid = reducedGrid(width, height, 1);
  const plane = (): Float32Array => new Float32Array(allocate(4 * grid.width * grid.height));
  const variance = noiseVariance(image);
  // four absolute differences of independent noise of variance σ², weighted 2, 1, 1 in each direction: E[(a + b)²] with a, b ~ |N(0, 6σ²)|
  return { ...grid, fine: plane(), coarse: plane(), grey: plane(), variance, noise: NOISE_SQUARE * variance };
}

function compiledEnergy(
  k: Kernels,
  source: EncodedImage,
  matrix: Matrix3,
  width: number,
  height: number,
  allocate: Allocate,
): FocusEnergy {
  const image = asCodes(source);
  const energy = emptyEnergy(image, width, height, allocate);
  const own = reducedGrid(image.width, image.height, 1);
  const plane = planeBytes(own.width * own.height);
  const outPlane = planeBytes(energy.width * energy.height);
  k.borrow(() => {
    const cells = sharpCellsInto(k, image, plane);
    const out = k.take(3 * outPlane);
    k.layCells(
      ...[cells, plane, own.width, own.height, image.width, image.height, width, height, energy.noise],
      ...[out, outPlane],
      ...matrix,
    );
    [energy.fine, energy.coarse, energy.grey].forEach((to, c) =>
      to.set(k.floats(out + c * outPlane, to.length)),
    );
  });
  return energy;
}

/** The plain form of {@link focusEnergy}, which the kernels are held against. */
export function plainEnergy(
  source: EncodedImage,
  [m0, m1, m2, m3, m4, m5, m6, m7, m8]: Matrix3,
  width: number,
  height: number,
  allocate: Allocate = sharedBytes,
): FocusEnergy {
  const image = asCodes(source);
  const energy = emptyEnergy(image, width, height, allocate);
  const cells = sharpCells(image);
  for (let y = 0, i = 0; y < energy.height; y++)
    for (let x = 0; x < energy.width; x++, i++) {
      // the last cell of an odd picture has one pixel
      const ex = 2 * x + 1 < width ? 0.5 : 0;
      const ey = 2 * y + 1 < height ? 0.5 : 0;
      const [X, Y] = [2 * x + ex, 2 * y + ey];
      const d = 1 / (m6 * X + m7 * Y + m8);
      const u = (m0 * X + m1 * Y + m2) * d;
      const v = (m3 * X + m4 * Y + m5) * d;
      const inside = Math.min(u - ex, v - ey, image.width - 1 - u - ex, image.height - 1 - v - ey);
      const at = placeOf(cells, (u - 0.5) / 2, (v - 0.5) / 2);
      energy.fine[i] = d > 0 && inside >= -SLACK ? Math.max(0, at(cells.fine) - energy.noise) : -1;
      energy.coarse[i] = at(cells.coarse);
      energy.grey[i] = at(cells.grey);
    }
  return energy;
}

/** Reads planes of cells linearly between four of them; the border is continued. */
function placeOf({ width, height }: SharpCells, u: number, v: number): (plane: Float32Array) => number {
  const s = Math.min(width - 1, Math.max(0, u));
  const t = Math.min(height - 1, Math.max(0, v));
  const [is, it] = [s | 0, t | 0];
  const [fs, ft] = [s - is, t - it];
  const at = it * width + is;
  const right = is + 1 < width ? 1 : 0;
  const down = it + 1 < height ? width : 0;
  return (plane) =>
    (1 - ft) * ((1 - fs) * plane[at] + fs * plane[at + right]) +
    ft * ((1 - fs) * plane[at + down] + fs * plane[at + right + down]);
}
