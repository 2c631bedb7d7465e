import { asCodes, type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { linearTable } from '../raster/srgb';

const LONG_EDGE = 180;
const LOW = 0.012;
const HIGH = 0.86;
/** fewer shared pixels than this share of the picture say nothing */
const LEAST_SHARED = 0.01;

/** Green light of a strongly reduced picture: a hand's shake of a hundred pixels is a few of these. */
function smallLight(image: EncodedImage): { width: number; height: number; light: Float32Array } {
  let small = asCodes(image);
  while (Math.max(small.width, small.height) > LONG_EDGE * 2) small = halveImage(small);
  const table = linearTable(small.white);
  const light = new Float32Array(small.width * small.height);
  for (let i = 0; i < light.length; i++) light[i] = table[small.data[i * 3 + 1]];
  return { width: small.width, height: small.height, light };
}

/**
 * How many stops brighter `frame` is than `reference`, from the pixels where neither is clipped: the median of the logarithmic
 * ratio over a reduced picture, so that movers and a little shake do not matter.
 * @returns undefined when the two share too few unclipped pixels
 */
export function measureStops(reference: EncodedImage, frame: EncodedImage): number | undefined {
  const r = smallLight(reference);
  const f = smallLight(frame);
  if (r.width !== f.width || r.height !== f.height) return undefined;
  const ratios = new Float64Array(r.light.length);
  let count = 0;
  for (let i = 0; i < r.light.length; i++) {
    const a = r.light[i];
    const b = f.light[i];
    if (a > LOW && a < HIGH && b > LOW && b < HIGH) ratios[count++] = b / a;
  }
  if (count === 0 || count < LEAST_SHARED * r.light.length) return undefined;
  return Math.log2(ratios.subarray(0, count).sort()[count >> 1]);
}
