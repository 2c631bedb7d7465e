import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { gaussianBlur, gaussianWeights } from '../raster/gaussianBlur';
import { length2 } from '../raster/length';

/** Sharpening of the delivered picture; the last thing that happens to it. */
export interface Sharpen {
  /** sigma of the blur that detail is measured against, full-size pixels */
  readonly radius: number;
  /** 1 adds the detail once more */
  readonly amount: number;
  /** how strong an edge must be to be sharpened in full, stops of contrast within the radius; 0 sharpens everything */
  readonly edge: number;
}

/** codes of detail that one stop of contrast at middle grey makes, encoded 0…1 */
const STOP = 0.13;
/** edges are found and spread by blurs of this sigma at least, pixels */
const LEAST_BLUR = 0.6;
/** so many radii is the mask of edges spread */
const SPREAD = 1.5;
/** pixels up to which the kernels' memory, which is never given back, is asked for: seven planes */
export const MOST_COMPILED = 2_500_000;
/** overshoot is kept to this share of what stands around it */
const OVERSHOOT = 0.35;

/**
 * Where sharpening acts: 0 in even areas such as skies, 1 at edges of `edge` stops and more. Soft at the borders.
 * @param luma encoded 0…1
 * @param radius in pixels of this plane
 */
export function edgeMask(
  luma: Float32Array,
  width: number,
  height: number,
  { radius, edge }: Pick<Sharpen, 'radius' | 'edge'>,
): Float32Array {
  if (edge <= 0) return new Float32Array(luma.length).fill(1);
  const blurred = gaussianBlur(luma, width, height, Math.max(LEAST_BLUR, radius));
  const contrast = blurred.map((_, i) => {
    const x = i % width;
    const dx = blurred[x + 1 < width ? i + 1 : i] - blurred[x > 0 ? i - 1 : i];
    const dy = blurred[i + width < luma.length ? i + width : i] - blurred[i >= width ? i - width : i];
    return length2(dx, dy) * radius;
  });
  const strength = gaussianBlur(contrast, width, height, Math.max(LEAST_BLUR, SPREAD * radius));
  const full = edge * STOP;
  return strength.map((v) => {
    const t = Math.min(1, Math.max(0, (v / full - 0.25) / 0.75));
    return t * t * (3 - 2 * t);
  });
}

/**
 * Sharpens encoded planes in place on their luminance, so that no colour appears at edges.
 * @param sharpen its radius in pixels of these planes
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function sharpenPlanes(
  planes: readonly Float32Array[],
  width: number,
  height: number,
  sharpen: Sharpen,
  compiled: Kernels | null = kernels() ?? null,
): void {
  if (compiled && width * height <= MOST_COMPILED)
    return sharpenByKernel(compiled, planes, width, height, sharpen);
  const [R, G, B] = planes;
  const luma = R.map((r, i) => 0.2126 * r + 0.7152 * G[i] + 0.0722 * B[i]);
  const blurred = gaussianBlur(luma, width, height, sharpen.radius);
  const mask = edgeMask(luma, width, height, sharpen);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (mask[i] <= 0) continue;
      let [low, high] = [luma[i], luma[i]];
      for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++)
        for (let k = Math.max(0, x - 1); k <= Math.min(width - 1, x + 1); k++) {
          const v = luma[j * width + k];
          if (v < low) low = v;
          else if (v > high) high = v;
        }
      const room = OVERSHOOT * (high - low);
      const wanted = luma[i] + mask[i] * sharpen.amount * (luma[i] - blurred[i]);
      const change = Math.min(high + room, Math.max(low - room, wanted)) - luma[i];
      R[i] += change;
      G[i] += change;
      B[i] += change;
    }
}

function sharpenByKernel(
  k: Kernels,
  planes: readonly Float32Array[],
  width: number,
  height: number,
  sharpen: Sharpen,
): void {
  const n = width * height;
  const plane = planeBytes(n);
  k.borrow(() => {
    const at = k.take(3 * plane);
    planes.forEach((p, c) => k.floats(at + c * plane, n).set(p));
    sharpenWithin(k, at, plane, width, height, sharpen);
    planes.forEach((p, c) => p.set(k.floats(at + c * plane, n)));
  });
}

/** {@link sharpenPlanes} of three planes that lie `plane` bytes apart in the kernels' memory, from `at` on. */
export function sharpenWithin(
  k: Kernels,
  at: number,
  plane: number,
  width: number,
  height: number,
  { radius, amount, edge }: Sharpen,
): void {
  const sigmas = [radius, Math.max(LEAST_BLUR, radius), Math.max(LEAST_BLUR, SPREAD * radius)];
  k.borrow(() => {
    const tables = sigmas.map(gaussianWeights);
    const [fine, middle, wide] = tables.map((weights) => [k.upload(weights), weights.length - 1] as const);
    const widest = Math.max(...tables.map((weights) => weights.length));
    const [scratch, line] = [4 * plane, 12 * (width + 2 * widest + 16)].map((bytes) => k.take(bytes));
    k.sharpenPlanes(
      ...([at, plane, width, height, ...fine, ...middle, ...wide] as const),
      ...([radius, amount, Math.max(0, edge) * STOP, OVERSHOOT] as const),
      ...[scratch, line],
    );
  });
}
