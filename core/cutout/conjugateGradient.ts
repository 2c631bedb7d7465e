/** A linear system with a symmetric positive matrix. */
export interface System {
  /** writes the product of the matrix and `x` to `out` */
  readonly multiply: (x: Float64Array, out: Float64Array) => void;
  readonly diagonal: Float64Array;
  readonly right: Float64Array;
}

/** values that are summed at a time: the sum is the same however the work is shared out */
const BLOCK = 4096;

function dot(a: Float64Array, b: Float64Array): number {
  let total = 0;
  for (let from = 0; from < a.length; from += BLOCK) {
    let sum = 0;
    for (let i = from; i < Math.min(a.length, from + BLOCK); i++) sum += a[i] * b[i];
    total += sum;
  }
  return total;
}

/**
 * Solves a system by conjugate gradients with Jacobi's preconditioner (Hestenes & Stiefel 1952), to a residual of `tolerance` of the first or
 * for so many steps.
 */
export function conjugateGradient(
  { multiply, diagonal, right }: System,
  start: Float64Array,
  steps: number,
  tolerance: number,
): Float64Array {
  const n = right.length;
  const x = start.slice();
  const [r, z, q] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  multiply(x, q);
  for (let i = 0; i < n; i++) {
    r[i] = right[i] - q[i];
    z[i] = r[i] / diagonal[i];
  }
  const p = z.slice();
  let size = dot(r, z);
  const least = tolerance * tolerance * size;
  for (let step = 0; step < steps && size > least && size > 1e-12; step++) {
    multiply(p, q);
    const alpha = size / dot(p, q);
    for (let i = 0; i < n; i++) {
      x[i] += alpha * p[i];
      r[i] -= alpha * q[i];
      z[i] = r[i] / diagonal[i];
    }
    const next = dot(r, z);
    const beta = next / size;
    size = next;
    for (let i = 0; i < n; i++) p[i] = z[i] + beta * p[i];
  }
  return x;
}
