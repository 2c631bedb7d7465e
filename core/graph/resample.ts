import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type Rectangle } from '../raster/raster';
import { type At } from './tile';

/** The place at another level that covers a place, with so many pixels of that level around it. */
export function coveringAt({ level, area, kernel }: At, other: number, margin: number): At {
  if (other === level)
    return {
      level,
      kernel,
      area: {
        x: area.x - margin,
        y: area.y - margin,
        width: area.width + 2 * margin,
        height: area.height + 2 * margin,
      },
    };
  const scale = 2 ** (level - other);
  // pixel x of the one lies at scale · (x + ½) − ½ of the other
  const first = (v: number): number => Math.floor(scale * (v + 0.5) - 0.5) - margin;
  const last = (v: number): number => Math.ceil(scale * (v + 0.5) - 0.5) + margin;
  const [x, y] = [first(area.x), first(area.y)];
  return {
    level: other,
    kernel,
    area: {
      x,
      y,
      width: last(area.x + area.width - 1) - x + 1,
      height: last(area.y + area.height - 1) - y + 1,
    },
  };
}

/**
 * A plane of one level read at the pixels of another, linearly between its own, edges continued.
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function resampled(
  plane: Float32Array,
  from: At,
  to: At,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const scale = 2 ** (to.level - from.level);
  const [columns, shares] = axis(scale, to.area.x, to.area.width, from.area.x, from.area.width);
  const [rows, downs] = axis(scale, to.area.y, to.area.height, from.area.y, from.area.height);
  const { width, height } = to.area;
  const { width: stride, height: most } = from.area;
  if (compiled)
    return compiled.borrow(() => {
      const [src, share, down] = [plane, shares, downs].map((p) => compiled.upload(p));
      const [column, row] = [columns, rows].map((list) => compiled.addresses(list));
      const lines = compiled.take(2 * planeBytes(width));
      const out = compiled.take(4 * width * height);
      compiled.readBetween(
        ...([src, stride, most, column, share, width, row, down, height, lines] as const),
        ...([planeBytes(width), out] as const),
      );
      return compiled.floats(out, width * height).slice();
    });
  const out = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++) {
    const [top, bottom] = [rows[y] * stride, Math.min(most - 1, rows[y] + 1) * stride];
    for (let x = 0; x < width; x++, o++) {
      const [c, next] = [columns[x], Math.min(stride - 1, columns[x] + 1)];
      const a = plane[top + c] + shares[x] * (plane[top + next] - plane[top + c]);
      const b = plane[bottom + c] + shares[x] * (plane[bottom + next] - plane[bottom + c]);
      out[o] = a + downs[y] * (b - a);
    }
  }
  return out;
}

/** For each pixel of one line the pixel of the other that lies before it, and the share of the one behind. */
function axis(
  scale: number,
  first: number,
  count: number,
  origin: number,
  length: number,
): [Int32Array, Float32Array] {
  const before = new Int32Array(count);
  const share = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const at = Math.min(length - 1, Math.max(0, scale * (first + i + 0.5) - 0.5 - origin));
    before[i] = Math.floor(at);
    share[i] = at - before[i];
  }
  return [before, share];
}

/** A plane of a rectangle read on a rectangle within it. */
export function cutPlane(plane: Float32Array, from: Rectangle, to: Rectangle): Float32Array {
  const out = new Float32Array(to.width * to.height);
  for (let y = 0; y < to.height; y++) {
    const at = (y + to.y - from.y) * from.width + to.x - from.x;
    out.set(plane.subarray(at, at + to.width), y * to.width);
  }
  return out;
}
