/** discs below this radius change nothing, pixels */
export const SHARP = 0.35;

/** Light and opacity of a picture or a part of it: red, green, blue and opacity beside each other, one place of memory for all four. */
export interface Field {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Squares of one layer that are to be spread, in the order of their rows; only the first `count` of each list hold anything. */
export interface Cells {
  count: number;
  /** row · width + column of each */
  readonly places: Int32Array;
  /** radius of each one's disc, squares */
  readonly radii: Float32Array;
  /** red, green, blue and opacity of each */
  readonly light: Float32Array;
  /** where in the lists each place of the field is; −1 for those that are not */
  readonly slots: Int32Array;
}

/** discs whose radius differs by less than this share one shape */
const RADIUS_STEP = 1 / 32;

/** Rows of a disc, from the first to the last: where each begins and ends, in whole columns from its point and the rest of one. */
interface DiscRows {
  /** rows from the disc's point to its first row; negative */
  readonly first: number;
  readonly from: Int32Array;
  readonly fromRest: Float64Array;
  readonly to: Int32Array;
  readonly toRest: Float64Array;
  /** light of each of its places */
  readonly share: number;
}

function discRows(r: number): DiscRows {
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

/** Part of a field: columns and rows, ends left out. */
export interface Part {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** The part of a field that cells and their discs reach. */
function discReach({ count, places, radii }: Cells, { width, height }: Field): Part {
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
 * @returns the part of `sums` that was written to
 */
export function spreadDiscs(cells: Cells, sums: Field): Part {
  const { count, places, radii, light } = cells;
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
    const step = Math.round(radii[k] / RADIUS_STEP);
    let shape = shapes.get(step);
    if (!shape) shapes.set(step, (shape = discRows(step * RADIUS_STEP)));
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
  return discReach(cells, sums);
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
