import { type MaskGrid } from './maskGrid';
import { type PackedStroke } from './packStroke';
import { type StrokePoint } from './stroke';
import { length2 } from '../raster/length';

/** A piece of a stroke between two samples of the pointer, pixels of the grid, with its pressure at both ends. */
interface Segment {
  readonly ax: number;
  readonly ay: number;
  readonly ap: number;
  readonly dx: number;
  readonly dy: number;
  readonly dp: number;
  /** 1 / length²; 0 for a point */
  readonly inverse: number;
}

/** The brush across: full up to `inner`, nothing from `outer` on, pixels. */
interface Profile {
  readonly inner: number;
  readonly outer: number;
  readonly flow: number;
}

/** sides of the tiles in which segments are sifted one after the other, pixels */
const TILE_SIDES = [128, 32, 8] as const;
/** distance in pixels by which rounding may be off */
const ROUNDING = 1e-6;

/**
 * How much a stroke covers each pixel of a grid, 0…flow: the largest over its segments, so that a slow hand does not paint more
 * than a quick one. The profile falls as a smooth step over the soft part of the radius; at least one pixel wide, so that hard edges
 * are not jagged. Pressure scales the flow, interpolated along each segment. Segments that another one outdoes all over a tile are not
 * looked at there, so that many points under a large brush cost little.
 */
export function strokeCoverage(stroke: PackedStroke, grid: MaskGrid): Float32Array {
  const out = new Float32Array(grid.width * grid.height);
  const radius = (stroke.size * grid.longEdge) / 2 ** grid.level / 2;
  const fade = Math.max(1, radius * Math.min(1, Math.max(0, stroke.softness)));
  const outer = Math.max(radius, 0.5) + (fade === 1 ? 0.5 : 0);
  const profile = { inner: outer - fade, outer, flow: stroke.flow };
  const segments = segmentsOf(stroke.points, grid);
  coverTiles(out, grid.width, { x: 0, y: 0, width: grid.width, height: grid.height }, 0, segments, profile);
  return out;
}

/** Whether a stroke can cover anything of a grid. */
export function touchesGrid({ points, size }: PackedStroke, grid: MaskGrid): boolean {
  const k = grid.longEdge / 2 ** grid.level;
  const room = (size / 2) * k + 2;
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    left = Math.min(left, points[i]);
    right = Math.max(right, points[i]);
    top = Math.min(top, points[i + 1]);
    bottom = Math.max(bottom, points[i + 1]);
  }
  return (
    left * k - room < grid.x + grid.width &&
    right * k + room > grid.x &&
    top * k - room < grid.y + grid.height &&
    bottom * k + room > grid.y
  );
}

function segmentsOf(points: Float64Array, grid: MaskGrid): Segment[] {
  const scale = 2 ** grid.level;
  const at = Array.from({ length: points.length / 3 }, (_, i): StrokePoint => [
    (points[3 * i] * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.x,
    (points[3 * i + 1] * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.y,
    points[3 * i + 2],
  ]);
  const ends = at.length > 1 ? at.slice(1) : at;
  return ends.map(([bx, by, bp], k): Segment => {
    const [ax, ay, ap] = at[k];
    const [dx, dy] = [bx - ax, by - ay];
    const square = dx * dx + dy * dy;
    return { ax, ay, ap, dx, dy, dp: bp - ap, inverse: square > 0 ? 1 / square : 0 };
  });
}

interface Tile {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Covers a rectangle tile by tile, each by the segments that can matter there. */
function coverTiles(
  out: Float32Array,
  stride: number,
  area: Tile,
  size: number,
  segments: readonly Segment[],
  profile: Profile,
): void {
  const side = TILE_SIDES[size];
  for (let y = area.y; y < area.y + area.height; y += side)
    for (let x = area.x; x < area.x + area.width; x += side) {
      const width = Math.min(side, area.x + area.width - x);
      const height = Math.min(side, area.y + area.height - y);
      const tile = { x, y, width, height };
      const near = sifted(segments, tile, profile);
      if (near.length === 0) continue;
      if (size + 1 < TILE_SIDES.length && near.length > 2)
        coverTiles(out, stride, tile, size + 1, near, profile);
      else for (const segment of near) coverTile(out, stride, tile, segment, profile);
    }
}

/** The segments that may be the largest somewhere in a tile. */
function sifted(segments: readonly Segment[], { x, y, width, height }: Tile, profile: Profile): Segment[] {
  const [cx, cy] = [x + (width - 1) / 2, y + (height - 1) / 2];
  const reach = length2(width - 1, height - 1) / 2 + ROUNDING;
  const near: Segment[] = [];
  const most: number[] = [];
  let sure = 0;
  for (const segment of segments) {
    const { ax, ay, ap, dx, dy, dp, inverse } = segment;
    const t = Math.min(1, Math.max(0, ((cx - ax) * dx + (cy - ay) * dy) * inverse));
    const d = length2(cx - ax - t * dx, cy - ay - t * dy);
    if (d - reach >= profile.outer) continue;
    near.push(segment);
    most.push(coverAt(Math.max(0, d - reach), profile) * Math.max(ap, ap + dp));
    sure = Math.max(sure, coverAt(d + reach, profile) * Math.min(ap, ap + dp));
  }
  return sure === 0 ? near : near.filter((_, i) => most[i] >= sure);
}

/** Coverage at a distance from the line, at full pressure. */
function coverAt(d: number, { inner, outer, flow }: Profile): number {
  if (d >= outer) return 0;
  const s = Math.min(1, (outer - d) / (outer - inner));
  return s * s * (3 - 2 * s) * flow;
}

function coverTile(out: Float32Array, stride: number, tile: Tile, segment: Segment, profile: Profile): void {
  const { ax, ay, ap, dx, dy, dp, inverse } = segment;
  const { outer } = profile;
  const x0 = Math.max(tile.x, Math.floor(Math.min(ax, ax + dx) - outer));
  const x1 = Math.min(tile.x + tile.width - 1, Math.ceil(Math.max(ax, ax + dx) + outer));
  const y0 = Math.max(tile.y, Math.floor(Math.min(ay, ay + dy) - outer));
  const y1 = Math.min(tile.y + tile.height - 1, Math.ceil(Math.max(ay, ay + dy) + outer));
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const px = x - ax;
      const py = y - ay;
      let t = (px * dx + py * dy) * inverse;
      t = t < 0 ? 0 : t > 1 ? 1 : t;
      const ex = px - t * dx;
      const ey = py - t * dy;
      const d2 = ex * ex + ey * ey;
      if (d2 >= outer * outer) continue;
      const v = coverAt(Math.sqrt(d2), profile) * (ap + t * dp);
      const i = y * stride + x;
      if (v > out[i]) out[i] = v;
    }
}
