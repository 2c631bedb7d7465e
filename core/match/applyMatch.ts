import { emptyImage, type EncodedImage, type White } from '../raster/encodedImage';
import { linearToSrgb } from '../raster/srgb';
import { lightOfCodes } from '../raster/lightOfCodes';
import { type Allocate } from '../raster/raster';
import { curveAt, type MatchMap } from './matchMap';

const STEPS = 8192;
/** more light than this no matrix makes of white */
const TOP = 1.7;

/** A picture through a map; a cut-out keeps its opacity. @param white code of white of what comes out: deeper than what goes in, where smooth tones are pulled apart */
export function applyMatch(
  image: EncodedImage,
  { matrix: m, curves }: MatchMap,
  white: White,
  allocate?: Allocate,
): EncodedImage {
  const { alpha } = image;
  const out = { ...emptyImage(image.width, image.height, white, allocate), ...(alpha ? { alpha } : {}) };
  const light = lightOfCodes(image);
  const scale = STEPS / Math.sqrt(TOP);
  // coding and curve in one table over the root of light
  const tables = curves.map((curve) =>
    Float32Array.from({ length: STEPS + 2 }, (_, i) => curveAt(curve, linearToSrgb((i / STEPS) ** 2 * TOP))),
  );
  const half = white === 1 ? 0 : 0.5;
  for (let i = 0; i < image.data.length; i += 3) {
    const [r, g, b] = [light(image.data[i]), light(image.data[i + 1]), light(image.data[i + 2])];
    for (let c = 0; c < 3; c++) {
      const mix = m[3 * c] * r + m[3 * c + 1] * g + m[3 * c + 2] * b;
      const p = mix <= 0 ? 0 : Math.min(Math.sqrt(mix) * scale, STEPS);
      const k = Math.floor(p);
      const code = tables[c][k] + (p - k) * (tables[c][k + 1] - tables[c][k]);
      out.data[i + c] = Math.min(1, Math.max(0, code)) * white + half;
    }
  }
  return out;
}
