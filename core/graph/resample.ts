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

/** A plane of one level read at the pixels of another, linearly between its own, edges continued. */
export function resampled(plane: Float32Array, from: At, to: At): Float32Array {
  const scale = 2 ** (to.level - from.level);
  const [columns, shares] = axis(scale, to.area.x, to.area.width, from.area.x, from.area.width);
  const [rows, downs] = axis(scale, to.area.y, to.area.height, from.area.y, from.area.height);
  const out = new Float32Array(to.area.width * to.area.height);
  const stride = from.area.width;
  const right = stride > 1 ? 1 : 0;
  for (let y = 0, o = 0; y < rows.length; y++) {
    const top = rows[y] * stride;
    const bottom = Math.min(from.area.height - 1, rows[y] + 1) * stride;
    const f = downs[y];
    for (let x = 0; x < columns.length; x++, o++) {
      const c = columns[x];
      const next = Math.min(stride - 1, c + right);
      const t = shares[x];
      const a = plane[top + c] + t * (plane[top + next] - plane[top + c]);
      const b = plane[bottom + c] + t * (plane[bottom + next] - plane[bottom + c]);
      out[o] = a + f * (b - a);
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
