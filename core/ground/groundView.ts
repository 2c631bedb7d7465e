import { type Direction } from './light';

/** A level camera over flat ground, pixels of the full-size picture. */
export interface GroundCamera {
  readonly focal: number;
  readonly principal: readonly [number, number];
  /** row in which the horizon lies */
  readonly horizon: number;
  /** metres above the ground that the thing stands on */
  readonly height: number;
}

/** Rays of a camera, and where they meet the ground. Metres; the camera is the origin. */
export interface GroundView {
  /** the way that a pixel looks, its part along the camera's axis the focal length */
  readonly ray: (x: number, y: number) => Direction;
  /** where a pixel sees the ground; undefined from the horizon up */
  readonly groundAt: (x: number, y: number) => Direction | undefined;
  /** where a place is seen; undefined behind the camera */
  readonly seenAt: (place: Direction) => readonly [x: number, y: number] | undefined;
  /** the camera's own right, up and forward */
  readonly axes: readonly [Direction, Direction, Direction];
}

export const dot = (a: Direction, b: Direction): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/**
 * The view of a camera without roll: how far it looks down follows from where the horizon lies (Criminisi, Reid, Zisserman, *Single View
 * Metrology*, 2000).
 */
export function groundView({ focal, principal: [cx, cy], horizon, height }: GroundCamera): GroundView {
  // looking up puts the horizon below the middle
  const length = Math.sqrt((horizon - cy) ** 2 + focal ** 2);
  const [c, s] = [focal / length, (horizon - cy) / length];
  const right: Direction = [1, 0, 0];
  const up: Direction = [0, c, -s];
  const forward: Direction = [0, s, c];
  const ray = (x: number, y: number): Direction => {
    const [across, down] = [x - cx, y - cy];
    return [across, focal * s - down * c, focal * c + down * s];
  };
  return {
    ray,
    groundAt: (x, y) => {
      const d = ray(x, y);
      if (d[1] > -1e-6 * focal) return undefined;
      const t = -height / d[1];
      return [t * d[0], -height, t * d[2]];
    },
    seenAt: (place) => {
      const depth = dot(place, forward);
      if (depth <= 1e-6) return undefined;
      return [cx + (focal * dot(place, right)) / depth, cy - (focal * dot(place, up)) / depth];
    },
    axes: [right, up, forward],
  };
}
