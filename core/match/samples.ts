import { type EncodedImage } from '../raster/encodedImage';
import { type Matrix3 } from '../raster/matrix3';

/** Colours of places of a picture: sRGB codes 0…1, three a sample. */
export type Samples = Float64Array;

/** Samples, and the part of the picture that each lies in. */
export interface PartedSamples {
  readonly samples: Samples;
  readonly parts: Uint8Array;
}

/** A number that looks random, the same for the same place. */
export function placeHash(i: number): number {
  let h = Math.imul(i ^ 0x9e3779b9, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Places of about `count` samples on a jittered grid: pictures of one size have them at the same places. */
function places(width: number, height: number, count: number): [x: number, y: number][] {
  const step = Math.max(1, Math.sqrt((width * height) / count));
  const [across, down] = [Math.floor(width / step), Math.floor(height / step)];
  return Array.from({ length: across * down }, (_, k) => {
    const jitter = placeHash(k);
    const along = (cell: number, part: number, end: number): number =>
      Math.min(end - 1, Math.floor((cell + part / 65536) * step));
    return [along(k % across, jitter & 0xffff, width), along(Math.floor(k / across), jitter >>> 16, height)];
  });
}

/** opacity from which a pixel of a cut-out shows its own colour */
const SEEN = 128;

/** Places of a picture that are seen. */
function seenPlaces({ width, height, alpha }: EncodedImage, count: number): [x: number, y: number][] {
  return places(width, height, count).filter(([x, y]) => !alpha || alpha[3 * (y * width + x)] >= SEEN);
}

/** parts that a picture is divided into, about as high as they are wide */
const PARTS = 12;

/** The part of the picture that each of its samples lies in: what differs from part to part is content. */
export function partsOf(image: EncodedImage, count: number): Uint8Array {
  const { width, height } = image;
  const across = Math.min(PARTS, Math.max(1, Math.round(Math.sqrt((PARTS * width) / height))));
  const down = Math.max(1, Math.round(PARTS / across));
  return Uint8Array.from(
    seenPlaces(image, count),
    ([x, y]) => Math.floor((y * down) / height) * across + Math.floor((x * across) / width),
  );
}

/** Colours of about `count` places; of a cut-out those that are seen. */
export function samplesOf(image: EncodedImage, count: number): Samples {
  const { width, data, white } = image;
  const at = seenPlaces(image, count);
  const out = new Float64Array(3 * at.length);
  at.forEach(([x, y], k) => {
    for (let c = 0; c < 3; c++) out[3 * k + c] = clipped(data[3 * (y * width + x) + c] / white);
  });
  return out;
}

/** px about a place whose mean is taken where two pictures are laid over each other: what is left of a fit, and grain, weigh less */
const SPREAD = 1;

/**
 * Colours of the same places in two pictures that are fitted to each other.
 * @param matrix pixel of the target → pixel of the reference
 */
export function pairedSamples(
  target: EncodedImage,
  reference: EncodedImage,
  matrix: Matrix3,
  count: number,
): { readonly target: Samples; readonly reference: Samples } {
  const pairs: number[][] = [];
  for (const [x, y] of places(target.width, target.height, count)) {
    const w = matrix[6] * x + matrix[7] * y + matrix[8];
    const u = Math.round((matrix[0] * x + matrix[1] * y + matrix[2]) / w);
    const v = Math.round((matrix[3] * x + matrix[4] * y + matrix[5]) / w);
    const [from, to] = [meanAbout(target, x, y), meanAbout(reference, u, v)];
    if (from && to) pairs.push([...from, ...to]);
  }
  return {
    target: Float64Array.from(pairs.flatMap((p) => p.slice(0, 3))),
    reference: Float64Array.from(pairs.flatMap((p) => p.slice(3))),
  };
}

/** Mean code of a small square; undefined where it leaves the picture or a cut-out is clear. */
function meanAbout(
  { width, height, data, white, alpha }: EncodedImage,
  x: number,
  y: number,
): number[] | undefined {
  if (x < SPREAD || y < SPREAD || x >= width - SPREAD || y >= height - SPREAD) return undefined;
  if (alpha && alpha[3 * (y * width + x)] < SEEN) return undefined;
  const sum = [0, 0, 0];
  for (let Y = y - SPREAD; Y <= y + SPREAD; Y++)
    for (let X = x - SPREAD; X <= x + SPREAD; X++)
      for (let c = 0; c < 3; c++) sum[c] += clipped(data[3 * (Y * width + X) + c] / white);
  return sum.map((s) => s / (2 * SPREAD + 1) ** 2);
}

const clipped = (v: number): number => Math.min(1, Math.max(0, v));

const RANKS = 1024;

/**
 * Rank correlation (Spearman 1904) of the luma of samples at the same places, −1…1: curves of tone leave ranks alone, so that pictures of one
 * thing in one place stay near 1 however they are graded.
 */
export function rankCorrelation(a: Samples, b: Samples): number {
  const [p, q] = [lumaRanks(a), lumaRanks(b)];
  let [pq, pp, qq] = [0, 0, 1e-12];
  for (let i = 0; i < p.length; i++) {
    pq += p[i] * q[i];
    pp += p[i] * p[i];
    qq += q[i] * q[i];
  }
  return pq / Math.sqrt(pp * qq + 1e-12);
}

export const lumaAt = (samples: ArrayLike<number>, o: number): number =>
  0.2126 * samples[o] + 0.7152 * samples[o + 1] + 0.0722 * samples[o + 2];

function lumaRanks(samples: Samples): Float64Array {
  const n = samples.length / 3;
  const below = new Float64Array(RANKS + 1);
  const bin = Uint16Array.from({ length: n }, (_, i) =>
    Math.floor((RANKS - 1) * clipped(lumaAt(samples, 3 * i))),
  );
  for (const b of bin) below[b + 1]++;
  for (let i = 1; i <= RANKS; i++) below[i] += below[i - 1];
  return Float64Array.from(bin, (b) => (below[b] + below[b + 1]) / 2 / n - 0.5);
}
