import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { linearTable } from '../../raster/srgb';

/** A point of light. */
export interface Star {
  /** centre, full-size pixels */
  readonly x: number;
  readonly y: number;
  /** light above the sky around it, full wells times pixels */
  readonly flux: number;
  /** full width at half maximum, pixels */
  readonly width: number;
}

const CELL = 32;
/** a star stands out of the sky's noise by so many deviations */
const STANDS_OUT = 7;
const MARGIN = 9;
/** so far around a star, pixels, nothing is brighter than this share of it */
const RING = 7;
const ALONE = 0.3;
/** standard deviation to full width at half maximum of a Gaussian: 2·√(2·ln 2) */
const FWHM = 2.3548;
const WIDEST = 12;
/** a point is about as wide as tall: variances may differ by this factor, for short trails */
const ROUND = 4;
/** a sky has at least so many stars, in so many of 8 × 6 parts of the picture */
const LEAST_STARS = 30;
const LEAST_PARTS = 14;
/** one lens draws stars alike: so many of the brighter ones are within this share of the middle width, and none is finer than a pixel */
const ALIKE = 0.6;
const WIDTH_SPREAD = 0.2;
const FINEST = 1;

/**
 * Stars of a picture, brightest first: peaks above the local sky, placed and measured by the parabola through the logarithm of three
 * sums of samples each way, which is exact for a Gaussian.
 * @param most how many at most
 */
export function findStars(source: EncodedImage, most = 300): Star[] {
  const { width: w, height: h, data, white } = asCodes(source);
  const table = linearTable(white);
  const light = new Float32Array(w * h);
  for (let i = 0; i < light.length; i++)
    light[i] = 0.25 * (table[data[3 * i]] + 2 * table[data[3 * i + 1]] + table[data[3 * i + 2]]);
  const { sky, noise, columns } = skyGrid(light, w, h);
  const stars: Star[] = [];
  for (let y = MARGIN; y + MARGIN < h; y++) {
    const row = ((y / CELL) | 0) * columns;
    for (let from = MARGIN; from + MARGIN < w;) {
      const column = (from / CELL) | 0;
      const end = Math.min(w - MARGIN, (column + 1) * CELL);
      const own = sky[row + column];
      const least = own + Math.max(1e-4, STANDS_OUT * noise[row + column]);
      for (let i = y * w + from, last = y * w + end; i < last; i++) {
        if (light[i] < least || !isPeak(light, i, w)) continue;
        const star = measure(light, i, i - y * w, y, w, own);
        if (star) stars.push(star);
      }
      from = end;
    }
  }
  stars.sort((a, b) => b.flux - a.flux);
  return stars.slice(0, most);
}

/** Median and deviation (from the median absolute one) of each cell of the sky. */
function skyGrid(
  light: Float32Array,
  w: number,
  h: number,
): { sky: Float32Array; noise: Float32Array; columns: number } {
  const columns = Math.ceil(w / CELL);
  const rows = Math.ceil(h / CELL);
  const sky = new Float32Array(columns * rows);
  const noise = new Float32Array(columns * rows);
  const samples = new Float32Array((CELL / 2) ** 2);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      let n = 0;
      for (let y = r * CELL; y < Math.min(h, (r + 1) * CELL); y += 2)
        for (let x = c * CELL; x < Math.min(w, (c + 1) * CELL); x += 2) samples[n++] = light[y * w + x];
      const values = samples.subarray(0, n).sort();
      const median = values[n >> 1];
      sky[r * columns + c] = median;
      // the lower half alone: stars only add
      noise[r * columns + c] = 1.4826 * (median - values[n >> 2]) + 1e-6;
    }
  return { sky, noise, columns };
}

function isPeak(light: Float32Array, i: number, w: number): boolean {
  const v = light[i];
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const other = light[i + dy * w + dx];
      if (dy < 0 || (dy === 0 && dx < 0) ? other >= v : other > v) return false;
    }
  return true;
}

function measure(
  light: Float32Array,
  i: number,
  x: number,
  y: number,
  w: number,
  sky: number,
): Star | undefined {
  // three samples beside each other are summed: a Gaussian stays one, and noise weighs less
  const log = (at: number, beside: number): number =>
    Math.log(Math.max(1e-7, light[at - beside] + light[at] + light[at + beside] - 3 * sky));
  const parabola = (step: number, beside: number): { offset: number; variance: number } | undefined => {
    const [l, m, r] = [log(i - step, beside), log(i, beside), log(i + step, beside)];
    const curve = l - 2 * m + r;
    return curve < -1e-3 ? { offset: (0.5 * (l - r)) / curve, variance: -1 / curve } : undefined;
  };
  const [across, down] = [parabola(1, w), parabola(w, 1)];
  if (!across || !down || Math.abs(across.offset) > 1 || Math.abs(down.offset) > 1) return undefined;
  const ratio = across.variance / down.variance;
  if (ratio > ROUND || ratio < 1 / ROUND) return undefined;
  // a glint of a wall or of ripples has others like it around it
  const peak = light[i] - sky;
  for (let k = 0; k < 16; k++) {
    const at =
      i + Math.round(RING * Math.sin((k * Math.PI) / 8)) * w + Math.round(RING * Math.cos((k * Math.PI) / 8));
    if (light[at] - sky > ALONE * peak) return undefined;
  }
  let flux = 0;
  for (let dy = -3; dy <= 3; dy++)
    for (let dx = -3; dx <= 3; dx++) flux += Math.max(0, light[i + dy * w + dx] - sky);
  const width = FWHM * Math.sqrt(Math.sqrt(across.variance * down.variance));
  if (width > WIDEST) return undefined;
  return { x: x + across.offset, y: y + down.offset, flux, width };
}

/** Widths of the brighter stars, the finest first. */
const brightWidths = (stars: readonly Star[]): number[] =>
  stars
    .slice(0, 120)
    .map((s) => s.width)
    .sort((a, b) => a - b);

/** Median full width at half maximum of the brighter stars that are not clipped, pixels; undefined with fewer than five. */
export function starWidth(stars: readonly Star[]): number | undefined {
  const widths = brightWidths(stars);
  return widths.length < 5 ? undefined : widths[widths.length >> 1];
}

/** Whether points are stars of a sky: many, spread over much of the picture, and drawn alike, as glints and noise are not. */
export function isStarry(
  { width, height }: { readonly width: number; readonly height: number },
  stars: readonly Star[],
): boolean {
  if (stars.length < LEAST_STARS) return false;
  const parts = new Set(stars.map((s) => Math.floor((s.y * 6) / height) * 8 + Math.floor((s.x * 8) / width)));
  if (parts.size < LEAST_PARTS) return false;
  const widths = brightWidths(stars);
  const middle = widths[widths.length >> 1];
  const alike = widths.filter((w) => Math.abs(w - middle) <= WIDTH_SPREAD * middle).length;
  return middle >= FINEST && alike >= ALIKE * widths.length;
}
