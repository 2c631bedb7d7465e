/** A plane of cells over a picture, each 2^level pixels a side; cell centres lie between pixels. */
export interface ReducedGrid {
  readonly width: number;
  readonly height: number;
  /** halvings from full size */
  readonly level: number;
}

/** The grid of a full-size picture at a level, sizes rounded up. */
export function reducedGrid(width: number, height: number, level: number): ReducedGrid {
  const scale = 2 ** level;
  return { width: Math.ceil(width / scale), height: Math.ceil(height / scale), level };
}

/**
 * One row of full-size pixels out of a reduced plane, linearly between cell centres.
 * @param out pixels x0, x0 + 1, … of row y
 * @returns false when the row is all 0, and `out` then is not touched
 */
export function gridRow(
  out: Float32Array,
  plane: Float32Array,
  { width: w, height: h, level }: ReducedGrid,
  x0: number,
  y: number,
): boolean {
  const scale = 2 ** level;
  const v = Math.min(h - 1, Math.max(0, (y + 0.5) / scale - 0.5));
  const iv = Math.floor(v);
  const [top, bottom] = [iv * w, Math.min(h - 1, iv + 1) * w];
  const fy = v - iv;
  let some = false;
  for (let k = 0; k < w && !some; k++) some = plane[top + k] > 0 || plane[bottom + k] > 0;
  if (!some) return false;
  for (let x = 0; x < out.length; x++) {
    const u = Math.min(w - 1, Math.max(0, (x + x0 + 0.5) / scale - 0.5));
    const k = u | 0;
    const right = k + 1 < w ? k + 1 : k;
    const fx = u - k;
    const a = plane[top + k] + fx * (plane[top + right] - plane[top + k]);
    const b = plane[bottom + k] + fx * (plane[bottom + right] - plane[bottom + k]);
    out[x] = a + fy * (b - a);
  }
  return true;
}
