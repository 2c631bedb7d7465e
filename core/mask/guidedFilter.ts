import { type Kernels, kernels, planeBytes } from '../kernels/kernels';

/**
 * Guided filter (He, Sun & Tang 2010): the plane that follows `input` in the mean and the edges of `guide` in detail.
 * @param radius of the window, pixels
 * @param smoothness variance of the guide below which it counts as even; larger is smoother
 */
export function guidedFilter(
  input: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  smoothness: number,
): Float32Array {
  return guidedAll([input], guide, width, height, radius, smoothness)[0];
}

/** {@link guidedFilter} of several planes under one guide, whose own part is worked out once. */
export function guidedAll(
  inputs: readonly Float32Array[],
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  smoothness: number,
): Float32Array[] {
  const k = kernels();
  if (!k) return inputs.map(plainGuidedBy(guide, width, height, radius, smoothness));
  const { plane, column } = roomFor(width, height);
  return k.borrow(() => {
    const own = k.upload(guide);
    const [mean, square, out] = room(k, plane, 3);
    const scratch = k.take(4 * plane);
    const sums = k.take(column);
    k.guideMeans(own, width, height, radius, mean, square, scratch, scratch + plane, sums);
    return inputs.map((input) => {
      k.floats(out, input.length).set(input);
      k.guidedUnder(
        ...[out, own, mean, square, width, height, radius, smoothness],
        ...[out, scratch, plane, sums],
      );
      return k.floats(out, input.length).slice();
    });
  });
}

/** Bytes of a plane, and of a column of sums, as the kernels want them. */
function roomFor(width: number, height: number): { plane: number; column: number } {
  return { plane: planeBytes(width * height), column: 8 * (width + 4) };
}

const room = (k: Kernels, plane: number, count: number): number[] =>
  Array.from({ length: count }, () => k.take(plane));

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

/** The plain form of {@link guidedAll}, which the kernel is held against: for one plane after the other. */
export function plainGuidedBy(
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  smoothness: number,
): (input: Float32Array) => Float32Array {
  const n = guide.length;
  const mean = (plane: Float32Array): Float32Array => plainBoxMean(plane, width, height, radius);
  const meanGuide = mean(guide);
  const square = mean(guide.map((v) => v * v));
  return (input) => {
    const product = new Float32Array(n);
    for (let i = 0; i < n; i++) product[i] = guide[i] * input[i];
    const meanInput = mean(input);
    const cross = mean(product);
    const a = product;
    const b = new Float32Array(n);
    for (let i = 0; i < n; i++) {
      const variance = square[i] - meanGuide[i] * meanGuide[i];
      a[i] = (cross[i] - meanGuide[i] * meanInput[i]) / (variance + smoothness);
      b[i] = meanInput[i] - a[i] * meanGuide[i];
    }
    const [meanA, meanB] = [mean(a), mean(b)];
    const out = new Float32Array(n);
    for (let i = 0; i < n; i++) out[i] = meanA[i] * guide[i] + meanB[i];
    return out;
  };
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
