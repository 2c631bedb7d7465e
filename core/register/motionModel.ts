import { Matrix } from 'ml-matrix';

/** How a frame may move against the reference. */
export type MotionModel = 'shift' | 'similarity' | 'perspective';

/**
 * Each model as directions in the eight homography increments (h11 h12 h13 h21 h22 h23 h31 h32): the incremental map is
 * I + Σ p·direction in coordinates centred on the picture and scaled to half its width.
 */
export const DIRECTIONS: Readonly<Record<MotionModel, readonly (readonly number[])[]>> = {
  shift: [
    [0, 0, 1, 0, 0, 0, 0, 0],
    [0, 0, 0, 0, 0, 1, 0, 0],
  ],
  similarity: [
    [1, 0, 0, 0, 1, 0, 0, 0],
    [0, -1, 0, 1, 0, 0, 0, 0],
    [0, 0, 1, 0, 0, 0, 0, 0],
    [0, 0, 0, 0, 0, 1, 0, 0],
  ],
  perspective: Array.from({ length: 8 }, (_, i) => Array.from({ length: 8 }, (_, k) => (i === k ? 1 : 0))),
};

/** Directions of a model as a matrix, one row a parameter. */
export function directionMatrix(model: MotionModel): Matrix {
  return new Matrix(DIRECTIONS[model].map((row) => [...row]));
}

/** d(x, y)/d(increment) at a point in centred, scaled coordinates: the two rows of the Jacobian. */
export function pointJacobian(X: number, Y: number): [number[], number[]] {
  return [
    [X, Y, 1, 0, 0, 0, -X * X, -X * Y],
    [0, 0, 0, X, Y, 1, -X * Y, -Y * Y],
  ];
}
