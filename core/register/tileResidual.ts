import { type Refinement } from './refineAlignment';
import { type GradientPoints } from './gradientPoints';
import { length2 } from '../raster/length';

/** How far one place of the picture is still off after the fit. */
export interface TileResidual {
  /** centre of the points that were measured, full-size reference pixels */
  readonly x: number;
  readonly y: number;
  /** remaining displacement of the frame's content, full-size pixels */
  readonly dx: number;
  readonly dy: number;
  /** standard error of the displacement, pixels */
  readonly error: number;
}

/** Places whose own standard error is above this say nothing, in full-size pixels. */
const LARGEST_ERROR = 0.25;

/**
 * The displacement that would still improve each tile, solved from its own two shift equations (one Gauss–Newton step from the
 * fit; Lucas & Kanade 1981). Tiles without structure in both directions are left out.
 */
export function tileResiduals(points: GradientPoints, fit: Refinement, level: number): TileResidual[] {
  const { tileA, tileB, tileCount, tileEnergy } = fit.equations;
  const size = 2 ** level;
  const scale = fit.coordinates.scale * size;
  const out: TileResidual[] = [];
  for (let t = 0; t < tileCount.length; t++) {
    if (tileCount[t] < 40) continue;
    const a = tileA[t * 64 + 18];
    const b = tileA[t * 64 + 21];
    const c = tileA[t * 64 + 45];
    const det = a * c - b * b;
    if (!(det > 1e-3 * (a + c) * (a + c))) continue;
    const bx = tileB[t * 8 + 2];
    const by = tileB[t * 8 + 5];
    const dx = ((c * bx - b * by) / det) * scale;
    const dy = ((a * by - b * bx) / det) * scale;
    // neighbouring samples share noise (smoothing, resampling): about four samples are worth one
    const variance = (4 * tileEnergy[t]) / tileCount[t];
    const error = Math.sqrt((variance * (a + c)) / det) * scale;
    if (!(error < LARGEST_ERROR) || length2(dx, dy) > 8 * size) continue;
    let x = 0;
    let y = 0;
    const from = points.starts[t];
    const to = points.starts[t + 1];
    for (let k = from; k < to; k++) {
      x += points.x[k];
      y += points.y[k];
    }
    const half = (size - 1) / 2;
    out.push({ x: (x / (to - from)) * size + half, y: (y / (to - from)) * size + half, dx, dy, error });
  }
  return out;
}

/** Typical (root mean square of the better 90 %) and worst (95th percentile) remaining displacement, pixels. */
export function summariseResiduals(tiles: readonly TileResidual[]): { typical: number; worst: number } {
  if (tiles.length === 0) return { typical: 0, worst: 0 };
  const lengths = tiles.map((t) => length2(t.dx, t.dy)).sort((a, b) => a - b);
  const kept = lengths.slice(0, Math.max(1, Math.ceil(lengths.length * 0.9)));
  const typical = Math.sqrt(kept.reduce((s, v) => s + v * v, 0) / kept.length);
  return { typical, worst: lengths[Math.min(lengths.length - 1, Math.floor(lengths.length * 0.95))] };
}
