import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3, transform } from '../../raster/matrix3';
import { type PointPair } from './matchFeatures';

/** half a side of the patch that is laid over */
const REACH = 8;
const SIDE = 2 * REACH + 1;
const PASSES = 6;
/** farther from where the map says than this, the patch lies on something else, pixels */
const FARTHEST = 5;
/** correlation that a patch of the same thing reaches */
const ALIKE = 0.75;
/** error of a place that was laid over, pixels: what noise and resampling leave (measured on the stand-in scene) */
const SPREAD = 0.12;

/** Luminance, square root of the codes' mean: noise is about even over the tones. */
export function patchLuminance(image: EncodedImage): Float32Array {
  const { data, white, width, height } = asCodes(image);
  const grey = new Float32Array(width * height);
  for (let i = 0; i < grey.length; i++)
    grey[i] = Math.sqrt((data[3 * i] + 2 * data[3 * i + 1] + data[3 * i + 2]) / (4 * white));
  return grey;
}

/** A picture's luminance and its size. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly grey: Float32Array;
}

/**
 * Lays the patch around each first point over the other picture, bent by a map of the pair, and moves it to where it fits best (Lucas &
 * Kanade 1981, with the patch's own gain and offset). Pairs whose patches do not come to lie on each other are left out.
 */
export function refinePairs(a: Grey, b: Grey, map: Matrix3, pairs: readonly PointPair[]): PointPair[] {
  const template = new Float32Array(SIDE * SIDE);
  const patch = new Float32Array(SIDE * SIDE);
  const [gx, gy] = [new Float32Array(SIDE * SIDE), new Float32Array(SIDE * SIDE)];
  return pairs.flatMap((pair): PointPair[] => {
    const x = Math.round(pair.x);
    const y = Math.round(pair.y);
    if (x < REACH + 1 || y < REACH + 1 || x + REACH + 2 > a.width || y + REACH + 2 > a.height) return [];
    for (let j = -REACH, k = 0; j <= REACH; j++)
      for (let i = -REACH; i <= REACH; i++, k++) template[k] = a.grey[(y + j) * a.width + x + i];
    const spread = normalised(template);
    if (spread < 1e-4) return [];
    const [u0, v0] = transform(map, x, y);
    let [dx, dy] = [pair.u - transform(map, pair.x, pair.y)[0], pair.v - transform(map, pair.x, pair.y)[1]];
    let alike = 0;
    for (let pass = 0; pass < PASSES; pass++) {
      for (let j = -REACH, k = 0; j <= REACH; j++)
        for (let i = -REACH; i <= REACH; i++, k++) {
          const [u, v] = transform(map, x + i, y + j);
          const value = sample(b, u + dx, v + dy);
          if (Number.isNaN(value)) return [];
          patch[k] = value;
          gx[k] = 0.5 * (sample(b, u + dx + 1, v + dy) - sample(b, u + dx - 1, v + dy));
          gy[k] = 0.5 * (sample(b, u + dx, v + dy + 1) - sample(b, u + dx, v + dy - 1));
        }
      const scale = normalised(patch);
      if (!(scale > 1e-4)) return [];
      let [xx, xy, yy, ex, ey] = [0, 0, 0, 0, 0];
      alike = 0;
      for (let k = 0; k < patch.length; k++) {
        const [p, q] = [gx[k] / scale, gy[k] / scale];
        const e = template[k] - patch[k];
        alike += template[k] * patch[k];
        xx += p * p;
        xy += p * q;
        yy += q * q;
        ex += p * e;
        ey += q * e;
      }
      alike /= patch.length;
      const det = xx * yy - xy * xy;
      if (!(det > 1e-4 * (xx + yy) * (xx + yy))) return [];
      const sx = (yy * ex - xy * ey) / det;
      const sy = (xx * ey - xy * ex) / det;
      dx += Math.max(-1, Math.min(1, sx));
      dy += Math.max(-1, Math.min(1, sy));
      if (Math.hypot(sx, sy) < 0.01) break;
    }
    if (alike < ALIKE || Math.hypot(dx, dy) > FARTHEST) return [];
    return [{ x, y, u: u0 + dx, v: v0 + dy, spread: SPREAD }];
  });
}

/** Takes the mean away and divides by the deviation, in place. @returns the deviation */
function normalised(patch: Float32Array): number {
  let mean = 0;
  for (const v of patch) mean += v;
  mean /= patch.length;
  let square = 0;
  for (const v of patch) square += (v - mean) * (v - mean);
  const deviation = Math.sqrt(square / patch.length);
  for (let i = 0; i < patch.length; i++) patch[i] = (patch[i] - mean) / (deviation || 1);
  return deviation;
}

function sample({ grey, width, height }: Grey, u: number, v: number): number {
  if (!(u >= 1 && v >= 1 && u < width - 2 && v < height - 2)) return NaN;
  const [x, y] = [u | 0, v | 0];
  const [fx, fy] = [u - x, v - y];
  const at = y * width + x;
  const across = (row: number): number => {
    const i = at + row * width;
    // Catmull–Rom: a line between two samples would pull places towards the grid
    const [p, q, r, s] = [grey[i - 1], grey[i], grey[i + 1], grey[i + 2]];
    return q + 0.5 * fx * (r - p + fx * (2 * p - 5 * q + 4 * r - s + fx * (3 * (q - r) + s - p)));
  };
  const [p, q, r, s] = [across(-1), across(0), across(1), across(2)];
  return q + 0.5 * fy * (r - p + fy * (2 * p - 5 * q + 4 * r - s + fy * (3 * (q - r) + s - p)));
}
