import { asCodes, type EncodedImage } from '../raster/encodedImage';
import { type Matrix3, toLevel } from '../raster/matrix3';
import { type ReducedGrid } from '../raster/reducedGrid';
import { coverage, warpImage } from '../raster/warp';

/** A fitted frame seen on the cells of a reduced grid of the reference. */
export interface GridFrame {
  /** encoded R, G, B */
  readonly planes: readonly Float32Array[];
  /** 1 where the frame reaches, else 0 */
  readonly seen: Float32Array;
}

/** The level of a picture whose long edge is at most `longEdge` cells. */
export function gridLevel(width: number, height: number, longEdge: number): number {
  return Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / longEdge)));
}

/** Draws a frame on the cells. @param levels the frame and its halvings, largest first @param matrix reference pixel → frame pixel */
export function frameOnGrid(
  levels: readonly EncodedImage[],
  matrix: Matrix3,
  { width, height, level }: ReducedGrid,
): GridFrame {
  const own = Math.min(level, levels.length - 1);
  const image = asCodes(levels[own]);
  const m = toLevel(matrix, own);
  const area = { x: 0, y: 0, width, height };
  return { planes: warpImage(image, m, area, 'bilinear'), seen: coverage(image, m, area, 0) };
}
