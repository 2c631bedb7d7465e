/** Equations Σ coefficient · unknown = 0, eight terms each. */
export interface Equations {
  /** [8 · equation] */
  readonly coefficients: Float64Array;
  /** [8 · equation] which unknown each belongs to */
  readonly unknowns: Int32Array;
}

const TERMS = 8;
const MOST_STEPS = 400;
/** the gradient has then shrunk to this share of what it was */
const SETTLED = 1e-3;

/**
 * The unknowns that hold equations best in the least-squares sense, some of them given (conjugate gradients on the normal equations:
 * Hestenes & Stiefel 1952; Björck 1996, algorithm 7.4.1).
 * @param start given unknowns, and where the search begins for the others
 * @param given [unknown] 1 where it stays as it is
 */
export function leastSquares(
  { coefficients, unknowns }: Equations,
  start: Float64Array,
  given: Uint8Array,
): Float64Array {
  const x = start.slice();
  const count = coefficients.length / TERMS;
  const residual = new Float64Array(count);
  const along = new Float64Array(count);
  const gradient = new Float64Array(x.length);
  const apply = (v: Float64Array, out: Float64Array): void => {
    for (let r = 0, k = 0; r < count; r++) {
      let sum = 0;
      for (const end = k + TERMS; k < end; k++) sum += coefficients[k] * v[unknowns[k]];
      out[r] = sum;
    }
  };
  const back = (v: Float64Array, out: Float64Array): number => {
    out.fill(0);
    for (let r = 0, k = 0; r < count; r++)
      for (const end = k + TERMS; k < end; k++) out[unknowns[k]] += coefficients[k] * v[r];
    let square = 0;
    for (let i = 0; i < out.length; i++) {
      if (given[i]) out[i] = 0;
      square += out[i] * out[i];
    }
    return square;
  };
  apply(x, residual);
  for (let r = 0; r < count; r++) residual[r] = -residual[r];
  let square = back(residual, gradient);
  const first = square;
  const direction = gradient.slice();
  for (let step = 0; step < MOST_STEPS && square > SETTLED * SETTLED * first; step++) {
    apply(direction, along);
    let length = 0;
    for (let r = 0; r < count; r++) length += along[r] * along[r];
    if (length === 0) break;
    const far = square / length;
    for (let i = 0; i < x.length; i++) x[i] += far * direction[i];
    for (let r = 0; r < count; r++) residual[r] -= far * along[r];
    const next = back(residual, gradient);
    const keep = next / square;
    for (let i = 0; i < x.length; i++) direction[i] = gradient[i] + keep * direction[i];
    square = next;
  }
  return x;
}
