import { codeBytes, type Kernels, kernels } from '../kernels/kernels';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { linearTable } from '../raster/srgb';

/** Light of one frame on the scale of the reference exposure, with a validity of 0…1 per pixel (0 where it clips). */
export interface Luminance {
  readonly width: number;
  readonly height: number;
  readonly light: Float32Array;
  readonly valid: Float32Array;
  /** factor from this frame's own exposure to the common one, 2^−EV */
  readonly gain: number;
  /** halvings from full size */
  readonly level: number;
}

/** Which samples of a pixel are used: all three as (R + 2G + B)/4, or one channel alone. */
export type Channel = 'all' | 0 | 1 | 2;

/** Samples at or above this share of white count as clipped: 248 of 255. */
export const CLIP_SHARE = 248 / 255;

/**
 * Linear luminance in the common exposure.
 * @param stops exposure of this frame relative to the reference (EV)
 */
export function luminance(image: EncodedImage, stops: number, channel: Channel): Luminance {
  const { width, height, data, white } = image;
  const n = width * height;
  const light = new Float32Array(n);
  const valid = new Float32Array(n);
  const gain = 2 ** -stops;
  const limit = Math.ceil(CLIP_SHARE * white);
  const table = linearTable(white);
  const scaled = table.map((v) => v * gain);
  if (channel === 'all') {
    const quarter = scaled.map((v) => v * 0.25);
    for (let i = 0, j = 0; i < n; i++, j += 3) {
      const r = data[j];
      const g = data[j + 1];
      const b = data[j + 2];
      light[i] = quarter[r] + 2 * quarter[g] + quarter[b];
      valid[i] = r < limit && g < limit && b < limit ? 1 : 0;
    }
  } else
    for (let i = 0, j = channel; i < n; i++, j += 3) {
      light[i] = scaled[data[j]];
      valid[i] = data[j] < limit ? 1 : 0;
    }
  return { width, height, light, valid, gain, level: 0 };
}

/**
 * The channel to register on. When most of a frame clips in one channel (a sky at +4 EV), another alone may have far more usable
 * samples than all three together.
 * @param stops exposure of `frame` relative to `reference`
 */
export function usableChannel(reference: EncodedImage, frame: EncodedImage, stops: number): Channel {
  const counts = [0, 0, 0, 0];
  for (const [image, gain] of [
    [frame, 2 ** -stops],
    [reference, 2 ** stops],
  ] as const) {
    const { data, white } = image;
    const table = linearTable(white);
    const low = (3 / 255) * white;
    for (let i = 0; i + 2 < data.length; i += 37 * 3) {
      let all = true;
      for (let c = 0; c < 3; c++) {
        const v = data[i + c];
        const usable = v < CLIP_SHARE * white && table[v] * gain < 0.85 && v > low;
        if (usable) counts[c]++;
        else all = false;
      }
      if (all) counts[3]++;
    }
  }
  const best = counts[1] >= counts[0] && counts[1] >= counts[2] ? 1 : counts[0] >= counts[2] ? 0 : 2;
  return counts[best] > 1.6 * counts[3] ? best : 'all';
}

/**
 * The next level: separable [1 3 3 1]/8 normalised by validity. A coarse pixel counts when more than a quarter of it is covered;
 * half would lose the sparse valid samples of +4 EV frames.
 */
export function halveLuminance(fine: Luminance): Luminance {
  const { width: W, height: H, light, valid } = fine;
  const width = W >> 1;
  const height = H >> 1;
  const out = new Float32Array(width * height);
  const cover = new Float32Array(width * height);
  // rows filtered across first, four of them alive at a time
  const sums = [0, 1, 2, 3].map(() => new Float32Array(width));
  const weights = [0, 1, 2, 3].map(() => new Float32Array(width));
  const across = (row: number): void => {
    const y = Math.min(H - 1, Math.max(0, row)) * W;
    const s = sums[(row + 4) & 3];
    const v = weights[(row + 4) & 3];
    for (let x = 0; x < width; x++) {
      const i = y + 2 * x;
      const a = x > 0 ? i - 1 : i;
      const d = 2 * x + 2 < W ? i + 2 : i + 1;
      const va = valid[a];
      const vb = 3 * valid[i];
      const vc = 3 * valid[i + 1];
      const vd = valid[d];
      s[x] = va * light[a] + vb * light[i] + vc * light[i + 1] + vd * light[d];
      v[x] = va + vb + vc + vd;
    }
  };
  across(-1);
  across(0);
  for (let y = 0; y < height; y++) {
    across(2 * y + 1);
    across(2 * y + 2);
    const [a, b, c, d] = [2 * y + 3, 2 * y + 4, 2 * y + 5, 2 * y + 6].map((r) => r & 3);
    const o = y * width;
    for (let x = 0; x < width; x++) {
      const v = (weights[a][x] + 3 * (weights[b][x] + weights[c][x]) + weights[d][x]) / 64;
      const s = (sums[a][x] + 3 * (sums[b][x] + sums[c][x]) + sums[d][x]) / 64;
      out[o + x] = v > 0 ? s / v : light[2 * y * W + 2 * x];
      cover[o + x] = v > 0.25 ? v : 0;
    }
  }
  return { width, height, light: out, valid: cover, gain: fine.gain, level: fine.level + 1 };
}

/** Leaves nothing usable outside a full-size region of the reference, in place. */
export function keepRegion({ width, height, valid, level }: Luminance, region: Rectangle): void {
  const scale = 2 ** -level;
  const [x0, x1] = [region.x * scale, (region.x + region.width) * scale];
  const [y0, y1] = [region.y * scale, (region.y + region.height) * scale];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) if (x < x0 || x >= x1 || y < y0 || y >= y1) valid[i] = 0;
}

/** Levels from full size down to about 190 pixels wide, at least three. */
export function luminancePyramid(image: EncodedImage, stops: number, channel: Channel): Luminance[] {
  const count = Math.max(3, Math.round(Math.log2(Math.max(image.width, image.height) / 190)) + 1);
  const k = kernels();
  if (k) return compiledPyramid(k, image, stops, channel, count);
  const levels = [luminance(image, stops, channel)];
  while (levels.length < count) levels.push(halveLuminance(levels[levels.length - 1]));
  return levels;
}

function compiledPyramid(
  k: Kernels,
  { width, height, data, white }: EncodedImage,
  stops: number,
  channel: Channel,
  count: number,
): Luminance[] {
  return k.borrow(() => {
    const gain = 2 ** -stops;
    const table = k.upload(linearTable(white).map((v) => v * gain));
    const n = width * height;
    let [w, h] = [width, height];
    let [light, valid] = [k.take(n * 4), k.take(n * 4)];
    k.borrow(() => {
      const src = k.uploadCodes(data);
      const limit = Math.ceil(CLIP_SHARE * white);
      const size = codeBytes(white);
      k.luminancePlane(src, size, n, table, limit, channel === 'all' ? 3 : channel, light, valid);
    });
    const ring = k.take(8 * ((width >> 1) * 4 + 16));
    const levels: Luminance[] = [];
    for (let level = 0; ; level++) {
      const copy = (at: number): Float32Array => k.floats(at, w * h).slice();
      levels.push({ width: w, height: h, light: copy(light), valid: copy(valid), gain, level });
      if (level + 1 === count) return levels;
      const [hw, hh] = [w >> 1, h >> 1];
      const [next, cover] = [k.take(hw * hh * 4), k.take(hw * hh * 4)];
      k.halveLuminancePlanes(light, valid, w, h, next, cover, ring);
      [w, h, light, valid] = [hw, hh, next, cover];
    }
  });
}
