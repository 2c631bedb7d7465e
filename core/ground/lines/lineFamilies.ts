import { type Segment } from '../../raster/straightSegments';
import { length2 } from '../../raster/length';

/** What lines of a picture are in the world: they stand, run over level things in one direction, or in another. */
export const LINE_FAMILIES = ['upright', 'level', 'across'] as const;

export type LineFamily = (typeof LINE_FAMILIES)[number];

/** A point of a picture in homogeneous form, so that one at infinity is a direction; lengths are fractions of the long edge, from the optical axis. */
export type VanishingPoint = readonly [x: number, y: number, w: number];

/** A straight edge as it is compared with vanishing points; lengths as for {@link VanishingPoint}. */
export interface Edge {
  readonly middle: readonly [number, number];
  /** across it, of length 1 */
  readonly normal: readonly [number, number];
  readonly length: number;
}

/** @param principal where the optical axis meets the picture, pixels @param long its long edge */
export function edgeOf({ x0, y0, x1, y1 }: Segment, [cx, cy]: readonly [number, number], long: number): Edge {
  const length = length2(x1 - x0, y1 - y0);
  return {
    middle: [((x0 + x1) / 2 - cx) / long, ((y0 + y1) / 2 - cy) / long],
    normal: [(y0 - y1) / length, (x1 - x0) / length],
    length: length / long,
  };
}

/** How far an edge points beside a vanishing point: the sine of the angle at its middle. */
export function missOf({ middle, normal }: Edge, [x, y, w]: VanishingPoint): number {
  const [dx, dy] = [x - w * middle[0], y - w * middle[1]];
  const length = length2(dx, dy);
  return length > 1e-12 ? (normal[0] * dx + normal[1] * dy) / length : 1;
}

/** Where two edges meet when they are drawn on. */
export function meetingOf(a: Edge, b: Edge): VanishingPoint {
  const [p, q] = [lineOf(a), lineOf(b)];
  return [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
}

const lineOf = ({ middle, normal }: Edge): VanishingPoint => [
  normal[0],
  normal[1],
  -(normal[0] * middle[0] + normal[1] * middle[1]),
];
