import { type Matrix3, multiply, transposed } from '../../raster/matrix3';
import { length2, length3 } from '../../raster/length';

/** What all frames of a turned set share. Camera axes: x right, y down, z forward. */
export interface SharedLens {
  readonly focalPx: number;
  /** radial distortion: a point at r half diagonals is seen at r(1 + k1 r²) */
  readonly k1: number;
  readonly width: number;
  readonly height: number;
}

/** Where a direction in camera axes is seen, pixels; undefined behind the camera. */
export function pixelOf(lens: SharedLens, x: number, y: number, z: number): [number, number] | undefined {
  if (!(z > 1e-6)) return undefined;
  const f = lens.focalPx;
  const half = 0.5 * length2(lens.width, lens.height);
  const [u, v] = [(f * x) / z, (f * y) / z];
  const bend = 1 + (lens.k1 * (u * u + v * v)) / (half * half);
  return [u * bend + (lens.width - 1) / 2, v * bend + (lens.height - 1) / 2];
}

/** Whether a camera sees a direction of the world: {@link pixelOf} of it lies in the frame. @param R world → camera */
export function seesDirection(
  { focalPx, k1, width, height }: SharedLens,
  R: Matrix3,
  [a, b, c]: readonly [number, number, number],
): boolean {
  const z = R[6] * a + R[7] * b + R[8] * c;
  if (!(z > 1e-6)) return false;
  const u = (focalPx * (R[0] * a + R[1] * b + R[2] * c)) / z;
  const v = (focalPx * (R[3] * a + R[4] * b + R[5] * c)) / z;
  const bend = 1 + (4 * k1 * (u * u + v * v)) / (width * width + height * height);
  return Math.abs(u * bend) <= (width - 1) / 2 && Math.abs(v * bend) <= (height - 1) / 2;
}

/** The direction that a pixel sees, z = 1; the inverse of {@link pixelOf}. */
export function rayOf(lens: SharedLens, px: number, py: number): [number, number, number] {
  const half = 0.5 * length2(lens.width, lens.height);
  const [u, v] = [px - (lens.width - 1) / 2, py - (lens.height - 1) / 2];
  let bend = 1;
  if (lens.k1 !== 0)
    for (let pass = 0; pass < 8; pass++) bend = 1 + (lens.k1 * (u * u + v * v)) / (bend * bend * half * half);
  return [u / bend / lens.focalPx, v / bend / lens.focalPx, 1];
}

/** The rotation about an axis by its length in radians (Rodrigues). */
export function turnAbout(a: number, b: number, c: number): Matrix3 {
  const angle = length3(a, b, c);
  if (angle < 1e-12) return [1, -c, b, c, 1, -a, -b, a, 1];
  const [x, y, z] = [a / angle, b / angle, c / angle];
  const [s, k] = [Math.sin(angle), 1 - Math.cos(angle)];
  return [
    1 - k * (y * y + z * z),
    k * x * y - s * z,
    k * x * z + s * y,
    k * x * y + s * z,
    1 - k * (x * x + z * z),
    k * y * z - s * x,
    k * x * z - s * y,
    k * y * z + s * x,
    1 - k * (x * x + y * y),
  ];
}

/** Matrix times vector. */
export function turned(m: Matrix3, [x, y, z]: readonly [number, number, number]): [number, number, number] {
  return [m[0] * x + m[1] * y + m[2] * z, m[3] * x + m[4] * y + m[5] * z, m[6] * x + m[7] * y + m[8] * z];
}

/** The pixel map between two frames that only turned, without distortion: K R_b R_aᵀ K⁻¹. */
export function turnHomography({ focalPx: f, width, height }: SharedLens, a: Matrix3, b: Matrix3): Matrix3 {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const K: Matrix3 = [f, 0, cx, 0, f, cy, 0, 0, 1];
  const back: Matrix3 = [1 / f, 0, -cx / f, 0, 1 / f, -cy / f, 0, 0, 1];
  return multiply(K, multiply(multiply(b, transposed(a)), back));
}
