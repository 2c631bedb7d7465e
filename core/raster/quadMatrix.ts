import { Matrix, solve } from 'ml-matrix';
import { type Matrix3 } from './matrix3';

type Corners = readonly (readonly [x: number, y: number])[];

/**
 * The homography that takes four places onto four others (direct linear transformation; Hartley & Zisserman, ch. 4.1).
 * @returns undefined where three of them lie on a line
 */
export function quadMatrix(from: Corners, to: Corners): Matrix3 | undefined {
  const rows: number[][] = [];
  const right: number[] = [];
  from.forEach(([x, y], i) => {
    const [u, v] = to[i];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  try {
    const h = solve(new Matrix(rows), Matrix.columnVector(right)).to1DArray();
    if (!h.every(Number.isFinite)) return undefined;
    return [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1];
  } catch {
    return undefined;
  }
}
