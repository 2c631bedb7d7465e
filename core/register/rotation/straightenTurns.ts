import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { type Matrix3, multiply, transposed } from '../../raster/matrix3';

type Vector = [number, number, number];

const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (v: Vector): Vector => {
  const k = 1 / Math.max(1e-12, Math.hypot(...v));
  return [v[0] * k, v[1] * k, v[2] * k];
};
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const sum = (vs: readonly Vector[]): Vector =>
  vs.reduce<Vector>((s, v) => [s[0] + v[0], s[1] + v[1], s[2] + v[2]], [0, 0, 0]);
/** rows of a world → camera rotation are the camera's axes in the world */
const axis = (R: Matrix3, k: number): Vector => [R[3 * k], R[3 * k + 1], R[3 * k + 2]];

/** a row of frames spans at least this much sideways turn, radians squared */
const ROW = 0.01;

/**
 * Turns the world so that the horizon is level and the middle of the set lies ahead. People hold the camera's x axis level, so the
 * vertical is the direction that all x axes are most nearly square to (Brown & Lowe 2007); a single column, whose x axes all agree,
 * takes its mean x axis as level and its mean tilt as it is.
 */
export function straightenTurns(rotations: readonly Matrix3[]): Matrix3[] {
  const xs = rotations.map((R) => axis(R, 0));
  const downs = unit(sum(rotations.map((R) => axis(R, 1))));
  const scatter = Matrix.zeros(3, 3);
  for (const x of xs)
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) scatter.set(i, j, scatter.get(i, j) + x[i] * x[j]);
  const eigen = new EigenvalueDecomposition(scatter, { assumeSymmetric: true });
  const values = eigen.realEigenvalues;
  const order = [0, 1, 2].sort((a, b) => values[a] - values[b]);
  const least = [0, 1, 2].map((i) => eigen.eigenvectorMatrix.get(i, order[0])) as Vector;
  let down: Vector;
  if (values[order[1]] / rotations.length > ROW)
    down = dot(least, downs) < 0 ? [-least[0], -least[1], -least[2]] : least;
  else {
    const level = unit(sum(xs));
    const off = dot(downs, level);
    down = unit([downs[0] - off * level[0], downs[1] - off * level[1], downs[2] - off * level[2]]);
  }
  const ahead = unit(sum(rotations.map((R) => axis(R, 2))));
  const right = unit(cross(down, ahead));
  const forward = cross(right, down);
  const world: Matrix3 = [...right, ...down, ...forward];
  return rotations.map((R) => multiply(R, transposed(world)));
}
