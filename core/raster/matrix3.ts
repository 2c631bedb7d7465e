/**
 * 3×3 projective matrices, row-major, acting on column vectors of pixel centres. Scaled so that the last entry is 1.
 * Hartley & Zisserman, Multiple View Geometry, ch. 2.
 */
export type Matrix3 = readonly [number, number, number, number, number, number, number, number, number];

export const IDENTITY: Matrix3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** Matrix product `a · b`. */
export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  return [
    a[0] * b[0] + a[1] * b[3] + a[2] * b[6],
    a[0] * b[1] + a[1] * b[4] + a[2] * b[7],
    a[0] * b[2] + a[1] * b[5] + a[2] * b[8],
    a[3] * b[0] + a[4] * b[3] + a[5] * b[6],
    a[3] * b[1] + a[4] * b[4] + a[5] * b[7],
    a[3] * b[2] + a[4] * b[5] + a[5] * b[8],
    a[6] * b[0] + a[7] * b[3] + a[8] * b[6],
    a[6] * b[1] + a[7] * b[4] + a[8] * b[7],
    a[6] * b[2] + a[7] * b[5] + a[8] * b[8],
  ];
}

/** Inverse; entries are not finite when the matrix is singular. */
export function invert(m: Matrix3): Matrix3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const A = e * i - f * h;
  const B = f * g - d * i;
  const C = d * h - e * g;
  const k = 1 / (a * A + b * B + c * C);
  return [
    A * k,
    (c * h - b * i) * k,
    (b * f - c * e) * k,
    B * k,
    (a * i - c * g) * k,
    (c * d - a * f) * k,
    C * k,
    (b * g - a * h) * k,
    (a * e - b * d) * k,
  ];
}

export function determinant(m: Matrix3): number {
  return (
    m[0] * (m[4] * m[8] - m[5] * m[7]) -
    m[1] * (m[3] * m[8] - m[5] * m[6]) +
    m[2] * (m[3] * m[7] - m[4] * m[6])
  );
}

/** Rows and columns exchanged; the inverse of a rotation. */
export function transposed(m: Matrix3): Matrix3 {
  return [m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]];
}

/** The same map with last entry 1. */
export function normalise(m: Matrix3): Matrix3 {
  const k = 1 / m[8];
  return [m[0] * k, m[1] * k, m[2] * k, m[3] * k, m[4] * k, m[5] * k, m[6] * k, m[7] * k, 1];
}

/** Image of the point (x, y). */
export function transform(m: Matrix3, x: number, y: number): [number, number] {
  const d = m[6] * x + m[7] * y + m[8];
  return [(m[0] * x + m[1] * y + m[2]) / d, (m[3] * x + m[4] * y + m[5]) / d];
}

/** The map that moves by (dx, dy). */
export function translation(dx: number, dy: number): Matrix3 {
  return [1, 0, dx, 0, 1, dy, 0, 0, 1];
}

/** Pixel centres of a level (2^-level of the size, made by halving) to pixel centres at full size. */
export function levelToFull(level: number): Matrix3 {
  const s = 2 ** level;
  return [s, 0, (s - 1) / 2, 0, s, (s - 1) / 2, 0, 0, 1];
}

/** A full-size map seen between two images at the same level. */
export function toLevel(m: Matrix3, level: number): Matrix3 {
  const s = levelToFull(level);
  return normalise(multiply(invert(s), multiply(m, s)));
}

/** The full-size map of one found at a level; the inverse of {@link toLevel}. */
export function fromLevel(m: Matrix3, level: number): Matrix3 {
  const s = levelToFull(level);
  return normalise(multiply(s, multiply(m, invert(s))));
}

/** Turn in degrees (clockwise on screen) and scale of a map, measured on the differential at (x, y). */
export function turnAndScale(m: Matrix3, x: number, y: number): { turnDegrees: number; scale: number } {
  const [u, v] = transform(m, x, y);
  const d = m[6] * x + m[7] * y + m[8];
  const a = (m[0] - u * m[6]) / d;
  const b = (m[1] - u * m[7]) / d;
  const c = (m[3] - v * m[6]) / d;
  const e = (m[4] - v * m[7]) / d;
  return {
    turnDegrees: (Math.atan2(c - b, a + e) * 180) / Math.PI,
    scale: Math.sqrt(Math.abs(a * e - b * c)),
  };
}

/** The integer shift that a matrix is, when it is exactly one. */
export function integerShift(m: Matrix3): [number, number] | undefined {
  const still =
    m[0] === 1 && m[1] === 0 && m[3] === 0 && m[4] === 1 && m[6] === 0 && m[7] === 0 && m[8] === 1;
  return still && Number.isInteger(m[2]) && Number.isInteger(m[5]) ? [m[2], m[5]] : undefined;
}
