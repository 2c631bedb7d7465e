import { type EncodedImage, emptyImage, type White } from '@/core/raster/encodedImage';
import { randomSource } from '@/core/raster/random';

/** A picture painted by a function of the pixel: three values 0…1. */
export function paint(
  width: number,
  height: number,
  colour: (x: number, y: number) => readonly [number, number, number],
  white: White = 255,
): EncodedImage {
  const image = emptyImage(width, height, white);
  const code = (v: number): number => (white === 1 ? v : Math.round(Math.min(1, Math.max(0, v)) * white));
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 3) colour(x, y).forEach((v, c) => (image.data[o + c] = code(v)));
  return image;
}

/** An even picture. */
export function flat(width: number, height: number, value: number, white: 255 | 65535 = 255): EncodedImage {
  return paint(width, height, () => [value, value, value], white);
}

/** A smooth, irregular texture, the same for the same seed: sums of waves in every direction. */
export function waves(seed: number, count = 60): (x: number, y: number) => number {
  const random = randomSource(seed);
  const parts = Array.from({ length: count }, () => {
    const length = 6 * 2 ** (random() * 5);
    const angle = random() * Math.PI * 2;
    return {
      u: (Math.cos(angle) * 2 * Math.PI) / length,
      v: (Math.sin(angle) * 2 * Math.PI) / length,
      phase: random() * 2 * Math.PI,
      size: Math.sqrt(length),
    };
  });
  const total = Math.sqrt(parts.reduce((s, p) => s + p.size * p.size, 0) / 2) * 2.6;
  return (x, y) =>
    0.5 + parts.reduce((s, p) => s + p.size * Math.sin(p.u * x + p.v * y + p.phase), 0) / total / 2;
}

/** Largest difference of two sequences. */
export function largestDifference(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
}
