import { strokeCoverage } from './strokeCoverage';
import { type MaskGrid, type Stroke, type StrokeMask } from './stroke';

/** The mask on a grid, 0 hidden … 1 shown. Strokes build up: reveal m + (1 − m)·a, hide m·(1 − a). */
export function evaluateMask(mask: StrokeMask, grid: MaskGrid): Float32Array {
  const plane = new Float32Array(grid.width * grid.height).fill(mask.base === 'shown' ? 1 : 0);
  for (const stroke of mask.strokes) if (touches(stroke, grid)) applyStroke(plane, stroke, grid);
  return plane;
}

/** Adds one stroke to an evaluated mask, in place. */
export function applyStroke(plane: Float32Array, stroke: Stroke, grid: MaskGrid): void {
  const coverage = strokeCoverage(stroke, grid);
  if (stroke.action === 'reveal')
    for (let i = 0; i < plane.length; i++) plane[i] += (1 - plane[i]) * coverage[i];
  else for (let i = 0; i < plane.length; i++) plane[i] *= 1 - coverage[i];
}

/** The box of a stroke in fractions of the long edge, brush included. */
export function strokeBox(stroke: Stroke): { x: number; y: number; width: number; height: number } {
  const xs = stroke.points.map((p) => p[0]);
  const ys = stroke.points.map((p) => p[1]);
  const x = Math.min(...xs) - stroke.size / 2;
  const y = Math.min(...ys) - stroke.size / 2;
  return {
    x,
    y,
    width: Math.max(...xs) + stroke.size / 2 - x,
    height: Math.max(...ys) + stroke.size / 2 - y,
  };
}

function touches(stroke: Stroke, grid: MaskGrid): boolean {
  const box = strokeBox(stroke);
  const k = grid.longEdge / 2 ** grid.level;
  return (
    box.x * k < grid.x + grid.width + 2 &&
    (box.x + box.width) * k > grid.x - 2 &&
    box.y * k < grid.y + grid.height + 2 &&
    (box.y + box.height) * k > grid.y - 2
  );
}
