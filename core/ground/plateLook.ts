import { type EncodedImage } from '../raster/encodedImage';
import { srgbToLinear } from '../raster/srgb';

/** Looks a plate up at a place of it: writes linear R, G, B, multiplied by opacity, and the opacity to `out`; nothing beyond its border. */
export type PlateLook = (x: number, y: number, level: number, out: Float64Array) => void;

/** A plate as it is looked up: bilinear in one level, and linearly between two (mip mapping; Williams, *Pyramidal Parametrics*, 1983). */
export function plateLook(levels: readonly EncodedImage[]): PlateLook {
  const curve = Float64Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
  const most = levels.length - 1;
  const add = (level: number, x: number, y: number, weight: number, out: Float64Array): void => {
    const { width, height, data, alpha, white } = levels[level];
    const scale = 2 ** level;
    const [fx, fy] = [(x + 0.5) / scale - 0.5, (y + 0.5) / scale - 0.5];
    const [x0, y0] = [Math.floor(fx), Math.floor(fy)];
    if (x0 < -1 || y0 < -1 || x0 >= width || y0 >= height) return;
    for (let k = 0; k < 4; k++) {
      const [px, py] = [x0 + (k & 1), y0 + (k >> 1)];
      if (px < 0 || py < 0 || px >= width || py >= height) continue;
      const i = 3 * (py * width + px);
      const share =
        weight *
        (k & 1 ? fx - x0 : 1 - fx + x0) *
        (k >> 1 ? fy - y0 : 1 - fy + y0) *
        (alpha ? alpha[i] / 255 : 1);
      if (share === 0) continue;
      for (let c = 0; c < 3; c++)
        out[c] += share * (white === 255 ? curve[data[i + c]] : srgbToLinear(data[i + c] / white));
      out[3] += share;
    }
  };
  return (x, y, level, out) => {
    out.fill(0);
    const held = Math.max(0, Math.min(most, level));
    const low = Math.floor(held);
    add(low, x, y, 1 - (held - low), out);
    if (held > low) add(low + 1, x, y, held - low, out);
  };
}
