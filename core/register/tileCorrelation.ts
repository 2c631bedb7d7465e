import { type Matrix3 } from '../raster/matrix3';
import { type Representation } from './logLuminance';
import { type Shift } from './shiftCandidates';

/** Normalised correlation of one tile for each extra shift tried; NaN where too few pixels are shared. */
export interface TileCorrelation {
  readonly scores: Float64Array;
  /** pixels shared at the first shift */
  readonly shared: number;
  /** Σ(value − mean)² of the reference at the first shift */
  readonly energy: number;
}

/** Correlates reference tiles with the mapped frame, displaced by each of `shifts` (frame pixels), on every `step`-th pixel. */
export function tileCorrelation(
  reference: Representation,
  frame: Representation,
  map: Matrix3,
  tilesX: number,
  tilesY: number,
  shifts: readonly Shift[],
  step: number,
): TileCorrelation[] {
  const { width: W, height: H, value: U } = reference;
  const { value: G, valid: V, width: w, height: h } = frame;
  const out: TileCorrelation[] = [];
  for (let ty = 0; ty < tilesY; ty++)
    for (let tx = 0; tx < tilesX; tx++) {
      const x0 = Math.max(2, ((tx * W) / tilesX) | 0);
      const x1 = Math.min(W - 2, (((tx + 1) * W) / tilesX) | 0);
      const y0 = Math.max(2, ((ty * H) / tilesY) | 0);
      const y1 = Math.min(H - 2, (((ty + 1) * H) / tilesY) | 0);
      const sums = new Float64Array(shifts.length * 6);
      for (let y = y0; y < y1; y += step)
        for (let x = x0; x < x1; x += step) {
          const i = y * W + x;
          if (reference.valid[i] <= 0) continue;
          const d = 1 / (map[6] * x + map[7] * y + map[8]);
          const u = (map[0] * x + map[1] * y + map[2]) * d;
          const v = (map[3] * x + map[4] * y + map[5]) * d;
          const T = U[i];
          for (let k = 0; k < shifts.length; k++) {
            const a = u + shifts[k].dx;
            const b = v + shifts[k].dy;
            if (!(a >= 1 && b >= 1 && a < w - 2 && b < h - 2)) continue;
            const ia = a | 0;
            const ib = b | 0;
            const j = ib * w + ia;
            if (V[j] <= 0 || V[j + 1] <= 0 || V[j + w] <= 0 || V[j + w + 1] <= 0) continue;
            const f = a - ia;
            const top = G[j] + f * (G[j + 1] - G[j]);
            const bottom = G[j + w] + f * (G[j + w + 1] - G[j + w]);
            const value = top + (b - ib) * (bottom - top);
            const o = k * 6;
            sums[o]++;
            sums[o + 1] += T;
            sums[o + 2] += value;
            sums[o + 3] += T * T;
            sums[o + 4] += value * value;
            sums[o + 5] += T * value;
          }
        }
      const scores = new Float64Array(shifts.length);
      let energy = 0;
      for (let k = 0; k < shifts.length; k++) {
        const [n, st, sv, stt, svv, stv] = sums.subarray(k * 6, k * 6 + 6);
        const va = n > 0 ? stt - (st * st) / n : 0;
        const vb = n > 0 ? svv - (sv * sv) / n : 0;
        scores[k] = n >= 30 && va > 1e-9 && vb > 1e-9 ? (stv - (st * sv) / n) / Math.sqrt(va * vb) : NaN;
        if (k === 0) energy = va;
      }
      out.push({ scores, shared: sums[0], energy });
    }
  return out;
}

/** One number for a candidate map: correlation of the tiles, each weighted by how much structure it has. */
export function voteOfTiles(tiles: readonly TileCorrelation[]): number {
  let sum = 0;
  let weight = 0;
  for (const { scores, shared, energy } of tiles) {
    if (!(shared > 20) || Number.isNaN(scores[0])) continue;
    const w = (energy / (energy + shared * 0.15)) * Math.min(1, shared / 100);
    sum += w * scores[0];
    weight += w;
  }
  return weight > 0 ? sum / (weight + 1) : -1;
}

/** The shift tried first (none) and eight directions at two and four pixels: is the fit better than all its neighbours? */
export const PROBE_SHIFTS: readonly Shift[] = [
  { dx: 0, dy: 0 },
  ...[2, 4].flatMap((r) =>
    Array.from({ length: 8 }, (_, k) => ({
      dx: Math.round(r * Math.cos((k * Math.PI) / 4) * 10) / 10,
      dy: Math.round(r * Math.sin((k * Math.PI) / 4) * 10) / 10,
    })),
  ),
];

/** What the tiles say about a finished fit. */
export interface Probe {
  /** tiles whose best correlation is at the fit itself */
  readonly votes: number;
  /** tiles whose correlation depends on the shift at all */
  readonly informative: number;
  /** mean correlation at the fit, best within 2 px, best at 4 px */
  readonly atFit: number;
  readonly inner: number;
  readonly outer: number;
}

/** Sums up {@link tileCorrelation} over {@link PROBE_SHIFTS}. */
export function probeVotes(tiles: readonly TileCorrelation[]): Probe {
  let votes = 0;
  let informative = 0;
  let weight = 0;
  const mean = new Float64Array(PROBE_SHIFTS.length);
  for (const { scores, shared } of tiles) {
    if (!(shared >= 80) || Number.isNaN(scores[0])) continue;
    const w = Math.min(1, shared / 300);
    weight += w;
    let most = -1;
    let least = 2;
    for (let k = 0; k < scores.length; k++) {
      mean[k] += w * (Number.isNaN(scores[k]) ? 0 : scores[k]);
      if (k === 0) continue;
      if (scores[k] > most) most = scores[k];
      if (scores[k] < least) least = scores[k];
    }
    const best = Math.max(most, scores[0]);
    if (best < 4 / Math.sqrt(shared) || best < 0.15 || best - least < 0.1) continue;
    informative++;
    if (scores[0] >= best - 0.02) votes++;
  }
  const m = Array.from(mean, (v) => v / Math.max(1e-9, weight));
  return {
    votes,
    informative,
    atFit: m[0],
    inner: Math.max(...m.slice(1, 9)),
    outer: Math.max(...m.slice(9)),
  };
}
