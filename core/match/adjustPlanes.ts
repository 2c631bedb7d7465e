import { type Kernels, kernels } from '../kernels/kernels';
import { decodePlane } from '../raster/srgb';
import { encodeOpen } from '../colour/encodeSource';
import { type Adjust, adjusts } from './adjust';
import { zoneCurve } from './zoneCurve';

const FIRST = -16;
const LAST = 8;
const STEPS = 48;

/** Gains of luminance by its stops, as a table: the ratio of the channels stays, so hue does. */
function toneGains(adjust: Adjust): Float32Array {
  const curve = zoneCurve(adjust.zones);
  const gains = new Float32Array((LAST - FIRST) * STEPS + 2);
  for (let i = 0; i < gains.length; i++) {
    const s = FIRST + i / STEPS;
    gains[i] = 2 ** (curve(s) - s);
  }
  return gains;
}

const ROOTS = 4096;
const ROOT = Float32Array.from({ length: ROOTS + 2 }, (_, i) => Math.cbrt((i / ROOTS) ** 2));

/** Cube root, by table between 0 and 1 (error under 1e−5 above 1e−6). */
function root(v: number): number {
  if (!(v > 0 && v < 1)) return Math.cbrt(v);
  const t = Math.sqrt(v) * ROOTS;
  const k = t | 0;
  return ROOT[k] + (t - k) * (ROOT[k + 1] - ROOT[k]);
}

/** pixels that the kernel changes at a time */
const CHUNK = 1 << 16;

/**
 * Changes sRGB-encoded planes in place: neutral gains, then tone by zones on luminance, then chroma in Oklab.
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function adjustPlanes(
  planes: readonly Float32Array[],
  adjust: Adjust,
  compiled: Kernels | null = kernels() ?? null,
): void {
  if (!adjusts(adjust)) return;
  const [R, G, B] = planes;
  if (compiled)
    return compiled.borrow(() => {
      const at = compiled.take(12 * CHUNK);
      const change = adjustWithin(compiled, adjust);
      for (let from = 0; from < R.length; from += CHUNK) {
        const count = Math.min(CHUNK, R.length - from);
        planes.forEach((p, c) =>
          compiled.floats(at + 4 * CHUNK * c, count).set(p.subarray(from, from + count)),
        );
        change(at, 4 * CHUNK, count);
        planes.forEach((p, c) => p.set(compiled.floats(at + 4 * CHUNK * c, count), from));
      }
    });
  const [kr, kg, kb] = adjust.neutral?.gains ?? [1, 1, 1];
  const gains = toneGains(adjust);
  const toned = adjust.zones.some((z) => z.by !== 0);
  const { saturation } = adjust;
  planes.forEach(decodePlane);
  for (let i = 0; i < R.length; i++) {
    let r = R[i] * kr;
    let g = G[i] * kg;
    let b = B[i] * kb;
    if (toned) {
      const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      const s = y > 0 ? (Math.log2(y / 0.18) - FIRST) * STEPS : 0;
      const t = s < 0 ? 0 : s > gains.length - 2 ? gains.length - 2 : s;
      const k = t | 0;
      const gain = gains[k] + (t - k) * (gains[k + 1] - gains[k]);
      r *= gain;
      g *= gain;
      b *= gain;
    }
    if (saturation !== 1) {
      // Oklab there and back (see colour/oklab), written out: a slider waits for it
      const l = root(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
      const m = root(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
      const s = root(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
      const L = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
      const A = saturation * (1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s);
      const C = saturation * (0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s);
      const l1 = L + 0.3963377774 * A + 0.2158037573 * C;
      const m1 = L - 0.1055613458 * A - 0.0638541728 * C;
      const s1 = L - 0.0894841775 * A - 1.291485548 * C;
      const l3 = l1 * l1 * l1;
      const m3 = m1 * m1 * m1;
      const s3 = s1 * s1 * s1;
      r = 4.0767416621 * l3 - 3.3077115913 * m3 + 0.2309699292 * s3;
      g = -1.2684380046 * l3 + 2.6097574011 * m3 - 0.3413193965 * s3;
      b = -0.0041960863 * l3 - 0.7034186147 * m3 + 1.707614701 * s3;
    }
    R[i] = encodeOpen(r);
    G[i] = encodeOpen(g);
    B[i] = encodeOpen(b);
  }
}

/**
 * The same for `count` pixels of three planes that lie `plane` bytes apart in the kernels' memory, from `at` on. To be asked for and used
 * within one {@link Kernels.borrow}.
 */
export function adjustWithin(
  compiled: Kernels,
  adjust: Adjust,
): (at: number, plane: number, count: number) => void {
  if (!adjusts(adjust)) return () => undefined;
  const [kr, kg, kb] = adjust.neutral?.gains ?? [1, 1, 1];
  const gains = adjust.zones.some((z) => z.by !== 0) ? toneGains(adjust) : undefined;
  const table = gains ? compiled.upload(gains) : 0;
  return (at, plane, count) =>
    compiled.adjustPixels(
      ...[at, plane, count, kr, kg, kb],
      ...[table, FIRST, STEPS, (gains?.length ?? 2) - 2, adjust.saturation],
    );
}

/** One colour in codes 0…255, through an adjustment. */
export function adjustCodes(
  codes: readonly [number, number, number],
  adjust: Adjust,
): [number, number, number] {
  const planes = codes.map((c) => Float32Array.of(c / 255));
  adjustPlanes(planes, adjust);
  return [planes[0][0] * 255, planes[1][0] * 255, planes[2][0] * 255];
}
