import { type Matrix3 } from '../raster/matrix3';
import { type GradientPoints } from './gradientPoints';
import { type Representation } from './logLuminance';

/** Centre and scale of the coordinates in which increments are solved, so that all eight have like size. */
export interface Frame2D {
  readonly cx: number;
  readonly cy: number;
  readonly scale: number;
}

/** How residuals far from the rest are weighted: Huber while the start may be off, Tukey afterwards. */
export type Robustness = 'huber' | 'tukey';

/** Gain and offset of tone in each tile, freed so that camera curves and moving light do not pull the geometry. */
export interface TileTone {
  readonly gain: Float64Array;
  readonly offset: Float64Array;
}

/** The accumulated equations of one pass: A·p = b over the eight homography increments. */
export interface NormalEquations {
  readonly A: Float64Array;
  readonly b: Float64Array;
  /** per tile: 8 entries of b, 64 of A (tone eliminated) */
  readonly tileB: Float64Array;
  readonly tileA: Float64Array;
  readonly tileCount: Float64Array;
  /** weighted residual energy of each tile about its own offset */
  readonly tileEnergy: Float64Array;
  readonly tone: TileTone;
  readonly used: number;
  /** every eighth weighted residual, for the robust scale */
  readonly residuals: Float32Array;
}

/** Spread added to the noise of every sample, in stops: what the model itself cannot explain. */
const MODEL_NOISE = 0.03;
const TUKEY = 4.7;
/** weight of the prior that the tone gain of a tile is 1 */
const GAIN_PRIOR = 0.02;

/**
 * One pass over the points: samples the frame at the mapped positions (Catmull–Rom, a = −0.5), and adds up the
 * inverse-compositional equations (Baker & Matthews 2004) with the tone of each tile eliminated by its Schur complement.
 * @param map reference pixel → frame pixel at this level
 * @param spread robust scale of the weighted residuals from the last pass
 */
export function normalEquations(
  points: GradientPoints,
  frame: Representation,
  map: Matrix3,
  coordinates: Frame2D,
  tone: TileTone | undefined,
  spread: number,
  robustness: Robustness,
): NormalEquations {
  const { width: W, height: H, value: I, valid: V, variance: N } = frame;
  const tiles = points.tilesX * points.tilesY;
  const { cx, cy, scale } = coordinates;
  const A = new Float64Array(64);
  const b = new Float64Array(8);
  const tileA = new Float64Array(tiles * 64);
  const tileB = new Float64Array(tiles * 8);
  const tileCount = new Float64Array(tiles);
  const tileEnergy = new Float64Array(tiles);
  const gain = new Float64Array(tiles).fill(1);
  const offset = new Float64Array(tiles);
  const residuals = new Float32Array((points.count >> 3) + tiles + 8);
  let residualCount = 0;
  let used = 0;
  const modelVariance = MODEL_NOISE * MODEL_NOISE;
  const limit = 1 / (spread * TUKEY) ** 2;
  const tukey = robustness === 'tukey';
  const [h0, h1, h2, h3, h4, h5, h6, h7, h8] = map;
  const a = new Float64Array(36);
  const sJ = new Float64Array(8);
  const sJe = new Float64Array(8);
  const sJT = new Float64Array(8);
  for (let t = 0; t < tiles; t++) {
    a.fill(0);
    sJ.fill(0);
    sJe.fill(0);
    sJT.fill(0);
    const g = tone ? tone.gain[t] : 1;
    const off = tone ? tone.offset[t] : 0;
    const mean = points.tileMean[t];
    let sw = 0;
    let swe = 0;
    let swee = 0;
    let swT = 0;
    let swTT = 0;
    let swTe = 0;
    let count = 0;
    for (let k = points.starts[t]; k < points.starts[t + 1]; k++) {
      const x = points.x[k];
      const y = points.y[k];
      const d = 1 / (h6 * x + h7 * y + h8);
      const u = (h0 * x + h1 * y + h2) * d;
      const v = (h3 * x + h4 * y + h5) * d;
      if (!(u >= 2 && v >= 2 && u < W - 3 && v < H - 3)) continue;
      const iu = u | 0;
      const iv = v | 0;
      const i = iv * W + iu;
      if (V[i] <= 0 || V[i + 1] <= 0 || V[i + W] <= 0 || V[i + W + 1] <= 0) continue;
      const f = u - iu;
      const e1 = v - iv;
      const f2 = f * f;
      const f3 = f2 * f;
      const w0 = -0.5 * f3 + f2 - 0.5 * f;
      const w1 = 1.5 * f3 - 2.5 * f2 + 1;
      const w2 = -1.5 * f3 + 2 * f2 + 0.5 * f;
      const w3 = 0.5 * f3 - 0.5 * f2;
      const e2 = e1 * e1;
      const e3 = e2 * e1;
      const p = i - W - 1;
      const q = p + W;
      const r = q + W;
      const s = r + W;
      const sample =
        (-0.5 * e3 + e2 - 0.5 * e1) * (w0 * I[p] + w1 * I[p + 1] + w2 * I[p + 2] + w3 * I[p + 3]) +
        (1.5 * e3 - 2.5 * e2 + 1) * (w0 * I[q] + w1 * I[q + 1] + w2 * I[q + 2] + w3 * I[q + 3]) +
        (-1.5 * e3 + 2 * e2 + 0.5 * e1) * (w0 * I[r] + w1 * I[r + 1] + w2 * I[r + 2] + w3 * I[r + 3]) +
        (0.5 * e3 - 0.5 * e2) * (w0 * I[s] + w1 * I[s + 1] + w2 * I[s + 2] + w3 * I[s + 3]);
      count++;
      const T = points.value[k] - mean;
      const e = sample - mean - g * T - off;
      let w = 1 / (points.variance[k] + N[i] + modelVariance);
      const square = e * e * w;
      if ((k & 7) === 0) residuals[residualCount++] = Math.sqrt(square);
      if (tukey) {
        const z = square * limit;
        if (z >= 1) continue;
        w *= (1 - z) * (1 - z);
      } else {
        const z = square * limit * 4;
        if (z > 1) w /= Math.sqrt(z);
      }
      const gX = points.gradientX[k] * g * scale;
      const gY = points.gradientY[k] * g * scale;
      const X = (x - cx) / scale;
      const Y = (y - cy) / scale;
      const m = -(gX * X + gY * Y);
      // written out: the 36 products of the upper triangle are the hot spot of the whole fit
      const j0 = gX * X;
      const j1 = gX * Y;
      const j2 = gX;
      const j3 = gY * X;
      const j4 = gY * Y;
      const j5 = gY;
      const j6 = m * X;
      const j7 = m * Y;
      const w4 = w * j0;
      const w5 = w * j1;
      const w6 = w * j2;
      const w7 = w * j3;
      const w8 = w * j4;
      const w9 = w * j5;
      const w10 = w * j6;
      const w11 = w * j7;
      a[0] += w4 * j0;
      a[1] += w4 * j1;
      a[2] += w4 * j2;
      a[3] += w4 * j3;
      a[4] += w4 * j4;
      a[5] += w4 * j5;
      a[6] += w4 * j6;
      a[7] += w4 * j7;
      a[8] += w5 * j1;
      a[9] += w5 * j2;
      a[10] += w5 * j3;
      a[11] += w5 * j4;
      a[12] += w5 * j5;
      a[13] += w5 * j6;
      a[14] += w5 * j7;
      a[15] += w6 * j2;
      a[16] += w6 * j3;
      a[17] += w6 * j4;
      a[18] += w6 * j5;
      a[19] += w6 * j6;
      a[20] += w6 * j7;
      a[21] += w7 * j3;
      a[22] += w7 * j4;
      a[23] += w7 * j5;
      a[24] += w7 * j6;
      a[25] += w7 * j7;
      a[26] += w8 * j4;
      a[27] += w8 * j5;
      a[28] += w8 * j6;
      a[29] += w8 * j7;
      a[30] += w9 * j5;
      a[31] += w9 * j6;
      a[32] += w9 * j7;
      a[33] += w10 * j6;
      a[34] += w10 * j7;
      a[35] += w11 * j7;
      sJ[0] += w4;
      sJ[1] += w5;
      sJ[2] += w6;
      sJ[3] += w7;
      sJ[4] += w8;
      sJ[5] += w9;
      sJ[6] += w10;
      sJ[7] += w11;
      const wT = w * T;
      const we = w * e;
      sJe[0] += we * j0;
      sJe[1] += we * j1;
      sJe[2] += we * j2;
      sJe[3] += we * j3;
      sJe[4] += we * j4;
      sJe[5] += we * j5;
      sJe[6] += we * j6;
      sJe[7] += we * j7;
      sJT[0] += wT * j0;
      sJT[1] += wT * j1;
      sJT[2] += wT * j2;
      sJT[3] += wT * j3;
      sJT[4] += wT * j4;
      sJT[5] += wT * j5;
      sJT[6] += wT * j6;
      sJT[7] += wT * j7;
      sw += w;
      swe += we;
      swee += we * e;
      swT += wT;
      swTT += wT * T;
      swTe += wT * e;
    }
    tileCount[t] = count;
    used += count;
    tileEnergy[t] = sw > 0 ? swee - (swe * swe) / sw : 0;
    if (count < 20 || !(sw > 0)) continue;
    // eliminate offset and gain of this tile, the gain held near 1 by its prior
    const prior = sw * GAIN_PRIOR;
    const det = sw * (swTT + prior) - swT * swT;
    const m00 = (swTT + prior) / det;
    const m01 = -swT / det;
    const m11 = sw / det;
    swTe -= prior * (g - 1);
    offset[t] = off + m00 * swe + m01 * swTe;
    gain[t] = Math.max(0.3, Math.min(3, g + m01 * swe + m11 * swTe));
    let n = 0;
    for (let c = 0; c < 8; c++) {
      for (let c2 = c; c2 < 8; c2++) {
        const v = a[n++] - sJ[c] * (m00 * sJ[c2] + m01 * sJT[c2]) - sJT[c] * (m01 * sJ[c2] + m11 * sJT[c2]);
        A[c * 8 + c2] += v;
        tileA[t * 64 + c * 8 + c2] = v;
        if (c2 > c) {
          A[c2 * 8 + c] += v;
          tileA[t * 64 + c2 * 8 + c] = v;
        }
      }
      const v = sJe[c] - (sJ[c] * (m00 * swe + m01 * swTe) + sJT[c] * (m01 * swe + m11 * swTe));
      tileB[t * 8 + c] = v;
      b[c] += v;
    }
  }
  return {
    A,
    b,
    tileA,
    tileB,
    tileCount,
    tileEnergy,
    tone: { gain, offset },
    used,
    residuals: residuals.subarray(0, residualCount),
  };
}

/** 1.4826 × the median: the standard deviation of a Gaussian with the same middle. */
export function robustSpread(residuals: Float32Array): number {
  if (residuals.length < 20) return 1;
  const sorted = Float32Array.from(residuals).sort();
  return Math.min(50, Math.max(1e-6, sorted[sorted.length >> 1] * 1.4826));
}
