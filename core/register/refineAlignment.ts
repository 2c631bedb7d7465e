import { inverse, Matrix } from 'ml-matrix';
import { type Matrix3, invert, multiply, normalise, transform } from '../raster/matrix3';
import { type GradientPoints } from './gradientPoints';
import { type Representation } from './logLuminance';
import { directionMatrix, type MotionModel, pointJacobian } from './motionModel';
import { type Frame2D, type NormalEquations, robustSpread, withEquations } from './normalEquations';
import { length2 } from '../raster/length';

/** Where the iteration at one level ended. */
export interface Refinement {
  readonly map: Matrix3;
  readonly model: MotionModel;
  /** false when the equations could not be solved or too few points were seen */
  readonly solved: boolean;
  /** largest corner movement of the last step, pixels of the level */
  readonly lastStep: number;
  readonly equations: NormalEquations;
  readonly coordinates: Frame2D;
}

/** The map from pixels to centred, scaled coordinates. */
export function centring(c: Frame2D): Matrix3 {
  return [1 / c.scale, 0, -c.cx / c.scale, 0, 1 / c.scale, -c.cy / c.scale, 0, 0, 1];
}

/** A·p = b restricted to a model. */
export function restrict(A: Float64Array, b: Float64Array, model: MotionModel): { A: Matrix; b: Matrix } {
  const D = directionMatrix(model);
  const full = Matrix.from1DArray(8, 8, Array.from(A));
  return { A: D.mmul(full).mmul(D.transpose()), b: D.mmul(Matrix.columnVector(Array.from(b))) };
}

/** Inverse of a symmetric matrix, or undefined when it is singular. */
export function inverseOf(m: Matrix): Matrix | undefined {
  try {
    const result = inverse(m);
    return result.to1DArray().every(Number.isFinite) ? result : undefined;
  } catch {
    return undefined;
  }
}

/**
 * Inverse-compositional Lucas–Kanade at one level (Baker & Matthews 2004) from a start.
 * @param start reference pixel → frame pixel, at this level
 * @param tolerance stop when no corner moves farther than this, in pixels of the level
 * @param most largest number of passes
 */
export function refineAlignment(
  points: GradientPoints,
  frame: Representation,
  start: Matrix3,
  model: MotionModel,
  size: { width: number; height: number },
  tolerance: number,
  most: number,
): Refinement {
  const { width, height } = size;
  const coordinates: Frame2D = { cx: (width - 1) / 2, cy: (height - 1) / 2, scale: width / 2 };
  return withEquations(points, frame, coordinates, (equationsAt): Refinement => {
    const C = centring(coordinates);
    const back = invert(C);
    const D = directionMatrix(model);
    let map = start;
    let spread = 1;
    let lastStep = Infinity;
    let equations = equationsAt(map, undefined, spread, 'huber');
    for (let pass = 0; pass < most; pass++) {
      if (pass > 0) equations = equationsAt(map, equations.tone, spread, 'tukey');
      spread = robustSpread(equations.residuals);
      const reduced = restrict(equations.A, equations.b, model);
      for (let i = 0; i < reduced.A.rows; i++) reduced.A.set(i, i, reduced.A.get(i, i) * (1 + 1e-9));
      const inverted = inverseOf(reduced.A);
      if (!inverted || equations.used < 100)
        return { map, model, solved: false, lastStep, equations, coordinates };
      const p = D.transpose().mmul(inverted.mmul(reduced.b)).to1DArray();
      const step: Matrix3 = [1 + p[0], p[1], p[2], p[3], 1 + p[4], p[5], p[6], p[7], 1];
      const next = normalise(multiply(map, multiply(back, multiply(invert(step), C))));
      lastStep = 0;
      for (const [x, y] of [
        [0, 0],
        [width, 0],
        [0, height],
        [width, height],
      ]) {
        const q = transform(map, x, y);
        const r = transform(next, x, y);
        lastStep = Math.max(lastStep, length2(q[0] - r[0], q[1] - r[1]));
      }
      if (!(lastStep < 1e4)) return { map, model, solved: false, lastStep, equations, coordinates };
      map = next;
      if (lastStep < tolerance && pass >= 2) break;
    }
    return { map, model, solved: true, lastStep, equations, coordinates };
  });
}

/**
 * Covariance of the increments that the scatter of the tiles implies (sandwich estimate A⁻¹ Σggᵀ A⁻¹, small-sample factor
 * n/(n − p/2)), which also sees what the noise model leaves out.
 */
export function sandwichCovariance(equations: NormalEquations, model: MotionModel): Matrix | undefined {
  const { A, b, tileB, tileCount } = equations;
  const inverted = inverseOf(restrict(A, b, model).A);
  if (!inverted) return undefined;
  const D = directionMatrix(model);
  const scatter = Matrix.zeros(D.rows, D.rows);
  let used = 0;
  for (let t = 0; t < tileCount.length; t++) {
    if (tileCount[t] < 20) continue;
    used++;
    const g = D.mmul(Matrix.columnVector(Array.from(tileB.subarray(t * 8, t * 8 + 8))));
    scatter.add(g.mmul(g.transpose()));
  }
  const factor = used > D.rows / 2 + 1 ? used / (used - D.rows / 2) : 1e6;
  return inverted.mmul(scatter).mmul(inverted).mul(factor);
}

/** Root mean square displacement over the picture, in pixels of the level, that a covariance of the increments means. */
export function displacementSpread(
  covariance: Matrix,
  model: MotionModel,
  c: Frame2D,
  size: { width: number; height: number },
): number {
  const D = directionMatrix(model);
  let sum = 0;
  for (let j = 0; j < 7; j++)
    for (let i = 0; i < 9; i++) {
      const X = ((size.width * (i + 0.5)) / 9 - c.cx) / c.scale;
      const Y = ((size.height * (j + 0.5)) / 7 - c.cy) / c.scale;
      for (const row of pointJacobian(X, Y)) {
        const g = D.mmul(Matrix.columnVector(row));
        sum += g.transpose().mmul(covariance).mmul(g).get(0, 0) * c.scale * c.scale;
      }
    }
  return Math.sqrt(sum / 63);
}
