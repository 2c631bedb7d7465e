import { type Kernels, kernels } from '../kernels/kernels';
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

/** What the pass over one tile adds up: where each sum lies in its {@link TileSums}. */
const SUM = { J: 64, Je: 72, JT: 80, w: 88, we: 89, wee: 90, wT: 91, wTT: 92, wTe: 93, count: 94 } as const;

/** 8 × 8 products of the Jacobian (upper triangle), then the sums of {@link SUM}. */
type TileSums = Float64Array;
const SUMS = 96;

/** One pass: everything but the map, the tone and the robust scale stays the same from pass to pass. */
export type EquationPass = (
  map: Matrix3,
  tone: TileTone | undefined,
  spread: number,
  robustness: Robustness,
) => NormalEquations;

/** The pass over one tile; returns how many residuals it wrote. */
type TilePass = (
  tile: number,
  map: Matrix3,
  tone: { readonly gain: number; readonly offset: number },
  limit: number,
  tukey: boolean,
  residuals: Float32Array,
) => { readonly sums: TileSums; readonly kept: number };

/**
 * Hands `run` a pass over the points: it samples the frame at the mapped positions (Catmull–Rom, a = −0.5), and adds up the
 * inverse-compositional equations (Baker & Matthews 2004) with the tone of each tile eliminated by its Schur complement.
 * The pass takes a map from reference to frame pixels at this level, and the robust scale of the last pass's weighted residuals.
 */
export function withEquations<T>(
  points: GradientPoints,
  frame: Representation,
  coordinates: Frame2D,
  run: (pass: EquationPass) => T,
): T {
  const k = kernels();
  if (!k) return run(passOver(points, plainTilePass(points, frame, coordinates)));
  return k.borrow(() => run(passOver(points, compiledTilePass(k, points, frame, coordinates))));
}

/** {@link withEquations} in its plain form, which the kernel is held against. */
export function plainEquations(
  points: GradientPoints,
  frame: Representation,
  coordinates: Frame2D,
): EquationPass {
  return passOver(points, plainTilePass(points, frame, coordinates));
}

function passOver(points: GradientPoints, tilePass: TilePass): EquationPass {
  const tiles = points.tilesX * points.tilesY;
  return (map, tone, spread, robustness) => {
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
    const limit = 1 / (spread * TUKEY) ** 2;
    for (let t = 0; t < tiles; t++) {
      const g = tone ? tone.gain[t] : 1;
      const off = tone ? tone.offset[t] : 0;
      const { sums, kept } = tilePass(
        t,
        map,
        { gain: g, offset: off },
        limit,
        robustness === 'tukey',
        residuals.subarray(residualCount),
      );
      residualCount += kept;
      const [sw, swe, swT, count] = [sums[SUM.w], sums[SUM.we], sums[SUM.wT], sums[SUM.count]];
      tileCount[t] = count;
      used += count;
      tileEnergy[t] = sw > 0 ? sums[SUM.wee] - (swe * swe) / sw : 0;
      if (count < 20 || !(sw > 0)) continue;
      // eliminate offset and gain of this tile, the gain held near 1 by its prior
      const prior = sw * GAIN_PRIOR;
      const det = sw * (sums[SUM.wTT] + prior) - swT * swT;
      const m00 = (sums[SUM.wTT] + prior) / det;
      const m01 = -swT / det;
      const m11 = sw / det;
      const swTe = sums[SUM.wTe] - prior * (g - 1);
      offset[t] = off + m00 * swe + m01 * swTe;
      gain[t] = Math.max(0.3, Math.min(3, g + m01 * swe + m11 * swTe));
      for (let c = 0; c < 8; c++) {
        const [sJ, sJT] = [sums[SUM.J + c], sums[SUM.JT + c]];
        for (let c2 = c; c2 < 8; c2++) {
          const v =
            sums[c * 8 + c2] -
            sJ * (m00 * sums[SUM.J + c2] + m01 * sums[SUM.JT + c2]) -
            sJT * (m01 * sums[SUM.J + c2] + m11 * sums[SUM.JT + c2]);
          A[c * 8 + c2] += v;
          tileA[t * 64 + c * 8 + c2] = v;
          if (c2 > c) {
            A[c2 * 8 + c] += v;
            tileA[t * 64 + c2 * 8 + c] = v;
          }
        }
        const v = sums[SUM.Je + c] - (sJ * (m00 * swe + m01 * swTe) + sJT * (m01 * swe + m11 * swTe));
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
  };
}

function compiledTilePass(
  k: Kernels,
  points: GradientPoints,
  frame: Representation,
  { cx, cy, scale }: Frame2D,
): TilePass {
  const { width: W, height: H } = frame;
  const plane = points.count * 4 + 16;
  const at = k.take(6 * plane);
  const [value, valid, variance] = [frame.value, frame.valid, frame.variance].map((data) => k.upload(data));
  const matrix = k.take(9 * 8);
  const out = k.take(SUMS * 8);
  const kept = k.take((points.count >> 3) * 4 + 64);
  const { x, y, value: own, gradientX, gradientY, variance: noise } = points;
  [x, y, own, gradientX, gradientY, noise].forEach((data, i) =>
    k.floats(at + i * plane, points.count).set(data),
  );
  const doubles = (from: number, length: number): Float64Array =>
    new Float64Array(k.bytes(from, length * 8).buffer, from, length);
  return (t, map, { gain, offset }, limit, tukey, residuals) => {
    doubles(matrix, 9).set(map);
    const written = k.tilePass(
      ...[at, plane, points.starts[t], points.starts[t + 1], value, valid, variance, W, H, matrix],
      ...[cx, cy, scale, gain, offset, points.tileMean[t], limit, tukey ? 1 : 0, out, kept],
    );
    residuals.set(k.floats(kept, written));
    return { sums: doubles(out, SUMS), kept: written };
  };
}

function plainTilePass(points: GradientPoints, frame: Representation, { cx, cy, scale }: Frame2D): TilePass {
  const { width: W, height: H, value: I, valid: V, variance: N } = frame;
  const sums = new Float64Array(SUMS);
  const j = new Float64Array(8);
  return (t, [h0, h1, h2, h3, h4, h5, h6, h7, h8], { gain: g, offset: off }, limit, tukey, residuals) => {
    sums.fill(0);
    const mean = points.tileMean[t];
    let kept = 0;
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
      const across = catmullRom(u - iu);
      const down = catmullRom(v - iv);
      let sample = 0;
      for (let r = 0; r < 4; r++) {
        const p = i + (r - 1) * W - 1;
        sample +=
          down[r] * (across[0] * I[p] + across[1] * I[p + 1] + across[2] * I[p + 2] + across[3] * I[p + 3]);
      }
      sums[SUM.count]++;
      const T = points.value[k] - mean;
      const e = sample - mean - g * T - off;
      let w = 1 / (points.variance[k] + N[i] + MODEL_NOISE * MODEL_NOISE);
      const square = e * e * w;
      if ((k & 7) === 0) residuals[kept++] = Math.sqrt(square);
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
      j[0] = gX * X;
      j[1] = gX * Y;
      j[2] = gX;
      j[3] = gY * X;
      j[4] = gY * Y;
      j[5] = gY;
      j[6] = m * X;
      j[7] = m * Y;
      for (let c = 0; c < 8; c++) {
        const wj = w * j[c];
        for (let c2 = c; c2 < 8; c2++) sums[c * 8 + c2] += wj * j[c2];
        sums[SUM.J + c] += wj;
        sums[SUM.Je + c] += wj * e;
        sums[SUM.JT + c] += wj * T;
      }
      sums[SUM.w] += w;
      sums[SUM.we] += w * e;
      sums[SUM.wee] += w * e * e;
      sums[SUM.wT] += w * T;
      sums[SUM.wTT] += w * T * T;
      sums[SUM.wTe] += w * T * e;
    }
    return { sums, kept };
  };
}

/** Weights of the four samples around an offset of 0…1 (Catmull & Rom 1974). */
function catmullRom(f: number): readonly [number, number, number, number] {
  const f2 = f * f;
  const f3 = f2 * f;
  return [
    -0.5 * f3 + f2 - 0.5 * f,
    1.5 * f3 - 2.5 * f2 + 1,
    -1.5 * f3 + 2 * f2 + 0.5 * f,
    0.5 * f3 - 0.5 * f2,
  ];
}

/** 1.4826 × the median: the standard deviation of a Gaussian with the same middle. */
export function robustSpread(residuals: Float32Array): number {
  if (residuals.length < 20) return 1;
  const sorted = Float32Array.from(residuals).sort();
  return Math.min(50, Math.max(1e-6, sorted[sorted.length >> 1] * 1.4826));
}
