import { type TileResidual } from './tileResidual';
import { length2 } from '../raster/length';

/** Share of the residual that a radial pattern must explain before it counts as one. */
const EXPLAINED = 0.5;

/**
 * How far a frame bends against the reference at the corners, pixels: the least-squares fit of a cubic radial displacement to the tile
 * residuals, beside the shift, turn and scale that a motion model may have left (Brown 1966). 0 where it explains little of them.
 */
export function radialBend(tiles: readonly TileResidual[]): number {
  if (tiles.length < 24) return 0;
  const mean = (of: (t: TileResidual) => number): number =>
    tiles.reduce((s, t) => s + of(t), 0) / tiles.length;
  const [cx, cy] = [mean((t) => t.x), mean((t) => t.y)];
  const far = Math.max(...tiles.map((t) => length2(t.x - cx, t.y - cy)));
  if (!(far > 0)) return 0;
  const weight = (t: TileResidual): number => 1 / (t.error * t.error + 0.01);
  // radial parts d = a·r + b·r³ by weighted least squares; a takes up a change of scale
  let [s11, s12, s22, t1, t2] = [0, 0, 0, 0, 0];
  const radial = tiles.map((t) => {
    const r = length2(t.x - cx, t.y - cy) / far;
    const d = r > 0.05 ? ((t.x - cx) * t.dx + (t.y - cy) * t.dy) / (r * far) : 0;
    const w = weight(t);
    const cube = r ** 3;
    s11 += w * r * r;
    s12 += w * r * cube;
    s22 += w * cube * cube;
    t1 += w * r * d;
    t2 += w * cube * d;
    return { r, d, w, t };
  });
  const det = s11 * s22 - s12 * s12;
  if (!(Math.abs(det) > 1e-12)) return 0;
  const a = (t1 * s22 - t2 * s12) / det;
  const b = (s11 * t2 - s12 * t1) / det;
  let [before, after] = [0, 0];
  for (const { r, d, w, t } of radial) {
    const tangential = t.dx * t.dx + t.dy * t.dy - d * d;
    before += w * (t.dx * t.dx + t.dy * t.dy);
    after += w * ((d - a * r - b * r ** 3) ** 2 + tangential);
  }
  return before > 0 && 1 - after / before >= EXPLAINED ? b : 0;
}
