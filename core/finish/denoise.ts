import { type Kernels, kernels } from '../kernels/kernels';
import { guidedFilter } from '../mask/guidedFilter';

/** radius of the filter, pixels at full size: luminance keeps its grain, colour blotches are wider */
const LUMA_RADIUS = 2;
const CHROMA_RADIUS = 5;

/** pixels up to which the kernels' memory, which is never given back, is asked for: eleven planes */
const MOST_COMPILED = 2_500_000;

/** Pixels around an area that denoising looks at. */
export const DENOISE_MARGIN = 2 * CHROMA_RADIUS;

/**
 * Takes noise out of encoded planes in place by guided filters (He, Sun & Tang 2010): luminance by itself, colour along luminance.
 * @param amount 0 nothing, 1 everything that the filter takes for noise
 * @param sigma standard deviation of the noise, encoded 0…1
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function denoisePlanes(
  planes: readonly Float32Array[],
  width: number,
  height: number,
  amount: number,
  sigma: number,
  compiled: Kernels | null = kernels() ?? null,
): void {
  if (amount <= 0 || !(sigma > 0)) return;
  const [lumaEven, chromaEven] = [(2 * sigma) ** 2, (4 * sigma) ** 2];
  const n = width * height;
  if (compiled && n <= MOST_COMPILED) {
    const plane = 4 * n + 16;
    return compiled.borrow(() => {
      const at = compiled.take(3 * plane);
      const [scratch, column] = [9 * plane, 8 * (width + 4)].map((bytes) => compiled.take(bytes));
      planes.forEach((p, c) => compiled.floats(at + c * plane, n).set(p));
      compiled.denoisePlanes(
        ...[at, plane, width, height, amount, LUMA_RADIUS, lumaEven, CHROMA_RADIUS, chromaEven],
        ...[scratch, column],
      );
      planes.forEach((p, c) => p.set(compiled.floats(at + c * plane, n)));
    });
  }
  const [R, G, B] = planes;
  const luma = R.map((r, i) => 0.25 * r + 0.5 * G[i] + 0.25 * B[i]);
  const red = R.map((r, i) => r - luma[i]);
  const blue = B.map((b, i) => b - luma[i]);
  const smooth = (plane: Float32Array, guide: Float32Array, radius: number, eps: number): Float32Array =>
    guidedFilter(plane, guide, width, height, radius, eps);
  const evened = smooth(luma, luma, LUMA_RADIUS, lumaEven);
  const evenRed = smooth(red, luma, CHROMA_RADIUS, chromaEven);
  const evenBlue = smooth(blue, luma, CHROMA_RADIUS, chromaEven);
  for (let i = 0; i < luma.length; i++) {
    const y = luma[i] + amount * (evened[i] - luma[i]);
    const r = red[i] + amount * (evenRed[i] - red[i]);
    const b = blue[i] + amount * (evenBlue[i] - blue[i]);
    R[i] = y + r;
    B[i] = y + b;
    G[i] = y - (r + b) / 2;
  }
}
