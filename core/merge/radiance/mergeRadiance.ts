import { encodeOpen } from '../../colour/encodeSource';
import { type EncodedImage, emptyImage } from '../../raster/encodedImage';
import { type Rectangle, sharedBytes } from '../../raster/raster';
import { decodePlane } from '../../raster/srgb';
import { FEATHER } from '../bandGeometry';
import { type MoverTakes } from '../fusionPlan';
import { radianceBand, type RadianceFrame } from './radianceBand';
import { type Response } from './response';
import { type ToneBase, toneBase, toneMapPlanes, toneOf, type ToneWish } from './toneMap';

/** A radiance merge in the making: shared memory that its bands fill. */
export interface RadianceBuffers {
  readonly width: number;
  readonly height: number;
  /** linear light at the reference's exposure, sRGB-encoded floats, unbounded */
  readonly radiance: EncodedImage;
  /** [frame] share in each pixel of the half-size picture, 0…255 */
  readonly shares: readonly Uint8Array[];
}

export function radianceBuffers(width: number, height: number, frames: number): RadianceBuffers {
  const half = ((width + 1) >> 1) * ((height + 1) >> 1);
  return {
    width,
    height,
    radiance: emptyImage(width, height, 1),
    shares: Array.from({ length: frames }, () => new Uint8Array(sharedBytes(half))),
  };
}

const BAND_PIXELS = 500_000;

/** Bands of an even number of rows that share the work. */
export function radianceBands(width: number, height: number): Rectangle[] {
  const rows = Math.max(16, Math.min(Math.ceil(height / 8) * 2, Math.floor(BAND_PIXELS / width) & ~1));
  return Array.from({ length: Math.ceil(height / rows) }, (_, k) => ({
    x: 0,
    y: k * rows,
    width,
    height: Math.min(rows, height - k * rows),
  }));
}

/** Fills one band of the radiance map. */
export function fillRadiance(
  frames: readonly RadianceFrame[],
  response: Response,
  band: Rectangle,
  { width, height, radiance, shares }: RadianceBuffers,
  takes?: MoverTakes,
): void {
  const feather = Math.max(2, FEATHER * Math.max(width, height));
  const { planes, shares: weights } = radianceBand(frames, response, band, feather, takes);
  const { data } = radiance;
  for (let i = 0, o = band.y * width * 3; i < planes[0].length; i++, o += 3)
    for (let c = 0; c < 3; c++) data[o + c] = encodeOpen(planes[c][i]);
  const halfWidth = (width + 1) >> 1;
  weights.forEach((share, f) => {
    for (let y = 0; y < band.height; y += 2)
      for (let x = 0, o = ((y + band.y) >> 1) * halfWidth; x < width; x += 2, o++)
        shares[f][o] = share[y * width + x] * 255 + 0.5;
  });
}

const BASE_EDGE = 700;

/** The tone base of a radiance map, from means of its tones on a grid of about 700 cells. */
export function baseOf({ width, height, data }: EncodedImage): ToneBase {
  const cell = Math.max(1, Math.ceil(Math.max(width, height) / BASE_EDGE));
  const [w, h] = [Math.ceil(width / cell), Math.ceil(height / cell)];
  const tone = new Float32Array(w * h);
  const row = [0, 1, 2].map(() => new Float32Array(width));
  const sums = new Float64Array(w);
  for (let y = 0; y < h; y++) {
    sums.fill(0);
    const rows = Math.min(cell, height - y * cell);
    for (let j = 0; j < rows; j++) {
      for (let x = 0, i = (y * cell + j) * width * 3; x < width; x++, i += 3)
        for (let c = 0; c < 3; c++) row[c][x] = data[i + c];
      row.forEach(decodePlane);
      for (let x = 0; x < width; x++) sums[Math.floor(x / cell)] += toneOf(row[0][x], row[1][x], row[2][x]);
    }
    for (let x = 0; x < w; x++) tone[y * w + x] = sums[x] / (rows * Math.min(cell, width - x * cell));
  }
  return toneBase(tone, w, h, cell);
}

/** Tone-maps one band of a radiance map into 16-bit codes. */
export function toneMapBand(
  radiance: EncodedImage,
  band: Rectangle,
  base: ToneBase,
  wish: ToneWish,
  out: EncodedImage,
): void {
  const n = band.width * band.height;
  const planes = [0, 1, 2].map(() => new Float32Array(n));
  const from = band.y * band.width * 3;
  for (let i = 0, o = from; i < n; i++, o += 3)
    for (let c = 0; c < 3; c++) planes[c][i] = radiance.data[o + c];
  planes.forEach(decodePlane);
  toneMapPlanes(planes, band, base, wish);
  for (let i = 0, o = from; i < n; i++, o += 3)
    for (let c = 0; c < 3; c++) out.data[o + c] = planes[c][i] * 65535 + 0.5;
}
