import { type Place } from '../finding';
import { length2 } from '../../raster/length';

/** A strong edge of light: where it is and the unit step from its dark to its light side. */
export interface StrongEdge {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
}

/** stops of contrast over two pixels from which an edge is strong */
const STRONG = 1.2;
/** distance at which plateaus are read, of the long edge */
export const REACH = 0.016;

/** Bilinear value of a plane, edges continued. */
export function valueAt(plane: Float32Array, width: number, height: number, x: number, y: number): number {
  const u = Math.min(width - 1, Math.max(0, x));
  const v = Math.min(height - 1, Math.max(0, y));
  const [iu, iv] = [Math.min(width - 2, Math.floor(u)), Math.min(height - 2, Math.floor(v))];
  const [fu, fv] = [u - iu, v - iv];
  const i = iv * width + iu;
  return (
    (1 - fv) * ((1 - fu) * plane[i] + fu * plane[i + 1]) +
    fv * ((1 - fu) * plane[i + width] + fu * plane[i + width + 1])
  );
}

/**
 * Strong edges between two even sides: the gradient of tone is at its largest along its own direction, and neither side changes much
 * within {@link REACH}.
 * @param tone of the scene, stops
 */
export function strongEdges(tone: Float32Array, width: number, height: number): StrongEdge[] {
  const reach = Math.max(6, REACH * Math.max(width, height));
  const edges: StrongEdge[] = [];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      const gx = tone[i + 1] - tone[i - 1];
      const gy = tone[i + width] - tone[i - width];
      const size = length2(gx, gy);
      if (size < STRONG) continue;
      const [dx, dy] = [gx / size, gy / size];
      const along = (d: number): number => valueAt(tone, width, height, x + d * dx, y + d * dy);
      const steeper = Math.max(Math.abs(along(2) - along(0)), Math.abs(along(0) - along(-2)));
      if (steeper > size * 1.05) continue;
      if (isEven(along, 3, reach) && isEven(along, -reach, -3)) edges.push({ x, y, dx, dy });
    }
  return edges;
}

const EVEN = 0.3;

function isEven(along: (d: number) => number, from: number, to: number): boolean {
  let [low, high] = [Infinity, -Infinity];
  for (let k = 0; k <= 6; k++) {
    const v = along(from + ((to - from) * k) / 6);
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return high - low < 2 * EVEN;
}

/** The worst block of a measure: the median over the edges of a block, so that no single pixel speaks for the picture. */
export function worstBlock(
  edges: readonly StrongEdge[],
  measure: (edge: StrongEdge) => number,
  block: number,
  least = 10,
): { value: number; where?: Place } {
  const blocks = new Map<string, number[]>();
  for (const edge of edges) {
    const key = `${Math.floor(edge.x / block)},${Math.floor(edge.y / block)}`;
    const values = blocks.get(key);
    if (values) values.push(measure(edge));
    else blocks.set(key, [measure(edge)]);
  }
  let worst: { value: number; where?: Place } = { value: 0 };
  for (const [key, values] of blocks) {
    if (values.length < least) continue;
    const value = values.sort((a, b) => a - b)[values.length >> 1];
    if (value <= worst.value) continue;
    const [bx, by] = key.split(',').map(Number);
    worst = { value, where: { x: bx * block, y: by * block, width: block, height: block } };
  }
  return worst;
}

/** A place on a reduced grid in full-size pixels. */
export function enlarged(where: Place | undefined, cell: number): { where?: Place } {
  if (!where) return {};
  const { x, y, width, height } = where;
  return { where: { x: x * cell, y: y * cell, width: width * cell, height: height * cell } };
}
