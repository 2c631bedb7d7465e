import { type Kernels } from '../kernels/kernels';

/** A plane that a kernel fills in rows of a multiple of four, without what lies past their ends. @param fill told where, and how many floats a row has */
export function filledRows(
  k: Kernels,
  width: number,
  height: number,
  fill: (out: number, stride: number) => void,
): Float32Array {
  const stride = Math.ceil(width / 4) * 4;
  return k.borrow(() => {
    const at = k.take(4 * stride * height);
    fill(at, stride);
    const rows = k.floats(at, stride * height);
    if (stride === width) return rows.slice();
    const plane = new Float32Array(width * height);
    for (let y = 0; y < height; y++) plane.set(rows.subarray(y * stride, y * stride + width), y * width);
    return plane;
  });
}
