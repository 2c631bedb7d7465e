import { encodedGain } from '../raster/encodedGain';
import { type EncodedImage, type White } from '../raster/encodedImage';
import { linearToSrgb, srgbToLinear } from '../raster/srgb';

/**
 * Brightens sRGB-encoded planes by `stops` of light and rounds them to code values 0…white, interleaved R G B.
 * Light beyond white clips, but for floats (white 1).
 * @param out at least `count * 3` long from `offset * 3` on
 */
export function exposeEncoded(
  planes: readonly Float32Array[],
  stops: number,
  white: White,
  out: EncodedImage['data'],
  offset = 0,
): void {
  const brighten = white === 1 ? openGain(stops) : encodedGain(stops);
  const round = white === 1 ? 0 : 0.5;
  for (let c = 0; c < 3; c++) {
    const plane = planes[c];
    for (let i = 0; i < plane.length; i++) out[(offset + i) * 3 + c] = brighten(plane[i]) * white + round;
  }
}

/** {@link encodedGain} without clipping. */
function openGain(stops: number): (encoded: number) => number {
  const gain = 2 ** stops;
  return stops === 0 ? (v) => v : (v) => linearToSrgb(srgbToLinear(v) * gain);
}
