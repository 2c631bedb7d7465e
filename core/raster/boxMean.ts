import { type Kernels, kernels, planeBytes } from '../kernels/kernels';

/** Mean over a (2r + 1)² window cut off at the borders. */
export function boxMean(data: Float32Array, w: number, h: number, r: number): Float32Array {
  const k = kernels();
  if (!k) return plainBoxMean(data, w, h, r);
  const { plane, column } = roomFor(w, h);
  return k.borrow(() => {
    const [src, dst, rows] = [k.upload(data), ...room(k, plane, 2)];
    k.meanPlane(src, w, h, r, dst, rows, k.take(column));
    return k.floats(dst, data.length).slice();
  });
}

/** The plain form of {@link boxMean}, which the kernel is held against. */
export function plainBoxMean(data: Float32Array, w: number, h: number, r: number): Float32Array {
  const rows = new Float32Array(data.length);
  for (let y = 0; y < h; y++) {
    const o = y * w;
    let sum = 0;
    let n = 0;
    for (let x = 0; x < Math.min(w, r); x++, n++) sum += data[o + x];
    for (let x = 0; x < w; x++) {
      if (x + r < w) {
        sum += data[o + x + r];
        n++;
      }
      if (x - r - 1 >= 0) {
        sum -= data[o + x - r - 1];
        n--;
      }
      rows[o + x] = sum / n;
    }
  }
  const out = new Float32Array(data.length);
  const column = new Float64Array(w);
  let n = 0;
  for (let y = 0; y < Math.min(h, r); y++, n++) for (let x = 0; x < w; x++) column[x] += rows[y * w + x];
  for (let y = 0; y < h; y++) {
    if (y + r < h) {
      for (let x = 0; x < w; x++) column[x] += rows[(y + r) * w + x];
      n++;
    }
    if (y - r - 1 >= 0) {
      for (let x = 0; x < w; x++) column[x] -= rows[(y - r - 1) * w + x];
      n--;
    }
    for (let x = 0; x < w; x++) out[y * w + x] = column[x] / n;
  }
  return out;
}

/** Bytes of a plane, and of a column of sums, as the kernels want them. */
export function roomFor(width: number, height: number): { plane: number; column: number } {
  return { plane: planeBytes(width * height), column: 8 * (width + 4) };
}

/** Planes of room in the kernels' memory. */
export const room = (k: Kernels, plane: number, count: number): number[] =>
  Array.from({ length: count }, () => k.take(plane));
