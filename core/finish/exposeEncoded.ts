import { linearToSrgb, srgbToLinear } from '../raster/srgb';

const STEPS = 8192;

/**
 * Brightens sRGB-encoded planes by `stops` of light and rounds them to code values 0…white, interleaved R G B.
 * Light beyond white clips.
 * @param out at least `count * 3` long from `offset * 3` on
 */
export function exposeEncoded(
  planes: readonly Float32Array[],
  stops: number,
  white: 255 | 65535,
  out: Uint8Array | Uint16Array,
  offset = 0,
): void {
  const gain = 2 ** stops;
  const table =
    stops === 0
      ? undefined
      : Float32Array.from({ length: STEPS + 2 }, (_, i) => Math.min(1, linearToSrgb(srgbToLinear(i / STEPS) * gain)));
  for (let c = 0; c < 3; c++) {
    const plane = planes[c];
    for (let i = 0; i < plane.length; i++) {
      let v = plane[i];
      v = v < 0 ? 0 : v > 1 ? 1 : v;
      if (table) {
        const t = v * STEPS;
        const k = t | 0;
        v = table[k] + (t - k) * (table[k + 1] - table[k]);
      }
      out[(offset + i) * 3 + c] = v * white + 0.5;
    }
  }
}
