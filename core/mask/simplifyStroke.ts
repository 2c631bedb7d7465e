import { type Stroke, type StrokePoint } from './stroke';

/** Error that nobody sees, full-size pixels. */
const INVISIBLE = 0.1;
/** pixels that count like the whole range of pressure: the error of the pressure stays under a hundredth */
const PRESSURE = 30;
/** by how much the pressure may change along one piece */
const EVEN_PRESSURE = 0.008;
/** points that are looked at together, so that the worst stroke takes no longer than its length */
const CHUNK = 256;

/**
 * A stroke without the points that nobody can see: the line stays within a tenth of a full-size pixel, its pressure within 1/300
 * (Douglas & Peucker 1973, on place and pressure).
 * @param longEdge of the picture, pixels
 */
export function simplifyStroke(stroke: Stroke, longEdge: number): Stroke {
  const { points } = stroke;
  if (points.length < 3) return stroke;
  const at = points.map(([x, y, pressure]): StrokePoint => [x * longEdge, y * longEdge, pressure * PRESSURE]);
  const kept = new Uint8Array(points.length);
  const last = points.length - 1;
  for (let from = 0; from < last; from += CHUNK) keepCorners(at, from, Math.min(last, from + CHUNK), kept);
  const left = points.filter((_, i) => kept[i]);
  return left.length === points.length ? stroke : { ...stroke, points: left };
}

/** Marks the ends of a piece and the points between that a straight line would miss. */
function keepCorners(at: readonly StrokePoint[], first: number, last: number, kept: Uint8Array): void {
  kept[first] = 1;
  kept[last] = 1;
  const pieces: [number, number][] = [[first, last]];
  for (let piece = pieces.pop(); piece; piece = pieces.pop()) {
    const [from, to] = piece;
    let far = INVISIBLE ** 2;
    let corner = -1;
    for (let i = from + 1; i < to; i++) {
      const d2 = distance2(at[i], at[from], at[to]);
      if (d2 > far) [far, corner] = [d2, i];
    }
    // a pixel beside a long piece sees its pressure at one place only
    if (corner < 0 && Math.abs(at[to][2] - at[from][2]) > EVEN_PRESSURE * PRESSURE) corner = (from + to) >> 1;
    if (corner <= from) continue;
    kept[corner] = 1;
    pieces.push([from, corner], [corner, to]);
  }
}

/** Squared distance of a point from a line between two others. */
function distance2(p: StrokePoint, a: StrokePoint, b: StrokePoint): number {
  const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [px, py, pz] = [p[0] - a[0], p[1] - a[1], p[2] - a[2]];
  const length2 = dx * dx + dy * dy + dz * dz;
  const along = length2 > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy + pz * dz) / length2)) : 0;
  return (px - along * dx) ** 2 + (py - along * dy) ** 2 + (pz - along * dz) ** 2;
}
