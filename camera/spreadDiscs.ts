import { type Cells, type Field, type Part } from './discField';

/** discs below this radius change nothing, pixels */
export const SHARP = 0.35;

/** discs whose radius differs by less than this share one shape */
const RADIUS_STEP = 1 / 32;

/** Rows of a disc, from the first to the last: where each begins and ends, in whole columns from its point and the rest of one. */
export interface DiscRows {
  /** rows from the disc's point to its first row; negative */
  readonly first: number;
  readonly from: Int32Array;
  readonly fromRest: Float64Array;
  readonly to: Int32Array;
  readonly toRest: Float64Array;
  /** light of each of its places */
  readonly share: number;
}

/** Which of the shapes a radius has, below {@link SHARP} none. */
export const discStep = (radius: number): number => (radius < SHARP ? -1 : Math.round(radius / RADIUS_STEP));

/** The disc of a step of {@link discStep}. */
export function discRows(step: number): DiscRows {
  const r = step * RADIUS_STEP;
  const first = Math.ceil(-r);
  const rows = Math.floor(r) - first + 1;
  const [from, to] = [new Int32Array(rows), new Int32Array(rows)];
  const [fromRest, toRest] = [new Float64Array(rows), new Float64Array(rows)];
  let area = 0;
  for (let k = 0; k < rows; k++) {
    const half = Math.sqrt(Math.max(0, r * r - (first + k) ** 2));
    // a place reaches from its column to the next one
    from[k] = Math.floor(0.5 - half);
    fromRest[k] = 0.5 - half - from[k];
    to[k] = Math.floor(0.5 + half);
    toRest[k] = 0.5 + half - to[k];
    area += 2 * half;
  }
  return { first, from, fromRest, to, toRest, share: 1 / area };
}

/** The part of a field that cells and their discs reach. */
export function discReach({ count, places, radii }: Cells, { width, height }: Field): Part {
  let [left, right, most] = [width, 0, 0];
  for (let k = 0; k < count; k++) {
    const x = places[k] % width;
    if (x < left) left = x;
    if (x > right) right = x;
    if (radii[k] > most) most = radii[k];
  }
  const reach = Math.ceil(most) + 2;
  // cells come in the order of their rows
  const [first, last] = [Math.floor(places[0] / width), Math.floor(places[count - 1] / width)];
  return {
    left: Math.max(0, left - reach),
    top: Math.max(0, first - reach),
    right: Math.min(width, right + reach + 1),
    bottom: Math.min(height, last + reach + 1),
  };
}

/**
 * Spreads cells over their discs into `sums`, which holds differences along its rows: each row of a disc is two steps of a running sum, each
 * parted between two columns. Light that falls beside the field stays on its border.
 */
export function spreadDiscs({ count, places, radii, light }: Cells, sums: Field): void {
  const { width, height, data } = sums;
  const shapes = new Map<number, DiscRows>();
  for (let k = 0; k < count; k++) {
    const x = places[k] % width;
    const y = (places[k] - x) / width;
    const [a, b, c, weight] = [light[4 * k], light[4 * k + 1], light[4 * k + 2], light[4 * k + 3]];
    if (radii[k] < SHARP) {
      rise(data, y * width, width, x, 1, a, b, c, weight);
      rise(data, y * width, width, x + 1, -1, a, b, c, weight);
      continue;
    }
    const step = discStep(radii[k]);
    let shape = shapes.get(step);
    if (!shape) shapes.set(step, (shape = discRows(step)));
    const { first, from, fromRest, to, toRest, share } = shape;
    for (let row = 0; row < from.length; row++) {
      const at = y + first + row;
      const line = width * (at < 0 ? 0 : at >= height ? height - 1 : at);
      const begins = x + from[row];
      const ends = x + to[row];
      rise(data, line, width, begins, share * (1 - fromRest[row]), a, b, c, weight);
      rise(data, line, width, begins + 1, share * fromRest[row], a, b, c, weight);
      rise(data, line, width, ends, -share * (1 - toRest[row]), a, b, c, weight);
      rise(data, line, width, ends + 1, -share * toRest[row], a, b, c, weight);
    }
  }
}

/** A step of the running sums at column x, kept inside the row that starts at `line`: `weight` is the opacity that a, b, c stand for. */
function rise(
  sums: Float32Array,
  line: number,
  width: number,
  x: number,
  share: number,
  a: number,
  b: number,
  c: number,
  weight: number,
): void {
  if (x >= width) return;
  const at = 4 * (x > 0 ? line + x : line);
  sums[at] += a * share;
  sums[at + 1] += b * share;
  sums[at + 2] += c * share;
  sums[at + 3] += weight * share;
}
