import { type Raster } from '@/core/raster/raster';

/** signed circles of confusion closer than this, pixels of radius, share a layer */
const STEP = 0.6;
/** layers grow by this share of their radius, so that far blur needs few of them */
const GROWTH = 0.12;
const SHARP = 0.35;

/** Sums of a layer: colour and opacity, each as differences along the row until they are summed up. */
interface Spread {
  readonly colour: Float32Array[];
  readonly opacity: Float32Array;
}

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
  const order = [...layers.keys()].sort((a, b) => b - a);
  for (const key of order) {
    const points = layers.get(key) ?? [];
    const spread = discs(points, planes, radii, width, height);
    for (let i = 0; i < n; i++) {
      const a = Math.min(1, spread.opacity[i]);
      if (a <= 0) continue;
      // where a layer's own discs overlap beyond 1, they share the place
      const k = spread.opacity[i] > 1 ? 1 / spread.opacity[i] : 1;
      for (let c = 0; c < out.length; c++) out[c][i] = spread.colour[c][i] * k + out[c][i] * (1 - a);
      covered[i] = a + covered[i] * (1 - a);
    }
  }
  for (let i = 0; i < n; i++)
    if (covered[i] > 1e-3 && covered[i] < 1) for (const plane of out) plane[i] /= covered[i];
  return { width, height, planes: out };
}

/** Spreads points over their discs: each row of a disc is two steps of a running sum, soft by a pixel at both ends. */
function discs(
  points: readonly number[],
  planes: readonly Float32Array[],
  radii: Float32Array,
  width: number,
  height: number,
): Spread {
  const n = width * height;
  const sums = [...planes.map(() => new Float32Array(n)), new Float32Array(n)];
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
  for (const sum of sums)
    for (let y = 0, i = 0; y < height; y++) {
      let run = 0;
      for (let x = 0; x < width; x++, i++) {
        run += sum[i];
        sum[i] = run;
      }
    }
  return { colour: sums.slice(0, count), opacity: sums[count] };
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
