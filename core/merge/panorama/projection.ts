import { length2, length3 } from '../../raster/length';

/** How directions are laid out flat. Directions have x right, y down, z ahead; the plane counts 1 for a radian (or tangent) ahead. */
export type ProjectionKind = 'rectilinear' | 'cylindrical' | 'equirectangular' | 'panini';

/** One projection: to the plane and back. */
export interface Projection {
  /** undefined where a direction has no place */
  readonly toPlane: (x: number, y: number, z: number) => readonly [u: number, v: number] | undefined;
  /** undefined where the plane has no direction; not of any particular length */
  readonly toRay: (u: number, v: number) => readonly [x: number, y: number, z: number] | undefined;
}

/** the widest half field that a flat picture is drawn for, tangent of 78° */
const FLAT_LIMIT = 4.7;
/** distance of the Panini projection: its usual form */
const PANINI = 1;

const tall = (x: number, y: number, z: number): number => y / length2(x, z);

/**
 * The four projections: flat (straight lines stay straight), cylindrical, equirectangular (longitude and latitude), and Panini with
 * distance 1, which keeps verticals and lines through the middle straight (Sharpless, Postle & German 2010).
 */
export const PROJECTIONS: Readonly<Record<ProjectionKind, Projection>> = {
  rectilinear: {
    toPlane: (x, y, z) => (z > 0 && length2(x, y) < FLAT_LIMIT * z ? [x / z, y / z] : undefined),
    toRay: (u, v) => [u, v, 1],
  },
  cylindrical: {
    toPlane: (x, y, z) => [Math.atan2(x, z), tall(x, y, z)],
    toRay: (u, v) => (Math.abs(u) <= Math.PI ? [Math.sin(u), v, Math.cos(u)] : undefined),
  },
  equirectangular: {
    toPlane: (x, y, z) => [Math.atan2(x, z), Math.atan(tall(x, y, z))],
    toRay: (u, v) =>
      Math.abs(u) <= Math.PI && Math.abs(v) <= Math.PI / 2
        ? [Math.cos(v) * Math.sin(u), Math.sin(v), Math.cos(v) * Math.cos(u)]
        : undefined,
  },
  panini: {
    toPlane: (x, y, z) => {
      const turn = Math.atan2(x, z);
      if (Math.abs(turn) > 2.6) return undefined;
      const s = (PANINI + 1) / (PANINI + Math.cos(turn));
      return [s * Math.sin(turn), s * tall(x, y, z)];
    },
    toRay: (u, v) => {
      // cos from u = (d + 1) sin / (d + cos), the root that is 1 at the middle
      const k = (u * u) / ((PANINI + 1) * (PANINI + 1));
      const root = k * k * PANINI * PANINI - (k + 1) * (k * PANINI * PANINI - 1);
      if (root < 0) return undefined;
      const cos = (-k * PANINI + Math.sqrt(root)) / (k + 1);
      const s = (PANINI + 1) / (PANINI + cos);
      const sin = u / s;
      return [sin, v / s, cos];
    },
  },
};

const STEP = 1e-4;

/**
 * How much larger things are drawn at a place of the plane than in the middle, in the direction that is stretched most: 1 for not at
 * all. Numbers of the singular kind from differences of directions.
 */
export function stretchAt(kind: ProjectionKind, u: number, v: number): number {
  const { toRay } = PROJECTIONS[kind];
  const [at, right, down] = [toRay(u, v), toRay(u + STEP, v), toRay(u, v + STEP)].map((r) => {
    if (!r) return undefined;
    const k = 1 / length3(r[0], r[1], r[2]);
    return [r[0] * k, r[1] * k, r[2] * k];
  });
  if (!at || !right || !down) return Infinity;
  const a = right.map((w, i) => (w - at[i]) / STEP);
  const b = down.map((w, i) => (w - at[i]) / STEP);
  const dot = (p: readonly number[], q: readonly number[]): number => p.reduce((s, w, i) => s + w * q[i], 0);
  // radians a plane unit: the smallest singular value is the direction of most stretch
  const [xx, xy, yy] = [dot(a, a), dot(a, b), dot(b, b)];
  const least = (xx + yy) / 2 - Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
  return 1 / Math.sqrt(Math.max(1e-12, least));
}
