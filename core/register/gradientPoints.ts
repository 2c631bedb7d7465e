import { type Kernels, kernels } from '../kernels/kernels';
import { type Representation } from './logLuminance';

/** The pixels of the reference that carry the fit, grouped by tile so that tone can be freed per tile. */
export interface GradientPoints {
  readonly count: number;
  readonly tilesX: number;
  readonly tilesY: number;
  /** index of the first point of each tile, one more entry than tiles */
  readonly starts: Int32Array;
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly value: Float32Array;
  readonly gradientX: Float32Array;
  readonly gradientY: Float32Array;
  readonly variance: Float32Array;
  /** mean value of each tile */
  readonly tileMean: Float64Array;
}

/** Region limits in pixels of the level, or the whole level. */
export interface PointLimits {
  readonly tilesX: number;
  readonly tilesY: number;
  readonly total: number;
  /** least gradient²/noise of a point; weaker ones carry no information */
  readonly leastScore: number;
  readonly region?: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };
}

const BORDER = 3;

/** Picks in each tile the points with the largest gradient² over noise, an even share of the total. */
export function gradientPoints(rep: Representation, limits: PointLimits): GradientPoints {
  const k = kernels();
  if (!k) return pointsAt(rep, limits, pickedPlainly(rep, limits));
  return pointsAt(
    rep,
    limits,
    k.borrow(() => pickedByKernels(k, rep, limits)),
  );
}

/** The plain form of {@link gradientPoints}, which the kernels are held against. */
export function plainGradientPoints(rep: Representation, limits: PointLimits): GradientPoints {
  return pointsAt(rep, limits, pickedPlainly(rep, limits));
}

interface Picked {
  /** indices of the points, tile by tile */
  readonly found: ArrayLike<number>;
  readonly starts: Int32Array;
}

interface TileBox {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}

function tileBoxes({ width: w, height: h }: Representation, limits: PointLimits): TileBox[] {
  const { tilesX, tilesY } = limits;
  const region = limits.region ?? { x0: 0, y0: 0, x1: w, y1: h };
  const spanX = region.x1 - region.x0;
  const spanY = region.y1 - region.y0;
  return Array.from({ length: tilesX * tilesY }, (_, t) => {
    const [tx, ty] = [t % tilesX, Math.floor(t / tilesX)];
    return {
      x0: Math.max(BORDER, Math.floor(region.x0 + (tx * spanX) / tilesX)),
      x1: Math.min(w - BORDER, Math.floor(region.x0 + ((tx + 1) * spanX) / tilesX)),
      y0: Math.max(BORDER, Math.floor(region.y0 + (ty * spanY) / tilesY)),
      y1: Math.min(h - BORDER, Math.floor(region.y0 + ((ty + 1) * spanY) / tilesY)),
    };
  });
}

const BINS = 256;

/** The score that leaves about `share` points, from a histogram in eighths of an octave. */
function thresholdOf(histogram: Int32Array, share: number): number {
  let above = 0;
  let bin = BINS - 1;
  for (; bin >= 0; bin--) {
    above += histogram[bin];
    if (above >= share) break;
  }
  if (bin < 0) return 0;
  // lower edge of the bin: eighths of an octave, even in the number
  const eighth = bin - 160;
  const octave = Math.floor(eighth / 8);
  return 2 ** octave * (1 + (eighth - octave * 8) / 8);
}

function pickedByKernels(k: Kernels, rep: Representation, limits: PointLimits): Picked {
  const { width: w, height: h, value, valid, variance } = rep;
  const boxes = tileBoxes(rep, limits);
  const share = Math.ceil(limits.total / boxes.length);
  const [v, ok, noise] = [value, valid, variance].map((data) => k.upload(data));
  const score = k.take(value.length * 4);
  k.scorePlane(v, noise, w, h, score);
  const bins = k.take(BINS * 4);
  const starts = new Int32Array(boxes.length + 1);
  const out = k.take(w * h * 4);
  let count = 0;
  boxes.forEach(({ x0, x1, y0, y1 }, t) => {
    let threshold = 0;
    if ((x1 - x0) * (y1 - y0) > share) {
      const histogram = new Int32Array(k.bytes(bins, BINS * 4).buffer, bins, BINS);
      histogram.fill(0);
      k.scoreHistogram(score, ok, w, x0, x1, y0, y1, bins);
      threshold = thresholdOf(histogram, share);
    }
    const least = Math.max(threshold, limits.leastScore);
    count += k.pickPoints(score, ok, w, x0, x1, y0, y1, least, out + count * 4, w * h - count);
    starts[t + 1] = count;
  });
  return { found: new Int32Array(k.bytes(out, count * 4).buffer, out, count).slice(), starts };
}

const bits = new Float32Array(1);
const word = new Uint32Array(bits.buffer);

function pickedPlainly(rep: Representation, limits: PointLimits): Picked {
  const { value: v, valid, variance, width: w } = rep;
  const boxes = tileBoxes(rep, limits);
  const share = Math.ceil(limits.total / boxes.length);
  const found: number[] = [];
  const starts = new Int32Array(boxes.length + 1);
  const score = (i: number): number => {
    const gx = v[i + 1] - v[i - 1] + 0.5 * (v[i + 1 + w] - v[i - 1 + w] + v[i + 1 - w] - v[i - 1 - w]);
    const gy = v[i + w] - v[i - w] + 0.5 * (v[i + w + 1] - v[i - w + 1] + v[i + w - 1] - v[i - w - 1]);
    return (gx * gx + gy * gy) / (variance[i] + 4e-4);
  };
  boxes.forEach(({ x0, x1, y0, y1 }, t) => {
    let threshold = 0;
    if ((x1 - x0) * (y1 - y0) > share) {
      const histogram = new Int32Array(BINS);
      for (let y = y0; y < y1; y += 2)
        for (let x = x0; x < x1; x += 2) {
          const i = y * w + x;
          if (valid[i] <= 0) continue;
          bits[0] = score(i);
          const bin = bits[0] > 0 ? (word[0] >>> 20) - (127 << 3) + 160 : 0;
          histogram[bin < 0 ? 0 : bin >= BINS ? BINS - 1 : bin] += 4;
        }
      threshold = thresholdOf(histogram, share);
    }
    threshold = Math.max(threshold, limits.leastScore);
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const i = y * w + x;
        const whole =
          valid[i] > 0 && valid[i - 1] > 0 && valid[i + 1] > 0 && valid[i - w] > 0 && valid[i + w] > 0;
        if (whole && score(i) >= threshold) found.push(i);
      }
    starts[t + 1] = found.length;
  });
  return { found, starts };
}

function pointsAt(rep: Representation, limits: PointLimits, { found, starts }: Picked): GradientPoints {
  const { value: v, variance, width: w } = rep;
  const { tilesX, tilesY } = limits;
  const count = found.length;
  const x = new Float32Array(count);
  const y = new Float32Array(count);
  const value = new Float32Array(count);
  const gradientX = new Float32Array(count);
  const gradientY = new Float32Array(count);
  const noise = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const i = found[k];
    y[k] = (i / w) | 0;
    x[k] = i - y[k] * w;
    value[k] = v[i];
    gradientX[k] = 0.5 * (v[i + 1] - v[i - 1]);
    gradientY[k] = 0.5 * (v[i + w] - v[i - w]);
    noise[k] = variance[i];
  }
  const tileMean = new Float64Array(tilesX * tilesY);
  for (let t = 0; t < tileMean.length; t++) {
    let sum = 0;
    for (let k = starts[t]; k < starts[t + 1]; k++) sum += value[k];
    tileMean[t] = sum / Math.max(1, starts[t + 1] - starts[t]);
  }
  return { count, tilesX, tilesY, starts, x, y, value, gradientX, gradientY, variance: noise, tileMean };
}
