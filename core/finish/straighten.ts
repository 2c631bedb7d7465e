import {
  IDENTITY,
  invert,
  type Matrix3,
  multiply,
  normalise,
  transform,
  translation,
} from '../raster/matrix3';
import { length2, length3 } from '../raster/length';

/** A line drawn on the picture, full-size pixels of the reference. */
export type Line = readonly [x0: number, y0: number, x1: number, y1: number];

/** How the picture is set straight. */
export interface Straighten {
  /** a line that should be level (or upright, when it is steeper than 45°) */
  readonly level?: Line;
  /** two lines that should be upright */
  readonly uprights?: readonly [Line, Line];
}

/** Angle of a line to the nearer of level and upright, radians, −45°…45°; positive falls to the right. */
export function tiltOf([x0, y0, x1, y1]: Line): number {
  let angle = Math.atan2(y1 - y0, x1 - x0);
  while (angle > Math.PI / 4) angle -= Math.PI / 2;
  while (angle < -Math.PI / 4) angle += Math.PI / 2;
  return angle;
}

/** Focal length that is taken when none is known, of the long edge: a normal lens. */
const NORMAL_FOCAL = 1.2;

/**
 * The map from the straightened picture to the reference, both of the reference's size, middle on middle.
 * Uprights turn the camera so that the vanishing point of the two lines goes straight down or up (Criminisi 1999, Hartley & Zisserman);
 * the level turns the picture about its middle.
 * @param focal in pixels, where it is known
 */
export function straighteningOf(
  { level, uprights }: Straighten,
  { width, height }: { readonly width: number; readonly height: number },
  focal = NORMAL_FOCAL * Math.max(width, height),
): Matrix3 {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  let map: Matrix3 = IDENTITY;
  if (uprights) {
    const turn = uprightTurn(uprights, cx, cy, focal);
    if (turn) map = pinned(turn, cx, cy);
  }
  if (level) {
    const [a, b] = [transform(invert(map), level[0], level[1]), transform(invert(map), level[2], level[3])];
    const angle = tiltOf([a[0], a[1], b[0], b[1]]);
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    map = multiply(map, about([c, -s, 0, s, c, 0, 0, 0, 1], cx, cy));
  }
  return normalise(map);
}

const about = (m: Matrix3, cx: number, cy: number): Matrix3 =>
  multiply(translation(cx, cy), multiply(m, translation(-cx, -cy)));

/** Straightened pixel → reference pixel; undefined for lines that say nothing. */
function uprightTurn([p, q]: readonly [Line, Line], cx: number, cy: number, f: number): Matrix3 | undefined {
  const lineOf = ([x0, y0, x1, y1]: Line): [number, number, number] => {
    const [ax, ay, bx, by] = [(x0 - cx) / f, (y0 - cy) / f, (x1 - cx) / f, (y1 - cy) / f];
    return [ay - by, bx - ax, ax * by - ay * bx];
  };
  const [l, m] = [lineOf(p), lineOf(q)];
  let d = [l[1] * m[2] - l[2] * m[1], l[2] * m[0] - l[0] * m[2], l[0] * m[1] - l[1] * m[0]];
  const size = length3(d[0], d[1], d[2]);
  if (!(size > 1e-12)) return undefined;
  d = d.map((v) => (v / size) * (d[1] < 0 ? -1 : 1));
  // lines that lie rather than stand have their vanishing point to the side
  if (d[1] < 0.5) return undefined;
  const [x, y, z] = d;
  // the turn that takes the vanishing direction onto (0, 1, 0): Rodrigues about (−z, 0, x)
  const k = 1 / (1 + y);
  const turn: Matrix3 = [1 - x * x * k, -x, -x * z * k, x, y, z, -x * z * k, -z, 1 - z * z * k];
  const K: Matrix3 = [f, 0, cx, 0, f, cy, 0, 0, 1];
  return multiply(K, multiply(invert(turn), invert(K)));
}

/** The same map with the middle of the picture and its scale there kept. */
function pinned(map: Matrix3, cx: number, cy: number): Matrix3 {
  const [ox, oy] = transform(invert(map), cx, cy);
  const moved = multiply(map, translation(ox - cx, oy - cy));
  const [x0, y0] = transform(moved, cx - 0.5, cy - 0.5);
  const [x1, y1] = transform(moved, cx + 0.5, cy + 0.5);
  const scale = length2(x1 - x0, y1 - y0) / Math.SQRT2;
  return multiply(moved, about([1 / scale, 0, 0, 0, 1 / scale, 0, 0, 0, 1], cx, cy));
}
