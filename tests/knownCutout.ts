import { readFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { type Dab } from '@/core/cutout/dab';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { realEnvironment } from './knownScene';

/** A picture of a thing whose opacity and colours are known. */
export interface KnownCutout {
  readonly image: EncodedImage;
  /** [pixel] 0…1 */
  readonly alpha: Float32Array;
  /** linear light of the thing, R G B interleaved */
  readonly colour: Float32Array;
}

/** A plate of the demo, laid in linear light over a real environment, with the noise of a sensor. @param height of the plate, px */
export function plateOver(
  plate: string,
  environment: string,
  [width, height]: readonly [number, number],
  at: { readonly x: number; readonly y: number; readonly height: number },
): KnownCutout {
  const map = realEnvironment(environment, width, height);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.18 / sorted[sorted.length >> 1];
  const png = PNG.sync.read(readFileSync(new URL(`../demo/frames/${plate}.png`, import.meta.url)));
  const scale = png.height / at.height;
  const alpha = new Float32Array(width * height);
  const colour = new Float32Array(3 * width * height);
  const image: EncodedImage = { width, height, white: 255, data: new Uint8Array(3 * width * height) };
  const normal = normalSource(randomSource(7));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      alpha[i] = boxed(png, x - at.x, y - at.y, scale, colour, i);
      for (let c = 0; c < 3; c++) {
        const behind = Math.max(0, map.planes[c][i] * gain);
        const light = alpha[i] * colour[3 * i + c] + (1 - alpha[i]) * Math.min(1, behind);
        const noisy = light + normal() * Math.sqrt(0.00025 * light + 0.0012 ** 2);
        image.data[3 * i + c] = Math.round(255 * linearToSrgb(Math.max(0, Math.min(1, noisy))));
      }
    }
  return { image, alpha, colour };
}

/** Mean opacity of a box of the plate; its mean colour goes to `colour`. */
function boxed(png: PNG, x: number, y: number, scale: number, colour: Float32Array, i: number): number {
  let [cover, n] = [0, 0];
  const sum = [0, 0, 0];
  for (let Y = Math.floor(y * scale); Y < Math.floor((y + 1) * scale); Y++)
    for (let X = Math.floor(x * scale); X < Math.floor((x + 1) * scale); X++, n++) {
      if (X < 0 || Y < 0 || X >= png.width || Y >= png.height) continue;
      const o = 4 * (Y * png.width + X);
      const a = png.data[o + 3] / 255;
      cover += a;
      for (let c = 0; c < 3; c++) sum[c] += a * srgbToLinear(png.data[o + c] / 255);
    }
  for (let c = 0; c < 3; c++) colour[3 * i + c] = cover > 0 ? sum[c] / cover : 0;
  return n > 0 ? cover / n : 0;
}

/** A straight dab. */
export const dab = (is: Dab['is'], ...points: [number, number][]): Dab => ({ is, size: 4, points });

/** Intersection over union of what is more than half covered. */
export function overlap(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    if (a[i] > 0.5 && b[i] > 0.5) both++;
    if (a[i] > 0.5 || b[i] > 0.5) either++;
  }
  return both / either;
}
