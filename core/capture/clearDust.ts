import { emptyImage, type EncodedImage } from '../raster/encodedImage';
import { type Allocate } from '../raster/raster';
import { linearToSrgb, srgbToLinear } from '../raster/srgb';
import { type DustShade } from './dustShade';

/** A frame with the light that dust took given back, for each spot as much as it takes. */
export function clearDust(
  image: EncodedImage,
  shades: readonly DustShade[],
  allocate?: Allocate,
): EncodedImage {
  const { width, height, white, data } = image;
  const out = emptyImage(width, height, white, allocate);
  out.data.set(data);
  const round = white === 1 ? 0 : 0.5;
  for (const shade of shades) {
    const { x: left, y: top, size, cell } = shade;
    const [x0, y0] = [Math.max(0, Math.ceil(left * cell)), Math.max(0, Math.ceil(top * cell))];
    const [x1, y1] = [
      Math.min(width, Math.floor((left + size) * cell)),
      Math.min(height, Math.floor((top + size) * cell)),
    ];
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const share = shareAt(shade, (x + 0.5) / cell - 0.5 - left, (y + 0.5) / cell - 0.5 - top);
        if (share >= 1) continue;
        for (let c = 0; c < 3; c++) {
          const i = 3 * (y * width + x) + c;
          const light = srgbToLinear(out.data[i] / white) / share;
          out.data[i] = Math.min(white === 1 ? Infinity : white, linearToSrgb(light) * white + round);
        }
      }
  }
  return out;
}

/** What a spot lets through at a place of its cells, between them linearly. */
function shareAt({ size, values }: DustShade, u: number, v: number): number {
  const within = (t: number): number => Math.min(size - 1, Math.max(0, t));
  const [x, y] = [within(u), within(v)];
  const [c, r] = [Math.min(size - 2, Math.floor(x)), Math.min(size - 2, Math.floor(y))];
  const [fx, fy] = [x - c, y - r];
  const o = r * size + c;
  const above = values[o] + fx * (values[o + 1] - values[o]);
  const below = values[o + size] + fx * (values[o + size + 1] - values[o + size]);
  return above + fy * (below - above);
}
