import { kernels } from '../kernels/kernels';
import { warpIntoKernels } from '../kernels/warpKernel';
import { type EncodedImage } from './encodedImage';
import { LANCZOS, LANCZOS_PHASES as PHASES, LANCZOS_TAPS as TAPS } from './lanczos';
import { integerShift, type Matrix3 } from './matrix3';
import { type Rectangle } from './raster';

/** How a source is resampled: `lanczos` (radius 3) for output, `bilinear` for quick looks. */
export type Kernel = 'lanczos' | 'bilinear';

/**
 * Resamples a source into the rectangle `out` of the output grid. Code values are divided by white, so they stay encoded: a
 * kernel with negative lobes rings around lamps in linear light, and hardly in encoded values.
 * Outside the source its nearest edge pixel is continued; {@link coverage} says where that is so.
 * @param matrix output pixel centre → source pixel centre
 * @returns three planes of `out.width * out.height`, 0…1, a little beyond where the kernel overshoots
 */
export function warpImage(
  image: EncodedImage,
  matrix: Matrix3,
  out: Rectangle,
  kernel: Kernel,
): Float32Array[] {
  const k = image.width > 1 && image.height > 1 ? kernels() : undefined;
  if (!k) return plainWarp(image, matrix, out, kernel);
  const n = out.width * out.height;
  return k.borrow(() => {
    const plane = n * 4 + 64;
    const at = k.take(3 * plane);
    warpIntoKernels(k, image, matrix, out, at, plane, kernel);
    return [0, 1, 2].map((c) => k.floats(at + c * plane, n).slice());
  });
}

/** The plain form of {@link warpImage}, which the kernel is held against. */
export function plainWarp(
  image: EncodedImage,
  matrix: Matrix3,
  out: Rectangle,
  kernel: Kernel,
): Float32Array[] {
  const { width: w, height: h, data, white } = image;
  const n = out.width * out.height;
  const planes = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  const [R, G, B] = planes;
  const k = 1 / white;
  const shift = integerShift(matrix);
  if (shift) {
    for (let y = 0, o = 0; y < out.height; y++) {
      const sy = Math.min(h - 1, Math.max(0, y + out.y + shift[1])) * w;
      for (let x = 0; x < out.width; x++, o++) {
        const i = (sy + Math.min(w - 1, Math.max(0, x + out.x + shift[0]))) * 3;
        R[o] = data[i] * k;
        G[o] = data[i + 1] * k;
        B[o] = data[i + 2] * k;
      }
    }
    return planes;
  }
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = matrix;
  const lanczos = kernel === 'lanczos';
  const columns = new Int32Array(TAPS);
  for (let y = 0, o = 0; y < out.height; y++) {
    const Y = y + out.y;
    for (let x = 0; x < out.width; x++, o++) {
      const X = x + out.x;
      const d = 1 / (m6 * X + m7 * Y + m8);
      let sx = (m0 * X + m1 * Y + m2) * d;
      let sy = (m3 * X + m4 * Y + m5) * d;
      sx = sx > 0 ? (sx < w - 1 ? sx : w - 1) : 0;
      sy = sy > 0 ? (sy < h - 1 ? sy : h - 1) : 0;
      const ix = sx | 0;
      const iy = sy | 0;
      let r = 0;
      let g = 0;
      let b = 0;
      if (lanczos) {
        const px = (((sx - ix) * PHASES + 0.5) | 0) * TAPS;
        const py = (((sy - iy) * PHASES + 0.5) | 0) * TAPS;
        const a0 = LANCZOS[px];
        const a1 = LANCZOS[px + 1];
        const a2 = LANCZOS[px + 2];
        const a3 = LANCZOS[px + 3];
        const a4 = LANCZOS[px + 4];
        const a5 = LANCZOS[px + 5];
        if (ix >= 2 && iy >= 2 && ix < w - 3 && iy < h - 3) {
          let i = ((iy - 2) * w + ix - 2) * 3;
          for (let t = 0; t < TAPS; t++, i += w * 3) {
            const c = LANCZOS[py + t];
            r +=
              c *
              (a0 * data[i] +
                a1 * data[i + 3] +
                a2 * data[i + 6] +
                a3 * data[i + 9] +
                a4 * data[i + 12] +
                a5 * data[i + 15]);
            g +=
              c *
              (a0 * data[i + 1] +
                a1 * data[i + 4] +
                a2 * data[i + 7] +
                a3 * data[i + 10] +
                a4 * data[i + 13] +
                a5 * data[i + 16]);
            b +=
              c *
              (a0 * data[i + 2] +
                a1 * data[i + 5] +
                a2 * data[i + 8] +
                a3 * data[i + 11] +
                a4 * data[i + 14] +
                a5 * data[i + 17]);
          }
        } else {
          for (let t = 0; t < TAPS; t++) columns[t] = Math.min(w - 1, Math.max(0, ix - 2 + t)) * 3;
          for (let t = 0; t < TAPS; t++) {
            const c = LANCZOS[py + t];
            const row = Math.min(h - 1, Math.max(0, iy - 2 + t)) * w * 3;
            for (let s = 0; s < TAPS; s++) {
              const i = row + columns[s];
              const f = c * LANCZOS[px + s];
              r += f * data[i];
              g += f * data[i + 1];
              b += f * data[i + 2];
            }
          }
        }
      } else {
        const fx = sx - ix;
        const fy = sy - iy;
        const i = (iy * w + ix) * 3;
        const right = ix + 1 < w ? 3 : 0;
        const down = iy + 1 < h ? w * 3 : 0;
        const w11 = fx * fy;
        const w10 = fx - w11;
        const w01 = fy - w11;
        const w00 = 1 - fx - w01;
        r = w00 * data[i] + w10 * data[i + right] + w01 * data[i + down] + w11 * data[i + right + down];
        g =
          w00 * data[i + 1] +
          w10 * data[i + right + 1] +
          w01 * data[i + down + 1] +
          w11 * data[i + right + down + 1];
        b =
          w00 * data[i + 2] +
          w10 * data[i + right + 2] +
          w01 * data[i + down + 2] +
          w11 * data[i + right + down + 2];
      }
      R[o] = r * k;
      G[o] = g * k;
      B[o] = b * k;
    }
  }
  return planes;
}

/**
 * How far inside the source each output pixel lies: 0 outside, rising to 1 at `feather` source pixels from its border.
 * With feather 0 it is 1 exactly where the pixel centre falls on the source (border pixel centres included).
 */
export function coverage(
  source: { width: number; height: number },
  matrix: Matrix3,
  out: Rectangle,
  feather: number,
): Float32Array {
  const plane = new Float32Array(out.width * out.height);
  const inside = borderDistance(source, matrix);
  if (feather > 0) {
    for (let y = 0, o = 0; y < out.height; y++)
      for (let x = 0; x < out.width; x++, o++) {
        const distance = inside(x + out.x, y + out.y);
        if (distance >= -SLACK) plane[o] = Math.min(1, (distance + 0.5) / feather);
      }
    return plane;
  }
  for (let y = 0; y < out.height; y++) {
    const [from, to] = coveredRun(source, matrix, out, y + out.y, inside);
    if (to > from) plane.fill(1, y * out.width + from, y * out.width + to);
  }
  return plane;
}

/** pixels by which a centre may lie beyond the border and still count as on it: the rounding of maps */
const SLACK = 1e-6;

/** How far inside the source an output pixel falls, source pixels; −∞ behind the camera. */
function borderDistance(
  { width, height }: { width: number; height: number },
  [m0, m1, m2, m3, m4, m5, m6, m7, m8]: Matrix3,
): (x: number, y: number) => number {
  return (x, y) => {
    const d = 1 / (m6 * x + m7 * y + m8);
    if (!(d > 0)) return -Infinity;
    const u = (m0 * x + m1 * y + m2) * d;
    const v = (m3 * x + m4 * y + m5) * d;
    return Math.min(u, width - 1 - u, v, height - 1 - v);
  };
}

/**
 * The run of a row's pixels that fall on the source, from … to: borders are lines, so each leaves a half-line of the row; the ends are
 * settled pixel by pixel, as the whole row would be.
 */
function coveredRun(
  { width, height }: { width: number; height: number },
  [m0, m1, m2, m3, m4, m5, m6, m7, m8]: Matrix3,
  out: Rectangle,
  y: number,
  inside: (x: number, y: number) => number,
): readonly [from: number, to: number] {
  const [u, v, w] = [m1 * y + m2, m4 * y + m5, m7 * y + m8];
  // each a · x + b ≥ 0
  const borders = [
    [m6, w],
    [m0 + SLACK * m6, u + SLACK * w],
    [(width - 1 + SLACK) * m6 - m0, (width - 1 + SLACK) * w - u],
    [m3 + SLACK * m6, v + SLACK * w],
    [(height - 1 + SLACK) * m6 - m3, (height - 1 + SLACK) * w - v],
  ];
  let [from, to] = [out.x, out.x + out.width - 1];
  for (const [a, b] of borders) {
    if (a > 0) from = Math.max(from, Math.ceil(-b / a));
    else if (a < 0) to = Math.min(to, Math.floor(-b / a));
    else if (b < 0) return [0, 0];
  }
  // a border that rounding has moved by a pixel is moved back
  from = Math.max(out.x, from - 1);
  to = Math.min(out.x + out.width - 1, to + 1);
  const is = (x: number): boolean => inside(x, y) >= -SLACK;
  while (from <= to && !is(from)) from++;
  while (to >= from && !is(to)) to--;
  return [from - out.x, to + 1 - out.x];
}
