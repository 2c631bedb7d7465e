import { kernels, planeBytes, uploadPlanes } from '../../kernels/kernels';
import { encodeOpen } from '../../colour/encodeSource';
import { type EncodedImage, emptyImage } from '../../raster/encodedImage';
import { type Rectangle, sharedBytes } from '../../raster/raster';
import { FEATHER } from '../bandGeometry';
import { type MoverTakes } from '../fusionPlan';
import { radianceBand, type RadianceFrame } from './radianceBand';
import { type Response } from './response';
import { linearRows, linearRowsKernel } from './linearRows';
import { type ToneBase, toneBase, toneMapKernel, toneMapPlanes, tonesOf, type ToneWish } from './toneMap';

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
  layEncoded(planes, data as Float32Array, band.y * width * 3);
  const halfWidth = (width + 1) >> 1;
  weights.forEach((share, f) => {
    for (let y = 0; y < band.height; y += 2)
      for (let x = 0, o = ((y + band.y) >> 1) * halfWidth; x < width; x += 2, o++)
        shares[f][o] = share[y * width + x] * 255 + 0.5;
  });
}

/** Linear planes as interleaved encoded floats, into `out` from `from` on. */
function layEncoded(planes: readonly Float32Array[], out: Float32Array, from: number): void {
  const n = planes[0].length;
  const k = kernels();
  if (k)
    k.borrow(() => {
      const plane = planeBytes(n);
      const at = uploadPlanes(k, planes);
      const laid = k.take(n * 12 + 48);
      k.layEncoded(at, plane, n, laid);
      out.set(k.floats(laid, n * 3), from);
    });
  else
    for (let i = 0, o = from; i < n; i++, o += 3)
      for (let c = 0; c < 3; c++) out[o + c] = encodeOpen(planes[c][i]);
}

const BASE_EDGE = 700;

/** Tones of some rows of a radiance map. */
function rowTones(radiance: EncodedImage, top: number, rows: number): Float32Array {
  const k = kernels();
  if (!k) return tonesOf(linearRows(radiance, top, rows));
  const n = rows * radiance.width;
  return k.borrow(() => {
    const at = linearRowsKernel(k, radiance, top, rows);
    k.tonePlane(at, planeBytes(n), n, at);
    return k.floats(at, n).slice();
  });
}

/** The tone base of a radiance map, from means of its tones on a grid of about 700 cells. */
export function baseOf(radiance: EncodedImage): ToneBase {
  const { width, height } = radiance;
  const cell = Math.max(1, Math.ceil(Math.max(width, height) / BASE_EDGE));
  const [w, h] = [Math.ceil(width / cell), Math.ceil(height / cell)];
  const tone = new Float32Array(w * h);
  const sums = new Float64Array(w);
  for (let y = 0; y < h; y++) {
    sums.fill(0);
    const rows = Math.min(cell, height - y * cell);
    const tones = rowTones(radiance, y * cell, rows);
    for (let j = 0, i = 0; j < rows; j++)
      for (let x = 0; x < width; x++, i++) sums[Math.floor(x / cell)] += tones[i];
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
  const from = band.y * band.width * 3;
  const k = kernels();
  if (k)
    k.borrow(() => {
      const n = band.width * band.height;
      const plane = planeBytes(n);
      const at = linearRowsKernel(k, radiance, band.y, band.height);
      toneMapKernel(k, at, plane, band, base, wish);
      const codes = k.take(n * 6);
      k.toCodes16(at, plane, n, codes);
      out.data.set(k.words(codes, n * 3), from);
    });
  else {
    const planes = linearRows(radiance, band.y, band.height);
    toneMapPlanes(planes, band, base, wish);
    for (let i = 0, o = from; i < planes[0].length; i++, o += 3)
      for (let c = 0; c < 3; c++) out.data[o + c] = planes[c][i] * 65535 + 0.5;
  }
}
