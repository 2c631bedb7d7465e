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
  for (let i = 0; i < n; i++) {
    const layer = layerOf(radii[i]);
    const list = layers.get(layer);
    if (list) list.push(i);
    else layers.set(layer, [i]);
  }
  if (layers.size === 1 && layers.has(0)) return sharp;
  const out = planes.map(() => new Float32Array(n));
  const covered = new Float32Array(n);
  const sums = Array.from({ length: planes.length + 1 }, () => new Float32Array(n));
  const order = [...layers.keys()].sort((a, b) => b - a);
  for (const key of order) {
    const points = layers.get(key) ?? [];
    // points come row by row, so that the first and the last tell which rows the layer reaches
    const reach = Math.ceil(points.reduce((most, i) => Math.max(most, Math.abs(radii[i])), 0)) + 1;
    const from = Math.max(0, Math.floor(points[0] / width) - reach) * width;
    const to = Math.min(height, Math.floor(points[points.length - 1] / width) + reach + 1) * width;
    for (const sum of sums) sum.fill(0, from, to);
    discs(points, planes, radii, sums, width, height);
    overlay(sums, out, covered, width, from, to);
  }
  for (let i = 0; i < n; i++)
    if (covered[i] > 1e-3 && covered[i] < 1) for (const plane of out) plane[i] /= covered[i];
  return { width, height, planes: out };
}

/** Sums a layer's differences up along its rows and lays it over what is there. The last of `sums` is opacity. */
function overlay(
  sums: readonly Float32Array[],
  [outA, outB, outC]: readonly Float32Array[],
  covered: Float32Array,
  width: number,
  from: number,
  to: number,
): void {
  const [a, b, c, opacity] = sums;
  for (let line = from; line < to; line += width) {
    let runA = 0;
    let runB = 0;
    let runC = 0;
    let run = 0;
    for (let i = line; i < line + width; i++) {
      runA += a[i];
      runB += b[i];
      runC += c[i];
      run += opacity[i];
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

/** Spreads points over their discs into `sums`: each row of a disc is two steps of a running sum, soft by a pixel at both ends. */
function discs(
  points: readonly number[],
  planes: readonly Float32Array[],
  radii: Float32Array,
  sums: readonly Float32Array[],
  width: number,
  height: number,
): void {
  const count = planes.length;
  for (const i of points) {
    const r = Math.abs(radii[i]);
    if (r < SHARP) {
      for (let c = 0; c <= count; c++) {
        const v = c < count ? planes[c][i] : 1;
        sums[c][i] += v;
        // the sum starts anew in each row
        if ((i + 1) % width !== 0) sums[c][i + 1] -= v;
      }
      continue;
    }
    const x = i % width;
    const y = (i - x) / width;
    const reach = Math.ceil(r);
    let area = 0;
    for (let dy = -reach; dy <= reach; dy++) area += 2 * halfChord(r, dy) + (Math.abs(dy) <= r ? 1 : 0);
    const share = 1 / Math.max(1, area);
    for (let dy = -reach; dy <= reach; dy++) {
      if (Math.abs(dy) > r) continue;
      const line = Math.min(height - 1, Math.max(0, y + dy)) * width;
      const half = halfChord(r, dy);
      const whole = Math.floor(half);
      const soft = half - whole;
      for (let c = 0; c <= count; c++) {
        const v = (c < count ? planes[c][i] : 1) * share;
        rise(sums[c], line, width, x - whole - 1, v * soft);
        rise(sums[c], line, width, x - whole, v * (1 - soft));
        rise(sums[c], line, width, x + whole + 1, -v * (1 - soft));
        rise(sums[c], line, width, x + whole + 2, -v * soft);
      }
    }
  }
}

const halfChord = (r: number, dy: number): number => {
  const square = r * r - dy * dy;
  return square > 0 ? Math.sqrt(square) : 0;
};

/** A step of the running sum at column x, kept inside the row. */
function rise(sum: Float32Array, line: number, width: number, x: number, v: number): void {
  if (x >= width) return;
  sum[line + (x > 0 ? x : 0)] += v;
}
