import { type Raster } from '@/core/raster/raster';

/** signed circles of confusion closer than this, pixels of radius, share a layer */
const STEP = 0.6;
/** layers grow by this share of their radius, so that far blur needs few of them */
const GROWTH = 0.12;
const SHARP = 0.35;

/** Layer number of a signed radius: far layers positive; steps grow with the radius. */
const layerOf = (radius: number): number => {
  const r = Math.abs(radius);
  if (r < SHARP) return 0;
  const n = Math.round(Math.log1p((GROWTH * (r - SHARP)) / STEP) / Math.log1p(GROWTH)) + 1;
  return radius < 0 ? -n : n;
};

/**
 * A sharp picture as the lens sees it out of focus: every point becomes an even disc of its circle of confusion. Layers of equal
 * blur are laid over each other from far to near, each with its own opacity, so that a sharp edge before a blurred ground stays
 * sharp, and a blurred edge before a sharp ground lets it through; ground that the sharp picture never saw is continued from
 * beside it.
 * @param radii signed radius of the disc for each pixel, pixels; negative before the sharp distance
 */
export function defocus(sharp: Raster, radii: Float32Array): Raster {
  const { width, height, planes } = sharp;
  const n = width * height;
  const layers = new Map<number, number[]>();
  const keys = new Int16Array(n);
  for (let i = 0; i < n; i++) {
    const layer = (keys[i] = layerOf(radii[i]));
    const list = layers.get(layer);
    if (list) list.push(i);
    else layers.set(layer, [i]);
  }
  if (layers.size === 1 && layers.has(0)) return sharp;
  const out = planes.map(() => new Float32Array(n));
  const covered = new Float32Array(n);
  // differences along rows, red, green, blue and opacity beside each other: one place of memory for all four
  const sums = new Float32Array(4 * n);
  const order = [...layers.keys()].sort((a, b) => b - a);
  for (const key of order) {
    const points = layers.get(key) ?? [];
    // points come row by row, so that the first and the last tell which rows the layer reaches
    const reach = Math.ceil(points.reduce((most, i) => Math.max(most, Math.abs(radii[i])), 0)) + 1;
    const from = Math.max(0, Math.floor(points[0] / width) - reach) * width;
    const to = Math.min(height, Math.floor(points[points.length - 1] / width) + reach + 1) * width;
    sums.fill(0, 4 * from, 4 * to);
    discs(points, planes, radii, keys, sums, width, height);
    overlay(sums, out, covered, width, from, to);
  }
  for (let i = 0; i < n; i++)
    if (covered[i] > 1e-3 && covered[i] < 1) for (const plane of out) plane[i] /= covered[i];
  return { width, height, planes: out };
}

/** Sums a layer's differences up along its rows and lays it over what is there. */
function overlay(
  sums: Float32Array,
  [outA, outB, outC]: readonly Float32Array[],
  covered: Float32Array,
  width: number,
  from: number,
  to: number,
): void {
  for (let line = from; line < to; line += width) {
    let runA = 0;
    let runB = 0;
    let runC = 0;
    let run = 0;
    for (let i = line; i < line + width; i++) {
      runA += sums[4 * i];
      runB += sums[4 * i + 1];
      runC += sums[4 * i + 2];
      run += sums[4 * i + 3];
      // what is left of steps that cancel each other is rounding
      if (run <= 1e-5) continue;
      const alpha = run < 1 ? run : 1;
      // where a layer's own discs overlap beyond 1, they share the place
      const k = run > 1 ? 1 / run : 1;
      outA[i] = runA * k + outA[i] * (1 - alpha);
      outB[i] = runB * k + outB[i] * (1 - alpha);
      outC[i] = runC * k + outC[i] * (1 - alpha);
      covered[i] = alpha + covered[i] * (1 - alpha);
    }
  }
}

/** discs whose radius differs by less than this, pixels, share one shape */
const RADIUS_STEP = 1 / 32;
/** Squares of pixels in one layer that are spread as one point in their middle from a layer on: on discs of 12 and 4 px it cannot be seen. */
const SQUARES = [
  { side: 4, from: layerOf(12) },
  { side: 2, from: layerOf(4) },
] as const;

/** Whether the `side` × `side` pixels from `corner` on lie in one layer. */
function isOneLayer(keys: Int16Array, corner: number, side: number, width: number, height: number): boolean {
  if ((corner % width) + side > width || corner + (side - 1) * width >= height * width) return false;
  const key = keys[corner];
  for (let y = 0, at = corner; y < side; y++, at += width)
    for (let x = 0; x < side; x++) if (keys[at + x] !== key) return false;
  return true;
}

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

/** @param between the disc's middle lies half a pixel right of and below its point's */
function discRows(r: number, between: boolean): DiscRows {
  const offset = between ? 0.5 : 0;
  const first = Math.ceil(offset - r);
  const rows = Math.floor(offset + r) - first + 1;
  const [from, to] = [new Int32Array(rows), new Int32Array(rows)];
  const [fromRest, toRest] = [new Float64Array(rows), new Float64Array(rows)];
  let area = 0;
  for (let k = 0; k < rows; k++) {
    const half = Math.sqrt(Math.max(0, r * r - (first + k - offset) ** 2));
    // a pixel reaches from its column to the next one
    const middle = offset + 0.5;
    from[k] = Math.floor(middle - half);
    fromRest[k] = middle - half - from[k];
    to[k] = Math.floor(middle + half);
    toRest[k] = middle + half - to[k];
    area += 2 * half;
  }
  return { first, from, fromRest, to, toRest, share: 1 / area };
}

/** Spreads points over their discs into `sums`: each row of a disc is two steps of a running sum, each parted between two columns. */
function discs(
  points: readonly number[],
  [red, green, blue]: readonly Float32Array[],
  radii: Float32Array,
  keys: Int16Array,
  sums: Float32Array,
  width: number,
  height: number,
): void {
  const shapes: readonly Map<number, DiscRows>[] = [new Map(), new Map()];
  for (const i of points) {
    const r = Math.abs(radii[i]);
    let [a, b, c] = [red[i], green[i], blue[i]];
    const x = i % width;
    const y = (i - x) / width;
    if (r < SHARP) {
      const line = 4 * y * width;
      rise(sums, line, width, x, 1, a, b, c, 1);
      rise(sums, line, width, x + 1, -1, a, b, c, 1);
      continue;
    }
    const layer = Math.abs(keys[i]);
    let corner = i;
    let side = 1;
    for (const square of SQUARES) {
      if (layer < square.from) continue;
      corner = i - (x % square.side) - (y % square.side) * width;
      if (isOneLayer(keys, corner, square.side, width, height)) {
        side = square.side;
        break;
      }
    }
    if (side > 1) {
      if (i !== corner) continue;
      a = b = c = 0;
      for (let v = 0, at = i; v < side; v++, at += width)
        for (let u = at; u < at + side; u++) {
          a += red[u];
          b += green[u];
          c += blue[u];
        }
    }
    const weight = side * side;
    const before = side > 1 ? side / 2 - 1 : 0;
    const known = shapes[side > 1 ? 1 : 0];
    const step = Math.round(r / RADIUS_STEP);
    let shape = known.get(step);
    if (!shape) known.set(step, (shape = discRows(step * RADIUS_STEP, side > 1)));
    const { first, from, fromRest, to, toRest, share } = shape;
    for (let k = 0; k < from.length; k++) {
      const row = y + before + first + k;
      const line = 4 * width * (row < 0 ? 0 : row >= height ? height - 1 : row);
      const begins = x + before + from[k];
      const ends = x + before + to[k];
      rise(sums, line, width, begins, share * (1 - fromRest[k]), a, b, c, weight);
      rise(sums, line, width, begins + 1, share * fromRest[k], a, b, c, weight);
      rise(sums, line, width, ends, -share * (1 - toRest[k]), a, b, c, weight);
      rise(sums, line, width, ends + 1, -share * toRest[k], a, b, c, weight);
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
  const at = line + (x > 0 ? 4 * x : 0);
  sums[at] += a * share;
  sums[at + 1] += b * share;
  sums[at + 2] += c * share;
  sums[at + 3] += weight * share;
}
