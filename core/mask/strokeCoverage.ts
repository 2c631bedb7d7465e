import { type MaskGrid } from './mask';
import { type Stroke, type StrokePoint } from './stroke';

/**
 * How much a stroke covers each pixel of a grid, 0…flow: the largest over its segments, so that a slow hand does not paint more
 * than a quick one. The profile falls as a smooth step over the soft part of the radius; at least one pixel wide, so that hard edges
 * are not jagged. Pressure scales the flow, interpolated along each segment.
 */
export function strokeCoverage(stroke: Stroke, grid: MaskGrid): Float32Array {
  const out = new Float32Array(grid.width * grid.height);
  const scale = 2 ** grid.level;
  const toGrid = ([x, y, pressure]: StrokePoint): [number, number, number] => [
    (x * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.x,
    (y * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.y,
    pressure,
  ];
  const radius = (stroke.size * grid.longEdge) / scale / 2;
  const fade = Math.max(1, radius * Math.min(1, Math.max(0, stroke.softness)));
  const outer = Math.max(radius, 0.5) + (fade === 1 ? 0.5 : 0);
  const inner = outer - fade;
  const points = stroke.points.map(toGrid);
  for (let k = 0; k < points.length; k++) {
    const [ax, ay, ap] = points[k];
    const [bx, by, bp] = points[Math.min(k + 1, points.length - 1)];
    if (k > 0 && k === points.length - 1) break;
    const x0 = Math.max(0, Math.floor(Math.min(ax, bx) - outer));
    const x1 = Math.min(grid.width - 1, Math.ceil(Math.max(ax, bx) + outer));
    const y0 = Math.max(0, Math.floor(Math.min(ay, by) - outer));
    const y1 = Math.min(grid.height - 1, Math.ceil(Math.max(ay, by) + outer));
    const dx = bx - ax;
    const dy = by - ay;
    const length2 = dx * dx + dy * dy;
    const inverse = length2 > 0 ? 1 / length2 : 0;
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const px = x - ax;
        const py = y - ay;
        let t = (px * dx + py * dy) * inverse;
        t = t < 0 ? 0 : t > 1 ? 1 : t;
        const ex = px - t * dx;
        const ey = py - t * dy;
        const d2 = ex * ex + ey * ey;
        if (d2 >= outer * outer) continue;
        const s = Math.min(1, (outer - Math.sqrt(d2)) / (outer - inner));
        const v = s * s * (3 - 2 * s) * stroke.flow * (ap + t * (bp - ap));
        const i = y * grid.width + x;
        if (v > out[i]) out[i] = v;
      }
  }
  return out;
}
