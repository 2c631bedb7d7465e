import { randomSource } from '@/core/raster/random';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { realEnvironment } from './knownScene';

/** Codes 0…1 of a pixel before and after. */
type Grade = (code: readonly [number, number, number]) => [number, number, number];

const clip = (v: number): number => Math.min(1, Math.max(0, v));
const each = (code: readonly number[], f: (v: number, c: number) => number): [number, number, number] => [
  f(code[0], 0),
  f(code[1], 1),
  f(code[2], 2),
];
const luma = ([r, g, b]: readonly number[]): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** A gain on light. */
const lit =
  (gains: readonly number[]): Grade =>
  (code) =>
    each(code, (v, c) => linearToSrgb(clip(srgbToLinear(v) * gains[c])));

/** Changes of tone and colour that are known, as a person would make them; the study's kinds. */
export const GRADES: Readonly<Record<string, Grade>> = {
  'S-curve': (code) => each(code, (v) => clip(v + 1.1 * v * (1 - v) * (2 * v - 1))),
  faded: (code) => each(code, (v) => 0.07 + 0.82 * v),
  darker: lit([0.6, 0.6, 0.6]),
  warmer: lit([1.22, 1, 0.78]),
  'split tint': (code) => {
    const y = luma(code);
    const [high, low] = [0.05 * y * y, 0.045 * (1 - y) ** 2 * Math.min(1, 6 * y)];
    return each([code[0] + high - low, code[1] + 0.2 * high + 0.1 * low, code[2] - high + low], clip);
  },
  'more chroma': (code) => each(code, (v) => clip(luma(code) + 1.35 * (v - luma(code)))),
};

/** A picture after a grade. */
export function graded({ width, height, data, white }: EncodedImage, grade: Grade): EncodedImage {
  const out = emptyImage(width, height, 255);
  for (let i = 0; i < data.length; i += 3)
    out.data.set(
      grade([data[i] / white, data[i + 1] / white, data[i + 2] / white]).map((v) =>
        Math.round(255 * clip(v)),
      ),
      i,
    );
  return out;
}

/** A real environment as a picture of 8 bits: its middle a middle grey, its lights rolled off, with the grain of a sensor. */
export function environmentPicture(name: string, width: number, height: number): EncodedImage {
  const map = realEnvironment(name, width, height);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.16 / sorted[sorted.length >> 1];
  const image = emptyImage(width, height, 255);
  const random = randomSource(11);
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) {
      const light = Math.max(0, map.planes[c][i]) * gain;
      const grain = (random() - 0.5) * 0.012;
      image.data[3 * i + c] = Math.round(255 * clip(linearToSrgb(light / (1 + light / 1.4)) + grain));
    }
  return image;
}

/** A part of a picture's columns. */
export function columns(image: EncodedImage, from: number, to: number): EncodedImage {
  const out = emptyImage(to - from, image.height, 255);
  for (let y = 0; y < image.height; y++)
    out.data.set(
      image.data.subarray(3 * (y * image.width + from), 3 * (y * image.width + to)),
      3 * y * (to - from),
    );
  return out;
}
