import { kernels } from '../kernels/kernels';
import { boxMean, plainBoxMean, room, roomFor } from '../raster/boxMean';

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

/** What a guided filter makes of a plane: slope · guide + offset, which hold at a finer level of the guide as well (He & Sun 2015). */
export function guidedCoefficients(
  input: Float32Array,
  guide: Float32Array,
  width: number,
  height: number,
  radius: number,
  smoothness: number,
): { readonly slope: Float32Array; readonly offset: Float32Array } {
  const mean = (plane: Float32Array): Float32Array => boxMean(plane, width, height, radius);
  const [meanInput, meanGuide] = [mean(input), mean(guide)];
  const square = mean(guide.map((v) => v * v));
  const cross = mean(guide.map((v, i) => v * input[i]));
  const slope = cross.map(
    (v, i) => (v - meanGuide[i] * meanInput[i]) / (square[i] - meanGuide[i] * meanGuide[i] + smoothness),
  );
  const offset = meanInput.map((v, i) => v - slope[i] * meanGuide[i]);
  return { slope: mean(slope), offset: mean(offset) };
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
