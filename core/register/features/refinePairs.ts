import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { type Matrix3, transform } from '../../raster/matrix3';
import { sharedFloats } from '../../raster/raster';
import { type PointPair } from './matchFeatures';
import { length2 } from '../../raster/length';

/** half a side of the patch that is laid over */
const REACH = 8;
const SIDE = 2 * REACH + 1;
/** the patch with a ring around it, of which slopes are taken */
const WIDE = SIDE + 2;
const MIDDLE = (WIDE * WIDE) >> 1;
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
  const grey = sharedFloats(width * height);
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
  const seen = new Float32Array(WIDE * WIDE);
  const [us, vs] = [new Float64Array(WIDE * WIDE), new Float64Array(WIDE * WIDE)];
  return pairs.flatMap((pair): PointPair[] => {
    const x = Math.round(pair.x);
    const y = Math.round(pair.y);
    if (x < REACH + 1 || y < REACH + 1 || x + REACH + 2 > a.width || y + REACH + 2 > a.height) return [];
    for (let j = -REACH, k = 0; j <= REACH; j++)
      for (let i = -REACH; i <= REACH; i++, k++) template[k] = a.grey[(y + j) * a.width + x + i];
    const spread = normalised(template);
    if (spread < 1e-4) return [];
    placesOf(map, x, y, us, vs);
    const [u0, v0] = [us[MIDDLE], vs[MIDDLE]];
    // slopes are taken along the patch's own axes and turned into the other picture's by how the map bends it there
    const [ux, vx] = [0.5 * (us[MIDDLE + 1] - us[MIDDLE - 1]), 0.5 * (vs[MIDDLE + 1] - vs[MIDDLE - 1])];
    const [uy, vy] = [
      0.5 * (us[MIDDLE + WIDE] - us[MIDDLE - WIDE]),
      0.5 * (vs[MIDDLE + WIDE] - vs[MIDDLE - WIDE]),
    ];
    const area = ux * vy - uy * vx;
    if (!(area > 0.05)) return [];
    const [cu, cv] = transform(map, pair.x, pair.y);
    let [dx, dy] = [pair.u - cu, pair.v - cv];
    let alike = 0;
    for (let pass = 0; pass < PASSES; pass++) {
      if (!drawPatch(b, us, vs, dx, dy, seen)) return [];
      for (let j = 0, k = 0; j < SIDE; j++)
        for (let i = 0, w = (j + 1) * WIDE + 1; i < SIDE; i++, k++, w++) patch[k] = seen[w];
      const scale = normalised(patch);
      if (!(scale > 1e-4)) return [];
      let [xx, xy, yy, ex, ey] = [0, 0, 0, 0, 0];
      alike = 0;
      const unit = 0.5 / (scale * area);
      for (let j = 0, k = 0; j < SIDE; j++)
        for (let i = 0, w = (j + 1) * WIDE + 1; i < SIDE; i++, k++, w++) {
          const along = seen[w + 1] - seen[w - 1];
          const down = seen[w + WIDE] - seen[w - WIDE];
          const p = (along * vy - down * vx) * unit;
          const q = (down * ux - along * uy) * unit;
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
      if (length2(sx, sy) < 0.01) break;
    }
    if (alike < ALIKE || length2(dx, dy) > FARTHEST) return [];
    return [{ x, y, u: u0 + dx, v: v0 + dy, spread: SPREAD }];
  });
}

/** Where the pixels of a patch and the ring around it lie in the other picture. */
function placesOf(
  [m0, m1, m2, m3, m4, m5, m6, m7, m8]: Matrix3,
  x: number,
  y: number,
  us: Float64Array,
  vs: Float64Array,
): void {
  for (let j = -REACH - 1, k = 0; j <= REACH + 1; j++)
    for (let i = -REACH - 1; i <= REACH + 1; i++, k++) {
      const [X, Y] = [x + i, y + j];
      const d = 1 / (m6 * X + m7 * Y + m8);
      us[k] = (m0 * X + m1 * Y + m2) * d;
      vs[k] = (m3 * X + m4 * Y + m5) * d;
    }
}

/** Draws the moved places by Catmull–Rom: a line between two samples would pull places towards the grid. @returns false beyond the border */
function drawPatch(
  { grey, width, height }: Grey,
  us: Float64Array,
  vs: Float64Array,
  dx: number,
  dy: number,
  out: Float32Array,
): boolean {
  for (let k = 0; k < out.length; k++) {
    const u = us[k] + dx;
    const v = vs[k] + dy;
    if (!(u >= 1 && v >= 1 && u < width - 2 && v < height - 2)) return false;
    const x = u | 0;
    const y = v | 0;
    const at = (y - 1) * width + x;
    const fx = u - x;
    const a = cubic(grey[at - 1], grey[at], grey[at + 1], grey[at + 2], fx);
    const i = at + width;
    const b = cubic(grey[i - 1], grey[i], grey[i + 1], grey[i + 2], fx);
    const j = i + width;
    const c = cubic(grey[j - 1], grey[j], grey[j + 1], grey[j + 2], fx);
    const l = j + width;
    const d = cubic(grey[l - 1], grey[l], grey[l + 1], grey[l + 2], fx);
    out[k] = cubic(a, b, c, d, v - y);
  }
  return true;
}

const cubic = (p: number, q: number, r: number, s: number, f: number): number =>
  q + 0.5 * f * (r - p + f * (2 * p - 5 * q + 4 * r - s + f * (3 * (q - r) + s - p)));

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
