import { Matrix } from 'ml-matrix';
import { invert, multiply, normalise, type Matrix3, transform } from '../raster/matrix3';
import { directionMatrix, type MotionModel } from './motionModel';
import { centring, inverseOf, type Refinement } from './refineAlignment';
import { length2 } from '../raster/length';

/** A larger model is taken only when the smaller one is this unlikely (χ² in the inverse covariance metric). */
const CHI_SQUARE_LIMIT = 60;

/** Least-squares shift or similarity through a grid of mapped points; a perspective stays as it is. */
export function closest(map: Matrix3, model: MotionModel, width: number, height: number): Matrix3 {
  if (model === 'perspective') return map;
  const grid: [number, number, number, number][] = [];
  for (let j = 0; j < 5; j++)
    for (let i = 0; i < 5; i++) {
      const x = (width * (i + 0.5)) / 5;
      const y = (height * (j + 0.5)) / 5;
      grid.push([x, y, ...transform(map, x, y)]);
    }
  const mean = [0, 1, 2, 3].map((k) => grid.reduce((s, p) => s + p[k], 0) / grid.length);
  if (model === 'shift') return [1, 0, mean[2] - mean[0], 0, 1, mean[3] - mean[1], 0, 0, 1];
  let a = 0;
  let b = 0;
  let d = 0;
  for (const p of grid) {
    const [X, Y, U, V] = p.map((v, k) => v - mean[k]);
    a += X * U + Y * V;
    b += X * V - Y * U;
    d += X * X + Y * Y;
  }
  a /= d;
  b /= d;
  return [a, -b, mean[2] - a * mean[0] + b * mean[1], b, a, mean[3] - b * mean[0] - a * mean[1], 0, 0, 1];
}

/**
 * Projects a refined homography onto a smaller model in the metric of its own covariance.
 * @returns the projected map at the same level and the χ² lost by the projection, or undefined when the covariance is singular
 */
export function projectToModel(
  fit: Refinement,
  covariance: Matrix,
  model: MotionModel,
  size: { width: number; height: number },
): { map: Matrix3; chiSquare: number } | undefined {
  const information = inverseOf(covariance);
  if (!information) return undefined;
  const C = centring(fit.coordinates);
  const back = invert(C);
  const start = closest(fit.map, model, size.width, size.height);
  const d = normalise(multiply(C, multiply(multiply(invert(start), fit.map), back)));
  const p = [d[0] - 1, d[1], d[2], d[3], d[4] - 1, d[5], d[6], d[7]];
  const D = directionMatrix(model);
  const weighted = D.mmul(information);
  const solve = inverseOf(weighted.mmul(D.transpose()));
  if (!solve) return undefined;
  const q = D.transpose()
    .mmul(solve.mmul(weighted.mmul(Matrix.columnVector(p))))
    .to1DArray();
  const gap = Matrix.columnVector(p.map((v, i) => v - q[i]));
  const chiSquare = gap.transpose().mmul(information).mmul(gap).get(0, 0);
  const step: Matrix3 = [1 + q[0], q[1], q[2], q[3], 1 + q[4], q[5], q[6], q[7], 1];
  return { map: normalise(multiply(start, multiply(back, multiply(step, C)))), chiSquare };
}

/** Whether two maps take no place of a picture farther apart than so many pixels. */
function near(
  a: Matrix3,
  b: Matrix3,
  { width, height }: { width: number; height: number },
  most: number,
): boolean {
  return [0, 0.5, 1].every((s) =>
    [0, 0.5, 1].every((t) => {
      const [p, q] = [transform(a, s * width, t * height), transform(b, s * width, t * height)];
      return length2(p[0] - q[0], p[1] - q[1]) <= most;
    }),
  );
}

/**
 * The smallest model that explains a homography fit: shift, then similarity, else perspective as it is.
 * @param slack pixels that a smaller model may be off anywhere, however sure the fit is: what drawing a frame anew leaves
 */
export function simplestModel(
  fit: Refinement,
  covariance: Matrix | undefined,
  size: { width: number; height: number },
  slack = 0,
): { model: MotionModel; map: Matrix3 } {
  if (covariance)
    for (const model of ['shift', 'similarity'] as const) {
      const projected = projectToModel(fit, covariance, model, size);
      if (!projected) continue;
      if (projected.chiSquare <= CHI_SQUARE_LIMIT || (slack > 0 && near(projected.map, fit.map, size, slack)))
        return { model, map: projected.map };
    }
  return { model: 'perspective', map: fit.map };
}
