import { type Matrix3 } from '../../raster/matrix3';
import { rayOf, type SharedLens } from './cameraModel';
import { length2 } from '../../raster/length';

/** Numbers that {@link seenSlopes} writes: the place, then its changes. */
export const SLOPES = 18;

/**
 * Where a pixel of frame a is seen in frame b, and how that changes with small turns of both about x, y and z, with the logarithm of the
 * focal length and with the distortion.
 * @param turn R_b R_aᵀ
 * @param out u, v; then eight changes of u: turns of a, turns of b (radians), focal length, distortion; then eight of v
 * @returns whether it lies before the camera; `out` is undefined otherwise
 */
export function seenSlopes(
  lens: SharedLens,
  turn: Matrix3,
  x: number,
  y: number,
  out: Float64Array,
): boolean {
  const { focalPx: f, k1, width, height } = lens;
  const [rx, ry] = rayOf(lens, x, y);
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = turn;
  const X = m0 * rx + m1 * ry + m2;
  const Y = m3 * rx + m4 * ry + m5;
  const Z = m6 * rx + m7 * ry + m8;
  if (!(Z > 1e-6)) return false;
  const half2 = (width * width + height * height) / 4;
  const [u, v] = [(f * X) / Z, (f * Y) / Z];
  const square = (u * u + v * v) / half2;
  const bend = 1 + k1 * square;
  out[0] = u * bend + (width - 1) / 2;
  out[1] = v * bend + (height - 1) / 2;
  // of the seen place by the straight one
  const c = (2 * k1) / half2;
  const [uu, uv, vv] = [bend + c * u * u, c * u * v, bend + c * v * v];
  const put = (k: number, dX: number, dY: number, dZ: number): void => {
    const du = (f * dX - u * dZ) / Z;
    const dv = (f * dY - v * dZ) / Z;
    out[2 + k] = uu * du + uv * dv;
    out[10 + k] = uv * du + vv * dv;
  };
  /** the same for a change of the ray in frame a */
  const putRay = (k: number, a: number, b: number, c: number): void =>
    put(k, m0 * a + m1 * b + m2 * c, m3 * a + m4 * b + m5 * c, m6 * a + m7 * b + m8 * c);
  // a frame turns by (I + [e]×)·R: for a the ray turns back, for b what it has become turns on
  putRay(0, 0, 1, -ry);
  putRay(1, -1, 0, rx);
  putRay(2, ry, -rx, 0);
  put(3, 0, -Z, Y);
  put(4, Z, 0, -X);
  put(5, -Y, X, 0);
  putRay(6, -rx, -ry, 0);
  out[8] += uu * u + uv * v;
  out[16] += uv * u + vv * v;
  // the ray of a pixel bends by b = 1 + k1 s / b²
  const [px, py] = [x - (width - 1) / 2, y - (height - 1) / 2];
  const s = (px * px + py * py) / half2;
  const own = s > 0 ? Math.sqrt(s * half2) / (f * length2(rx, ry)) : 1;
  const slope = s / (own * own) / (1 + (2 * k1 * s) / own ** 3) / own;
  putRay(7, -rx * slope, -ry * slope, 0);
  out[9] += u * square;
  out[17] += v * square;
  return true;
}
