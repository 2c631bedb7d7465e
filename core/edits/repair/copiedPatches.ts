import { operator } from '../../graph/operator';
import { type At, type LightTile } from '../../graph/tile';
import { factOf, lightOf } from '../../graph/wanted';
import { type Rectangle } from '../../raster/raster';
import { type FillOffsets } from '../../repair/fillOffsets';
import { type RepairPlace } from './repairPlace';

/** pixels around the gap that are copied too, and what reading between them takes */
const RIM = 8;

const grown = ({ x, y, width, height }: Rectangle, by: number): Rectangle => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

/** A rectangle of full-size pixels on a level, rounded outwards. */
function onLevel({ x, y, width, height }: Rectangle, level: number): Rectangle {
  const scale = 2 ** level;
  const [left, top] = [Math.floor(x / scale), Math.floor(y / scale)];
  return {
    x: left,
    y: top,
    width: Math.ceil((x + width) / scale) - left,
    height: Math.ceil((y + height) / scale) - top,
  };
}

const touches = (a: Rectangle, b: Rectangle): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

function union(a: Rectangle, b: Rectangle): Rectangle {
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  return {
    x,
    y,
    width: Math.max(a.x + a.width, b.x + b.width) - x,
    height: Math.max(a.y + a.height, b.y + b.height) - y,
  };
}

/** What is read of the picture to copy at a place. */
function readAt({ gap, around }: RepairPlace, at: At): At {
  if (!touches(grown(onLevel(gap, at.level), RIM), at.area)) return at;
  return { ...at, area: union(at.area, grown(onLevel(around, at.level), 1)) };
}

/** shares of the cells about a place, by how far it lies from their middle: a quadratic B-spline, so that pieces go over into each other */
const spline = (t: number): number => {
  const far = Math.abs(t);
  if (far < 0.5) return 0.75 - far * far;
  return far < 1.5 ? 0.5 * (1.5 - far) ** 2 : 0;
};

/**
 * Pieces of the picture laid over a gap, as the offsets say; opaque just there. The offsets were found in one state of the picture and are read in
 * any: what is copied has every change that was made since. Inputs: the picture, the offsets.
 */
export const copiedPatches = operator<RepairPlace>({
  kind: 'copiedPatches',
  version: 1,
  gives: 'light',
  works: 'linear',
  needs: (settings, at, input) => (input === 0 ? readAt(settings, at) : at),
  run: ([picture, offsets], settings, at) => {
    const { planes } = lightOf(picture, 'a repair');
    return copied(planes, readAt(settings, at).area, factOf(offsets, 'a repair').value as FillOffsets, at);
  },
});

function copied(
  planes: readonly Float32Array[],
  from: Rectangle,
  { level: own, x: left, y: top, width: columns, height: rows, dx, dy }: FillOffsets,
  { level, area }: At,
): LightTile {
  const count = area.width * area.height;
  const out = planes.map(() => new Float32Array(count));
  const alpha = new Float32Array(count);
  // cells a pixel, and pixels a cell
  const [cells, pixels] = [2 ** (level - own), 2 ** (own - level)];
  const sums = [0, 0, 0];
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = (area.y + y + 0.5) * cells - 0.5 - top;
    for (let x = 0; x < area.width; x++, i++) {
      const u = (area.x + x + 0.5) * cells - 0.5 - left;
      const [c, r] = [Math.round(u), Math.round(v)];
      let total = 0;
      sums.fill(0);
      for (let b = Math.max(0, r - 1); b <= Math.min(rows - 1, r + 1); b++)
        for (let a = Math.max(0, c - 1); a <= Math.min(columns - 1, c + 1); a++) {
          const o = b * columns + a;
          if (dx[o] === 0 && dy[o] === 0) continue;
          const share = spline(u - a) * spline(v - b);
          if (share === 0) continue;
          total += share;
          addAt(planes, from, area.x + x + dx[o] * pixels, area.y + y + dy[o] * pixels, share, sums);
        }
      const here = (area.y + y - from.y) * from.width + area.x + x - from.x;
      alpha[i] = total > 0 ? 1 : 0;
      planes.forEach((p, k) => (out[k][i] = total > 0 ? sums[k] / total : p[here]));
    }
  }
  return { is: 'light', planes: out, alpha, encoded: false };
}

/** Adds a share of what lies at a place, between pixels linearly; beyond the rectangle its edge goes on. */
function addAt(
  planes: readonly Float32Array[],
  { x: left, y: top, width, height }: Rectangle,
  x: number,
  y: number,
  share: number,
  sums: number[],
): void {
  const u = Math.min(width - 1, Math.max(0, x - left));
  const v = Math.min(height - 1, Math.max(0, y - top));
  const [c, r] = [Math.floor(u), Math.floor(v)];
  const [fu, fv] = [u - c, v - r];
  const [next, below] = [c < width - 1 ? 1 : 0, r < height - 1 ? width : 0];
  const o = r * width + c;
  for (let k = 0; k < 3; k++) {
    const p = planes[k];
    if (fu === 0 && fv === 0) sums[k] += share * p[o];
    else {
      const upper = p[o] + fu * (p[o + next] - p[o]);
      const lower = p[o + below] + fu * (p[o + below + next] - p[o + below]);
      sums[k] += share * (upper + fv * (lower - upper));
    }
  }
}
