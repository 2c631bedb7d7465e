import { type EncodedImage } from '../../raster/encodedImage';
import { lumaOf } from '../../raster/lumaOf';

/** luminance of noise in three channels that differ so far, against that of each, as deviation */
export const lumaOfNoise = (colour: number): number => Math.sqrt(1 - colour * (1 - APART));

/** Noise of a picture against how light it is. */
export interface NoiseByLevel {
  /** standard deviation of the luma at each of {@link NOISE_LEVELS} levels, encoded 0…1; undefined where too little of the picture tells of it */
  readonly sigmas: readonly (number | undefined)[];
  /** sigma of the Gaussian that such grain would be white noise blurred by, pixels; 0 for white noise */
  readonly size: number;
  /** how far the channels differ: 0 all alike, 1 each by itself */
  readonly colour: number;
}

/** levels of lightness that noise is told apart by, even steps of the code */
export const NOISE_LEVELS = 8;

const BLOCK = 8;
/** codes that a block lies wholly between: what is cut off has no noise */
const [DARKEST, LIGHTEST] = [4 / 255, 251 / 255];
/** blocks of a level below which nothing is said */
const LEAST_BLOCKS = 60;
/** part of a level’s blocks, the evenest, that tell of noise: texture and edges are in the others */
const EVENEST = 0.1;
/** levels whose evenest blocks are so much louder than those of another hold nothing but edges */
const MOST_APART = 4;
/**
 * What the evenest tenth of the blocks of pure grain shows, by the size of the grain (simulated, white noise of deviation 1 blurred by Gaussians):
 * correlation of neighbours and deviation, both about the plane through a block, and Immerkær’s measure.
 */
const OF_PURE_GRAIN = [
  { size: 0, correlation: -0.046, deviation: 0.822, mask: 0.86 },
  { size: 0.3, correlation: -0.039, deviation: 0.819, mask: 0.85 },
  { size: 0.4, correlation: 0.01, deviation: 0.813, mask: 0.776 },
  { size: 0.5, correlation: 0.122, deviation: 0.787, mask: 0.605 },
  { size: 0.6, correlation: 0.255, deviation: 0.736, mask: 0.404 },
  { size: 0.7, correlation: 0.37, deviation: 0.683, mask: 0.256 },
  { size: 0.8, correlation: 0.451, deviation: 0.634, mask: 0.166 },
  { size: 1, correlation: 0.55, deviation: 0.551, mask: 0.08 },
  { size: 1.25, correlation: 0.613, deviation: 0.459, mask: 0.037 },
  { size: 1.5, correlation: 0.649, deviation: 0.384, mask: 0.019 },
  { size: 2, correlation: 0.675, deviation: 0.269, mask: 0.006 },
] as const;
/** size up to which the mask sees enough of the grain */
const MASK_SEES = 0.8;
/** variance of rounding to 8 bits, encoded */
const ROUNDING = 1 / 12 / 255 ** 2;
/** opacity from which a pixel counts */
const SEEN = 250;
/** luminance of channels that differ wholly, as variance, against that of one */
const APART = 0.2126 ** 2 + 0.7152 ** 2 + 0.0722 ** 2;

interface Block {
  readonly level: number;
  readonly x: number;
  readonly y: number;
  /** Immerkær’s measure, and the deviation about the plane through it */
  readonly mask: number;
  readonly deviation: number;
}

/**
 * Noise against level in the evenest blocks of each: by Immerkær’s mask (1996), which passes over shading, and by what is left of a block without the
 * plane through it, whichever says less.
 * @returns undefined where no level tells of it
 */
export function noiseByLevel(image: EncodedImage): NoiseByLevel | undefined {
  const luma = lumaOf(image);
  const { width } = image;
  const blocks = blocksOf(image, luma);
  const chosen = Array.from({ length: NOISE_LEVELS }, (_, level): readonly Block[] => {
    const own = blocks.filter((b) => b.level === level).sort((a, b) => a.deviation - b.deviation);
    return own.length < LEAST_BLOCKS ? [] : own.slice(0, Math.ceil(EVENEST * own.length));
  });
  const loudest = (list: readonly Block[]): number => list.at(-1)?.deviation ?? Infinity;
  const limit = MOST_APART * Math.min(...chosen.map(loudest));
  const even = chosen.map((list) => (loudest(list) <= limit ? list : []));
  const told = even.flat();
  if (told.length === 0) return undefined;
  const pure = pureGrain(correlationOf(luma, width, told));
  const rounding = image.white === 255 ? ROUNDING : 0;
  const sigmas = even.map((list) => {
    if (list.length === 0) return undefined;
    const deviation =
      Math.sqrt(list.reduce((s, b) => s + b.deviation ** 2, 0) / list.length) / pure.deviation;
    const mask = list.reduce((s, b) => s + b.mask, 0) / list.length / pure.mask;
    const sigma = pure.size <= MASK_SEES ? Math.min(deviation, mask) : deviation;
    return Math.sqrt(Math.max(0, sigma * sigma - rounding));
  });
  return { sigmas, size: pure.size, colour: colourOf(image, luma, told) };
}

/** What pure grain shows whose neighbours are so correlated. */
function pureGrain(correlation: number): { size: number; deviation: number; mask: number } {
  const after = OF_PURE_GRAIN.findIndex((row) => row.correlation > correlation);
  if (after === 0) return OF_PURE_GRAIN[0];
  const last = OF_PURE_GRAIN[OF_PURE_GRAIN.length - 1];
  if (after < 0) return last;
  const [p, q] = [OF_PURE_GRAIN[after - 1], OF_PURE_GRAIN[after]];
  const t = (correlation - p.correlation) / (q.correlation - p.correlation);
  const mixed = (of: 'size' | 'deviation' | 'mask'): number => p[of] + t * (q[of] - p[of]);
  return { size: mixed('size'), deviation: mixed('deviation'), mask: mixed('mask') };
}

/** Immerkær's mask over a plane at a place. */
const maskAt = (p: ArrayLike<number>, i: number, width: number): number =>
  p[i - width - 1] +
  p[i - width + 1] +
  p[i + width - 1] +
  p[i + width + 1] -
  2 * (p[i - width] + p[i + width] + p[i - 1] + p[i + 1]) +
  4 * p[i];

const meanAbsolute = Math.sqrt(Math.PI / 2) / 6 / BLOCK ** 2;

function blocksOf({ width, height, data, white, alpha }: EncodedImage, luma: Float32Array): Block[] {
  const blocks: Block[] = [];
  for (let y = 1; y + BLOCK < height; y += BLOCK)
    for (let x = 1; x + BLOCK < width; x += BLOCK) {
      let [sum, mean, usable] = [0, 0, true];
      for (let v = y; v < y + BLOCK && usable; v++)
        for (let u = x; u < x + BLOCK; u++) {
          const i = v * width + u;
          const [least, most] = [
            Math.min(data[3 * i], data[3 * i + 1], data[3 * i + 2]),
            Math.max(data[3 * i], data[3 * i + 1], data[3 * i + 2]),
          ];
          if (least <= DARKEST * white || most >= LIGHTEST * white || (alpha && alpha[3 * i] < SEEN)) {
            usable = false;
            break;
          }
          mean += luma[i];
          sum += Math.abs(maskAt(luma, i, width));
        }
      if (!usable) continue;
      const level = Math.min(NOISE_LEVELS - 1, Math.floor((NOISE_LEVELS * mean) / BLOCK ** 2));
      blocks.push({ level, x, y, mask: sum * meanAbsolute, deviation: deviationOf(luma, width, x, y) });
    }
  return blocks;
}

/** Correlation of neighbours in blocks, each without the plane through it. */
function correlationOf(luma: Float32Array, width: number, blocks: readonly Block[]): number {
  let [variance, covariance] = [0, 0];
  for (const { x, y } of blocks) {
    const rest = withoutPlane(luma, width, x, y);
    for (let v = 0; v < BLOCK; v++)
      for (let u = 0; u < BLOCK; u++) {
        const own = rest[v * BLOCK + u];
        variance += (own * own) / BLOCK ** 2;
        if (u + 1 < BLOCK) covariance += (own * rest[v * BLOCK + u + 1]) / (2 * BLOCK * (BLOCK - 1));
        if (v + 1 < BLOCK) covariance += (own * rest[(v + 1) * BLOCK + u]) / (2 * BLOCK * (BLOCK - 1));
      }
  }
  return variance > 0 ? covariance / variance : 0;
}

/** Standard deviation of a block about the plane through it. */
function deviationOf(luma: Float32Array, width: number, x: number, y: number): number {
  const rest = withoutPlane(luma, width, x, y);
  return Math.sqrt(rest.reduce((s, v) => s + v * v, 0) / rest.length);
}

function withoutPlane(luma: Float32Array, width: number, x: number, y: number): Float64Array {
  const middle = (BLOCK - 1) / 2;
  let [mean, across, down, square] = [0, 0, 0, 0];
  for (let v = 0; v < BLOCK; v++)
    for (let u = 0; u < BLOCK; u++) {
      const value = luma[(y + v) * width + x + u];
      mean += value / BLOCK ** 2;
      across += (u - middle) * value;
      down += (v - middle) * value;
      square += (u - middle) ** 2;
    }
  return Float64Array.from({ length: BLOCK ** 2 }, (_, k) => {
    const [u, v] = [k % BLOCK, Math.floor(k / BLOCK)];
    return luma[(y + v) * width + x + u] - mean - ((u - middle) * across + (v - middle) * down) / square;
  });
}

/** How far the noise of the channels differs, by the strength of their luminance against theirs. */
function colourOf(
  { width, data, white }: EncodedImage,
  luma: Float32Array,
  blocks: readonly Block[],
): number {
  const planes = [0, 1, 2].map((c) => luma.map((_, i) => data[3 * i + c] / white));
  const strength = (plane: Float32Array): number =>
    blocks.reduce((sum, { x, y }) => {
      for (let v = y; v < y + BLOCK; v++)
        for (let u = x; u < x + BLOCK; u++) sum += maskAt(plane, v * width + u, width) ** 2;
      return sum;
    }, 0);
  const mean = planes.reduce((s, p) => s + strength(p) / 3, 0);
  if (mean <= 0) return 0;
  return Math.min(1, Math.max(0, (1 - strength(luma) / mean) / (1 - APART)));
}
