import { type Matrix3 } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { length2 } from '../raster/length';

/** A frame as the crop sees it. */
export interface CropFrame {
  readonly width: number;
  readonly height: number;
  /** reference pixel → frame pixel */
  readonly matrix: Matrix3;
}

/** a·x + b·y ≤ c */
type HalfPlane = readonly [a: number, b: number, c: number];

/** The reference pixels that a frame covers, as half planes: a homography keeps straight lines straight. */
function coveredBy({ width, height, matrix: m }: CropFrame): HalfPlane[] {
  const w = width - 1;
  const h = height - 1;
  const atLeast = (a: number, b: number, c: number): HalfPlane => [-a, -b, c];
  return [
    atLeast(m[0], m[1], m[2]),
    atLeast(m[3], m[4], m[5]),
    atLeast(w * m[6] - m[0], w * m[7] - m[1], w * m[8] - m[2]),
    atLeast(h * m[6] - m[3], h * m[7] - m[4], h * m[8] - m[5]),
  ];
}

type Point = readonly [x: number, y: number];

/** Signed distance of a point from the border of a half plane, positive outside. */
const outside = ([a, b, c]: HalfPlane, [x, y]: Point): number => (a * x + b * y - c) / length2(a, b);

/**
 * The part of a convex polygon that lies in a half plane (Sutherland & Hodgman 1974).
 * @param far distances up to this count as on the border
 */
function clipped(polygon: readonly Point[], plane: HalfPlane, far: number): Point[] {
  const kept: Point[] = [];
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length];
    const [dp, dq] = [outside(plane, p), outside(plane, q)];
    if (dp <= far) kept.push(p);
    if ((dp < -far && dq > far) || (dp > far && dq < -far)) {
      const t = dp / (dp - dq);
      kept.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
    }
  });
  return kept;
}

/** Area of a polygon (shoelace formula). */
const areaOf = (polygon: readonly Point[]): number =>
  Math.abs(
    polygon.reduce((sum, [x, y], i) => {
      const [u, v] = polygon[(i + 1) % polygon.length];
      return sum + x * v - u * y;
    }, 0),
  ) / 2;

/** Corners of a rectangle between its outer pixel centres, in turn. */
const cornersOf = ({ x, y, width, height }: Rectangle): Point[] => [
  [x, y],
  [x + width - 1, y],
  [x + width - 1, y + height - 1],
  [x, y + height - 1],
];

/**
 * The half planes that bound what all of them share: the convex region is clipped by one after the other and those that lie along its
 * border are kept. A rectangle lies in the region when it keeps to these.
 * @param corners of a rectangle that holds the region
 */
function bounding(planes: readonly HalfPlane[], corners: readonly Point[]): HalfPlane[] {
  const far = 1e-6 * Math.max(...corners.flat().map(Math.abs), 1);
  let polygon = [...corners];
  for (const plane of planes) {
    polygon = clipped(polygon, plane, far);
    if (polygon.length < 3) return [...planes];
  }
  return planes.filter((plane) => polygon.some((p) => Math.abs(outside(plane, p)) <= 10 * far));
}

interface Box {
  readonly cx: number;
  readonly cy: number;
  /** half of the height, between pixel centres */
  readonly half: number;
}

/**
 * The largest box of one ratio inside the half planes: a linear programme in centre and half height, solved by trying every
 * triple of tight constraints (there are about a dozen half planes).
 */
function largestOfRatio(planes: readonly HalfPlane[], ratio: number): Box | undefined {
  // what a box takes of a half plane for each unit of its half height
  const takes = planes.map(([a, b]) => Math.abs(a) * ratio + Math.abs(b));
  const holds = (cx: number, cy: number, half: number): boolean =>
    planes.every(([a, b, c], i) => a * cx + b * cy + takes[i] * half <= c + 1e-7 * (1 + Math.abs(c)));
  let best: Box | undefined;
  const n = planes.length;
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const [a, b, c] = planes[i];
      const [d, e, f] = planes[j];
      // the line on which both are tight: cross products of their rows, by Cramer's rule with the third
      const ab = a * e - b * d;
      const ac = a * f - c * d;
      const bc = b * f - c * e;
      const at = a * takes[j] - takes[i] * d;
      const bt = b * takes[j] - takes[i] * e;
      const ct = c * takes[j] - takes[i] * f;
      for (let k = j + 1; k < n; k++) {
        const [g, h, l] = planes[k];
        const det = g * bt - h * at + takes[k] * ab;
        if (Math.abs(det) < 1e-12) continue;
        const half = (g * bc - h * ac + l * ab) / det;
        if (!(half > (best?.half ?? 0))) continue;
        const cx = (l * bt - h * ct - takes[k] * bc) / det;
        const cy = (g * ct - l * at + takes[k] * ac) / det;
        if (holds(cx, cy, half)) best = { cx, cy, half };
      }
    }
  return best;
}

/** Share of its size that a box gives up to lie in the middle rather than in a corner. */
const CENTRING = 0.005;

/** The box where there is most room for it, then as large as it fits there: with a slight turn the very largest sits in a corner. */
function inTheMiddle(planes: readonly HalfPlane[], ratio: number, box: Box): Box {
  const size = box.half * (1 - CENTRING);
  const rows = planes.map(([a, b, c]) => [a, b, c - size * (Math.abs(a) * ratio + Math.abs(b))]);
  let [x, y, n] = [0, 0, 0];
  for (let i = 0; i < rows.length; i++)
    for (let j = i + 1; j < rows.length; j++) {
      const [p, q] = [rows[i], rows[j]];
      const det = p[0] * q[1] - p[1] * q[0];
      if (Math.abs(det) < 1e-9) continue;
      const u = (p[2] * q[1] - p[1] * q[2]) / det;
      const v = (p[0] * q[2] - p[2] * q[0]) / det;
      if (!rows.every((r) => r[0] * u + r[1] * v <= r[2] + 1e-6 * (1 + Math.abs(r[2])))) continue;
      x += u;
      y += v;
      n++;
    }
  if (n === 0) return box;
  // the mean of the corners of a convex region lies in it
  const [cx, cy] = [x / n, y / n];
  return {
    cx,
    cy,
    half: Math.min(...planes.map(([a, b, c]) => (c - a * cx - b * cy) / (Math.abs(a) * ratio + Math.abs(b)))),
  };
}

/**
 * The largest upright rectangle of reference pixels that every frame covers; of a fixed ratio, at most 0.5 % smaller than that and
 * in the middle.
 * @param ratio width / height of the result, or `free` for the largest area of any shape
 * @returns whole pixels; undefined when the frames share no rectangle of at least 8 × 8
 */
export function commonRectangle(
  reference: { readonly width: number; readonly height: number },
  frames: readonly CropFrame[],
  ratio: number | 'free',
): Rectangle | undefined {
  const own = coveredBy({ ...reference, matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1] });
  // half planes that hold on the whole reference cannot be tight, and cost cubic time
  const corners = cornersOf({ x: 0, y: 0, ...reference });
  const cutting = frames
    .flatMap(coveredBy)
    .filter(([a, b, c]) => corners.some(([x, y]) => a * x + b * y > c + 1e-9 * (1 + Math.abs(c))));
  const planes = bounding([...own, ...cutting], corners);
  const area = (r: number): number => r * (largestOfRatio(planes, r)?.half ?? 0) ** 2;
  const r = ratio === 'free' ? bestRatio(area) : ratio;
  const largest = largestOfRatio(planes, r);
  if (!largest) return undefined;
  const box = ratio === 'free' ? largest : inTheMiddle(planes, r, largest);
  const inward = 1e-6;
  const x = Math.max(0, Math.ceil(box.cx - r * box.half - inward));
  const y = Math.max(0, Math.ceil(box.cy - box.half - inward));
  let width = Math.floor(box.cx + r * box.half + inward) - x + 1;
  let height = Math.floor(box.cy + box.half + inward) - y + 1;
  // whole pixels nearest to the ratio, never larger
  if (ratio !== 'free') {
    if (width > height * r) width = Math.round(height * r);
    else height = Math.round(width / r);
  }
  return width >= 8 && height >= 8 ? { x, y, width, height } : undefined;
}

/** Golden-section search over the logarithm of the ratio; the area is unimodal there (a concave programme). */
function bestRatio(area: (ratio: number) => number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  const at = (log: number) => ({ log, area: area(Math.exp(log)) });
  let a = Math.log(0.2);
  let b = Math.log(5);
  let p = at(b - golden * (b - a));
  let q = at(a + golden * (b - a));
  for (let i = 0; i < 40; i++)
    if (p.area < q.area) {
      a = p.log;
      [p, q] = [q, at(a + golden * (b - a))];
    } else {
      b = q.log;
      [q, p] = [p, at(b - golden * (b - a))];
    }
  return Math.exp((a + b) / 2);
}

/** Share of the rectangle that every frame covers, 0…1, between pixel centres. */
export function sharedByAll(rectangle: Rectangle, frames: readonly CropFrame[]): number {
  const corners = cornersOf(rectangle);
  const polygon = frames.flatMap(coveredBy).reduce<Point[]>((left, p) => clipped(left, p, 1e-6), corners);
  return areaOf(corners) > 0 ? areaOf(polygon) / areaOf(corners) : 0;
}
