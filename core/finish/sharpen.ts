import { gaussianBlur } from '../raster/gaussianBlur';

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
  const blurred = gaussianBlur(luma, width, height, Math.max(0.6, radius));
  const contrast = blurred.map((_, i) => {
    const x = i % width;
    const dx = blurred[x + 1 < width ? i + 1 : i] - blurred[x > 0 ? i - 1 : i];
    const dy = blurred[i + width < luma.length ? i + width : i] - blurred[i >= width ? i - width : i];
    return Math.hypot(dx, dy) * radius;
  });
  const strength = gaussianBlur(contrast, width, height, Math.max(0.6, 1.5 * radius));
  const full = edge * STOP;
  return strength.map((v) => {
    const t = Math.min(1, Math.max(0, (v / full - 0.25) / 0.75));
    return t * t * (3 - 2 * t);
  });
}

/** Sharpens encoded planes in place on their luminance, so that no colour appears at edges. @param radius in pixels of these planes */
export function sharpenPlanes(
  planes: readonly Float32Array[],
  width: number,
  height: number,
  sharpen: Sharpen,
): void {
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
