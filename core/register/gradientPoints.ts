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
  const { value: v, valid, variance, width: w, height: h } = rep;
  const { tilesX, tilesY, total, leastScore } = limits;
  const region = limits.region ?? { x0: 0, y0: 0, x1: w, y1: h };
  const share = Math.ceil(total / (tilesX * tilesY));
  const found: number[] = [];
  const starts = new Int32Array(tilesX * tilesY + 1);
  const score = (i: number): number => {
    const gx = v[i + 1] - v[i - 1] + 0.5 * (v[i + 1 + w] - v[i - 1 + w] + v[i + 1 - w] - v[i - 1 - w]);
    const gy = v[i + w] - v[i - w] + 0.5 * (v[i + w + 1] - v[i - w + 1] + v[i + w - 1] - v[i - w - 1]);
    return (gx * gx + gy * gy) / (variance[i] + 4e-4);
  };
  const spanX = region.x1 - region.x0;
  const spanY = region.y1 - region.y0;
  for (let ty = 0; ty < tilesY; ty++)
    for (let tx = 0; tx < tilesX; tx++) {
      const x0 = Math.max(BORDER, Math.floor(region.x0 + (tx * spanX) / tilesX));
      const x1 = Math.min(w - BORDER, Math.floor(region.x0 + ((tx + 1) * spanX) / tilesX));
      const y0 = Math.max(BORDER, Math.floor(region.y0 + (ty * spanY) / tilesY));
      const y1 = Math.min(h - BORDER, Math.floor(region.y0 + ((ty + 1) * spanY) / tilesY));
      let threshold = 0;
      if ((x1 - x0) * (y1 - y0) > share) {
        // the score that leaves about `share` points, from a histogram of every second pixel each way
        const histogram = new Int32Array(256);
        for (let y = y0; y < y1; y += 2)
          for (let x = x0; x < x1; x += 2) {
            const i = y * w + x;
            if (valid[i] <= 0) continue;
            const s = score(i);
            const bin = s > 0 ? (Math.log2(s) * 8 + 160) | 0 : 0;
            histogram[bin < 0 ? 0 : bin > 255 ? 255 : bin] += 4;
          }
        let above = 0;
        let bin = 255;
        for (; bin >= 0; bin--) {
          above += histogram[bin];
          if (above >= share) break;
        }
        threshold = bin < 0 ? 0 : 2 ** ((bin - 160) / 8);
      }
      threshold = Math.max(threshold, leastScore);
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          const i = y * w + x;
          if (
            valid[i] <= 0 ||
            valid[i - 1] <= 0 ||
            valid[i + 1] <= 0 ||
            valid[i - w] <= 0 ||
            valid[i + w] <= 0
          )
            continue;
          if (score(i) >= threshold) found.push(i);
        }
      starts[ty * tilesX + tx + 1] = found.length;
    }
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
