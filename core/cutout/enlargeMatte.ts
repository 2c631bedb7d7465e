import { boxMean } from '../raster/boxMean';
import { type EncodedImage } from '../raster/encodedImage';
import { lightOfCodes } from '../raster/lightOfCodes';
import { type LightGrid } from './lightGrid';

/** radius of the windows in which alpha is taken for a linear function of light, cells */
const RADIUS = 2;
const EPSILON = 1e-6;

/**
 * A matte of reduced light at the picture's own size: alpha by the linear coefficients of a guided filter (He, Sun & Tang 2010) with the luminance as
 * its guide, colours by their reduced ones and what the picture itself says beyond them (Forte 2021).
 * @param light the picture's light in cells of `factor` × `factor` px
 * @param alpha [cell] 0…1
 * @param inside linear colours of the thing, [cell · 3]
 * @param outside those behind it
 */
export function enlargeMatte(
  image: EncodedImage,
  light: LightGrid,
  factor: number,
  alpha: Float32Array,
  inside: Float32Array,
  outside: Float32Array,
): { alpha: Float32Array; colour: Float32Array } {
  const { width, height } = image;
  const { slope, offset } = linearModel(light, alpha);
  const lightOf = lightOfCodes(image);
  const full = new Float32Array(width * height);
  const colour = new Float32Array(3 * width * height);
  const own = [0, 0, 0];
  for (let y = 0, i = 0; y < height; y++) {
    const v = Math.max(0, Math.min(light.height - 1, (y + 0.5) / factor - 0.5));
    const v0 = Math.floor(v);
    const below = v0 + 1 < light.height ? light.width : 0;
    for (let x = 0; x < width; x++, i++) {
      const u = Math.max(0, Math.min(light.width - 1, (x + 0.5) / factor - 0.5));
      const u0 = Math.floor(u);
      const a = v0 * light.width + u0;
      const b = u0 + 1 < light.width ? a + 1 : a;
      const [fx, fy] = [u - u0, v - v0];
      const [w00, w10, w01, w11] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
      const between = (plane: Float32Array, channels: number, c: number): number =>
        w00 * plane[channels * a + c] +
        w10 * plane[channels * b + c] +
        w01 * plane[channels * (a + below) + c] +
        w11 * plane[channels * (b + below) + c];
      for (let c = 0; c < 3; c++) own[c] = lightOf(image.data[3 * i + c]);
      const solid = alpha[a] + alpha[b] + alpha[a + below] + alpha[b + below];
      const share =
        solid === 0 || solid === 4
          ? solid / 4
          : Math.max(0, Math.min(1, between(slope, 1, 0) * luminance(own, 0) + between(offset, 1, 0)));
      full[i] = share;
      for (let c = 0; c < 3; c++) {
        const [F, B] = [between(inside, 3, c), between(outside, 3, c)];
        colour[3 * i + c] = Math.max(0, Math.min(1, F + share * (own[c] - share * F - (1 - share) * B)));
      }
    }
  }
  return { alpha: full, colour };
}

const luminance = (rgb: ArrayLike<number>, o: number): number =>
  0.2126 * rgb[o] + 0.7152 * rgb[o + 1] + 0.0722 * rgb[o + 2];

/** Alpha as slope · luminance + offset about every cell. */
function linearModel(
  { width, height, data }: LightGrid,
  alpha: Float32Array,
): { slope: Float32Array; offset: Float32Array } {
  const guide = Float32Array.from(alpha, (_, i) => luminance(data, 3 * i));
  const mean = (plane: Float32Array): Float32Array => boxMean(plane, width, height, RADIUS);
  const product = (a: Float32Array, b: Float32Array): Float32Array => mean(a.map((v, i) => v * b[i]));
  const [I, p, II, Ip] = [mean(guide), mean(alpha), product(guide, guide), product(guide, alpha)];
  const slope = I.map((m, i) => (Ip[i] - m * p[i]) / (II[i] - m * m + EPSILON));
  const offset = p.map((v, i) => v - slope[i] * I[i]);
  return { slope: mean(slope), offset: mean(offset) };
}
