import { boxMean } from '../raster/boxMean';
import { guidedFilter } from './guidedFilter';
import { type Mask, type MaskGrid, type ToneRange, type ToneSource } from './mask';
import { type Stroke } from './stroke';
import { packStroke } from './packStroke';
import { strokeCoverage } from './strokeCoverage';

/** variance of the tones, stops², below which a place counts as even for a mask that follows edges */
const EVEN = 0.06;

/**
 * The mask on a grid, 0 hidden … 1 shown. Strokes build up: reveal m + (1 − m)·a, hide m·(1 − a).
 * @param tones of the merged picture; without them a mask neither keeps to tones nor follows edges
 */
export function evaluateMask(mask: Mask, grid: MaskGrid, tones?: ToneSource): Float32Array {
  const scale = grid.longEdge / 2 ** grid.level;
  const feather = Math.round(mask.feather * scale);
  const follow = tones ? Math.round(mask.follow * scale) : 0;
  // what lies beyond the grid reaches into it: three boxes for the feather, two windows for the edges
  const margin = 3 * feather + 2 * follow;
  const wide = {
    ...grid,
    x: grid.x - margin,
    y: grid.y - margin,
    width: grid.width + 2 * margin,
    height: grid.height + 2 * margin,
  };
  let plane: Float32Array = new Float32Array(wide.width * wide.height).fill(mask.base === 'shown' ? 1 : 0);
  for (const stroke of mask.strokes) if (touches(stroke, wide)) applyStroke(plane, stroke, wide);
  const stops = tones && (mask.range || follow > 0) ? tones(wide) : undefined;
  if (stops && mask.range) keepToTones(plane, stops, mask.range);
  if (feather > 0)
    for (let pass = 0; pass < 3; pass++) plane = boxMean(plane, wide.width, wide.height, feather);
  if (stops && follow > 0) {
    plane = guidedFilter(plane, stops, wide.width, wide.height, follow, EVEN);
    for (let i = 0; i < plane.length; i++) plane[i] = Math.min(1, Math.max(0, plane[i]));
  }
  if (mask.inverted) for (let i = 0; i < plane.length; i++) plane[i] = 1 - plane[i];
  return margin === 0 ? plane : cut(plane, wide.width, grid, margin);
}

function cut(plane: Float32Array, width: number, grid: MaskGrid, margin: number): Float32Array {
  const out = new Float32Array(grid.width * grid.height);
  for (let y = 0; y < grid.height; y++) {
    const from = (y + margin) * width + margin;
    out.set(plane.subarray(from, from + grid.width), y * grid.width);
  }
  return out;
}

/** Multiplies a mask by how well each tone lies in the range: 1 inside, falling as a smooth step over the soft ends. */
export function keepToTones(plane: Float32Array, stops: Float32Array, { from, to, soft }: ToneRange): void {
  const fade = Math.max(1e-3, soft);
  for (let i = 0; i < plane.length; i++) {
    const inside = Math.min(stops[i] - from, to - stops[i]) / fade + 1;
    const s = inside <= 0 ? 0 : inside >= 1 ? 1 : inside;
    plane[i] *= s * s * (3 - 2 * s);
  }
}

/** Adds one stroke to an evaluated mask, in place. */
export function applyStroke(plane: Float32Array, stroke: Stroke, grid: MaskGrid): void {
  const coverage = strokeCoverage(packStroke(stroke), grid);
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
