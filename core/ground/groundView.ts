import { type Direction } from './light';

/** A camera over flat ground, pixels of the full-size picture. */
export interface GroundCamera {
  readonly focal: number;
  readonly principal: readonly [number, number];
  /** row in which the horizon crosses the column of the optical axis */
  readonly horizon: number;
  /** degrees, positive where the horizon falls to the right; held level when left out */
  readonly roll?: number;
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
  /** right, up and forward of the camera, were it held level */
  readonly axes: readonly [Direction, Direction, Direction];
}

export const dot = (a: Direction, b: Direction): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Sine and cosine of a camera's roll, alike wherever they are computed. */
export function rollOf({ roll = 0 }: Pick<GroundCamera, 'roll'>): readonly [sine: number, cosine: number] {
  const angle = (roll * Math.PI) / 180;
  return [Math.fround(Math.sin(angle)), Math.fround(Math.cos(angle))];
}

/** The view of a camera: how far it looks down follows from where the horizon lies (Criminisi, Reid, Zisserman, *Single View Metrology*, 2000). */
export function groundView(camera: GroundCamera): GroundView {
  const {
    focal,
    principal: [cx, cy],
    height,
  } = camera;
  const [sine, cosine] = rollOf(camera);
  // looking up puts the horizon below the middle
  const below = (camera.horizon - cy) * cosine;
  const length = Math.sqrt(below ** 2 + focal ** 2);
  const [c, s] = [focal / length, below / length];
  const right: Direction = [1, 0, 0];
  const up: Direction = [0, c, -s];
  const forward: Direction = [0, s, c];
  const ray = (x: number, y: number): Direction => {
    const [dx, dy] = [x - cx, y - cy];
    const [across, down] = [dx * cosine + dy * sine, dy * cosine - dx * sine];
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
      const [across, down] = [(focal * dot(place, right)) / depth, (-focal * dot(place, up)) / depth];
      return [cx + across * cosine - down * sine, cy + across * sine + down * cosine];
    },
    axes: [right, up, forward],
  };
}
