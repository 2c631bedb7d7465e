import { sharedFloats } from '../../raster/raster';
import { type ReducedGrid } from '../../raster/reducedGrid';

/** Rows of cells that one job of a depth map makes; `top` is a multiple of {@link COARSER}. */
export interface CellBand {
  readonly top: number;
  readonly rows: number;
}

/** Cells of the depth map to one of the grid on which wide surroundings are asked. */
export const COARSER = 4;

/** Shared memory that the jobs of one depth map fill. */
export interface FocusBuffers extends ReducedGrid {
  /** [cell] luminance of the sharpest frame */
  readonly guide: Float32Array;
  /** [cell] how surely the place speaks for itself, 0…1 */
  readonly sure: Float32Array;
  /** [frame][cell] share that the place would give each frame by itself, times how sure it is */
  readonly weighted: readonly Float32Array[];
  /** [frame][cell] energy over near cells */
  readonly smooth: readonly Float32Array[];
  /** the same on the coarser grid */
  readonly small: {
    readonly width: number;
    readonly height: number;
    readonly guide: Float32Array;
    readonly sure: Float32Array;
    readonly weighted: readonly Float32Array[];
    /** [frame] fine, coarse, and energies at steps of 4 and of 16 pixels */
    readonly energies: readonly (readonly Float32Array[])[];
    /** [frame] fine energy over the blocks around */
    readonly around: readonly Float32Array[];
    /** [frame] what wide surroundings answer */
    readonly far: readonly Float32Array[];
    /** 1 where there is structure that no frame shows sharp */
    readonly unsharp: Float32Array;
  };
  /** [frame][cell] share 0…1 */
  readonly planes: readonly Float32Array[];
  /** [cell] place in the order of the frames, 0 … frames − 1, fractions between two */
  readonly depth: Float32Array;
}

const BAND_CELLS = 400_000;

/** Cuts a grid into bands, at least two where rows allow. */
export function cellBands({ width, height }: ReducedGrid): CellBand[] {
  const wanted = Math.min(BAND_CELLS / width, height / 2);
  const rows = Math.max(8, Math.ceil(wanted / 8) * 8);
  const bands: CellBand[] = [];
  for (let top = 0; top < height; top += rows) bands.push({ top, rows: Math.min(rows, height - top) });
  return bands;
}

/** Rows of a band with those that a window reaches beyond it, and where its own begin among them. */
export function reachedRows({ top, rows }: CellBand, { width, height }: ReducedGrid, reach: number) {
  const from = Math.max(0, top - reach);
  const end = Math.min(height, top + rows + reach);
  return {
    rows: end - from,
    skip: (top - from) * width,
    around: (plane: Float32Array): Float32Array => plane.subarray(from * width, end * width),
    own: (plane: Float32Array): Float32Array => plane.subarray(top * width, (top + rows) * width),
  };
}

/** Memory for the depth map of so many frames. */
export function focusBuffers({ width, height, level }: ReducedGrid, frames: number): FocusBuffers {
  const [sw, sh] = [Math.ceil(width / COARSER), Math.ceil(height / COARSER)];
  const plane = (): Float32Array => sharedFloats(width * height);
  const small = (): Float32Array => sharedFloats(sw * sh);
  const each = <T>(make: () => T): T[] => Array.from({ length: frames }, make);
  return {
    ...{ width, height, level },
    guide: plane(),
    sure: plane(),
    weighted: each(plane),
    smooth: each(plane),
    small: {
      ...{ width: sw, height: sh },
      guide: small(),
      sure: small(),
      weighted: each(small),
      energies: each(() => Array.from({ length: 4 }, small)),
      around: each(small),
      far: each(small),
      unsharp: small(),
    },
    planes: each(plane),
    depth: plane(),
  };
}
