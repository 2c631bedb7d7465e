import { linearOfOklab, oklabOf } from '../colour/oklab';
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

/** Changes sRGB-encoded planes in place: neutral gains, then tone by zones on luminance, then chroma in Oklab. */
export function adjustPlanes(planes: readonly Float32Array[], adjust: Adjust): void {
  if (!adjusts(adjust)) return;
  const [R, G, B] = planes;
  planes.forEach(decodePlane);
  const [kr, kg, kb] = adjust.neutral?.gains ?? [1, 1, 1];
  const gains = toneGains(adjust);
  const toned = adjust.zones.some((z) => z.by !== 0);
  const { saturation } = adjust;
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
      const [L, p, q] = oklabOf(r, g, b);
      [r, g, b] = linearOfOklab(L, p * saturation, q * saturation);
    }
    R[i] = encodeOpen(r);
    G[i] = encodeOpen(g);
    B[i] = encodeOpen(b);
  }
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
