import { encodedGain } from '../raster/encodedGain';

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
  const brighten = encodedGain(stops);
  for (let c = 0; c < 3; c++) {
    const plane = planes[c];
    for (let i = 0; i < plane.length; i++) out[(offset + i) * 3 + c] = brighten(plane[i]) * white + 0.5;
  }
}
