import { guidedFilter } from '../mask/guidedFilter';

/** radius of the filter, pixels at full size: luminance keeps its grain, colour blotches are wider */
const LUMA_RADIUS = 2;
const CHROMA_RADIUS = 5;

/** Pixels around an area that denoising looks at. */
export const DENOISE_MARGIN = 2 * CHROMA_RADIUS;

/**
 * Takes noise out of encoded planes in place by guided filters (He, Sun & Tang 2010): luminance by itself, colour along luminance.
 * @param amount 0 nothing, 1 everything that the filter takes for noise
 * @param sigma standard deviation of the noise, encoded 0…1
 */
export function denoisePlanes(
  planes: readonly Float32Array[],
  width: number,
  height: number,
  amount: number,
  sigma: number,
): void {
  if (amount <= 0 || !(sigma > 0)) return;
  const [R, G, B] = planes;
  const luma = R.map((r, i) => 0.25 * r + 0.5 * G[i] + 0.25 * B[i]);
  const red = R.map((r, i) => r - luma[i]);
  const blue = B.map((b, i) => b - luma[i]);
  const smooth = (plane: Float32Array, guide: Float32Array, radius: number, eps: number): Float32Array =>
    guidedFilter(plane, guide, width, height, radius, eps);
  const evened = smooth(luma, luma, LUMA_RADIUS, (2 * sigma) ** 2);
  const evenRed = smooth(red, luma, CHROMA_RADIUS, (4 * sigma) ** 2);
  const evenBlue = smooth(blue, luma, CHROMA_RADIUS, (4 * sigma) ** 2);
  for (let i = 0; i < luma.length; i++) {
    const y = luma[i] + amount * (evened[i] - luma[i]);
    const r = red[i] + amount * (evenRed[i] - red[i]);
    const b = blue[i] + amount * (evenBlue[i] - blue[i]);
    R[i] = y + r;
    B[i] = y + b;
    G[i] = y - (r + b) / 2;
  }
}
