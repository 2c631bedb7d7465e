import { codeBytes, type Kernels } from '../../kernels/kernels';
import { type EncodedImage } from '../../raster/encodedImage';
import { type ReducedGrid, reducedGrid } from '../../raster/reducedGrid';

/** How sharp a frame is on its own pixels, cells of 2 × 2. */
export interface SharpCells extends ReducedGrid {
  /** mean square over the cell of the sum-modified Laplacian with steps of one pixel, encoded units */
  readonly fine: Float32Array;
  /** the same with steps of four pixels */
  readonly coarse: Float32Array;
  /** mean luminance, encoded */
  readonly grey: Float32Array;
}

const ROWS = 256;
/** the longest step, pixels */
const FAR = 4;

/**
 * The sum-modified Laplacian (Nayar & Nakagawa 1994), |2L − L(x−s) − L(x+s)| + |2L − L(y−s) − L(y+s)| with steps of one and of four pixels,
 * squared and averaged over cells; the border is continued.
 */
export function sharpCells(image: EncodedImage): SharpCells {
  const { width, height, white, data } = image;
  const grid = reducedGrid(width, height, 1);
  const plane = (): Float32Array => new Float32Array(grid.width * grid.height);
  const cells = { ...grid, fine: plane(), coarse: plane(), grey: plane() };
  const L = new Float32Array(width * height);
  for (let i = 0; i < L.length; i++)
    L[i] = (0.25 / white) * (data[3 * i] + 2 * data[3 * i + 1] + data[3 * i + 2]);
  const bend = (x: number, y: number, step: number): number => {
    const i = y * width + x;
    const left = L[i - Math.min(step, x)];
    const right = L[i + Math.min(step, width - 1 - x)];
    const up = L[i - Math.min(step, y) * width];
    const down = L[i + Math.min(step, height - 1 - y) * width];
    return Math.abs(2 * L[i] - left - right) + Math.abs(2 * L[i] - up - down);
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const cell = (y >> 1) * grid.width + (x >> 1);
      const share = pixelShare(image, x, y);
      cells.fine[cell] += share * bend(x, y, 1) ** 2;
      cells.coarse[cell] += share * bend(x, y, FAR) ** 2;
      cells.grey[cell] += share * L[i];
    }
  return cells;
}

/** What a pixel counts in its cell, which may be cut off at the right or lower border. */
function pixelShare({ width, height }: EncodedImage, x: number, y: number): number {
  return 1 / ((x === width - 1 && width % 2 === 1 ? 1 : 2) * (y === height - 1 && height % 2 === 1 ? 1 : 2));
}

/**
 * {@link sharpCells} by the compiled kernels, into their memory.
 * @param plane bytes of a plane of cells
 * @returns where the three planes begin, one after the other; to be called within a borrow
 */
export function sharpCellsInto(k: Kernels, image: EncodedImage, plane: number): number {
  const { width, height, white, data } = image;
  const { width: w } = reducedGrid(width, height, 1);
  const size = codeBytes(white);
  const cells = k.take(3 * plane);
  k.floats(cells, (3 * plane) / 4).fill(0);
  const stride = width + 2 * FAR + 8;
  // the kernel writes a little beyond a row, so it has one of its own
  const row = k.take(3 * 4 * (w + 4));
  for (let top = 0; top < height; top += ROWS) {
    const end = Math.min(height, top + ROWS);
    const first = Math.max(0, top - FAR);
    const last = Math.min(height, end + FAR) - 1;
    k.borrow(() => {
      const src = k.uploadCodes(data.subarray(first * width * 3, (last + 1) * width * 3));
      const grey = k.take((last + 1 - first) * stride * 4);
      k.greyRows(src, size, width, last + 1 - first, 0.25 / white, FAR, grey, stride);
      const at = (y: number): number =>
        grey + 4 * ((Math.min(last, Math.max(first, y)) - first) * stride + FAR);
      for (let y = top; y < end; y += 2) {
        const sums = k.floats(row, 3 * (w + 4)).fill(0);
        const rows = Math.min(2, end - y);
        for (let own = y; own < y + rows; own++)
          k.laplacianCells(
            ...[at(own), at(own - 1), at(own + 1), at(own - FAR), at(own + FAR), width, 0.5 / rows],
            ...[row, row + 4 * (w + 4), row + 8 * (w + 4)],
          );
        for (let c = 0; c < 3; c++) {
          const own = sums.subarray(c * (w + 4), c * (w + 4) + w);
          if (width % 2 === 1) own[w - 1] *= 2;
          k.floats(cells + c * plane + 4 * (y >> 1) * w, w).set(own);
        }
      }
    });
  }
  return cells;
}
