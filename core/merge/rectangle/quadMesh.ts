/** A mesh of four-sided cells, row by row. */
export interface QuadMesh {
  /** vertices in a row and in a column */
  readonly columns: number;
  readonly rows: number;
  /** [2 · vertex] */
  readonly at: Float64Array;
}

/** The vertices of a cell: upper left, upper right, lower left, lower right. @param cell counted over (columns − 1) · (rows − 1) */
export function cornersOf({ columns }: QuadMesh, cell: number): readonly [number, number, number, number] {
  const row = Math.floor(cell / (columns - 1));
  const first = row * columns + (cell - row * (columns - 1));
  return [first, first + 1, first + columns, first + columns + 1];
}

/** How many cells a mesh has. */
export const cellsOf = ({ columns, rows }: QuadMesh): number => (columns - 1) * (rows - 1);

/** A place within a mesh: its cell, and the share that each of the cell's corners has in it. */
export interface PlaceInMesh {
  readonly cell: number;
  readonly shares: readonly [number, number, number, number];
}

/** a place on the border of two cells belongs to either */
const SLACK = 1e-6;

/** Which cell holds a point; undefined outside the mesh. */
export function placeIn(mesh: QuadMesh, x: number, y: number): PlaceInMesh | undefined {
  const { at } = mesh;
  for (let cell = 0; cell < cellsOf(mesh); cell++) {
    const [a, b, d, c] = cornersOf(mesh, cell);
    const [xs, ys] = [0, 1].map((k) => [at[2 * a + k], at[2 * b + k], at[2 * c + k], at[2 * d + k]]);
    if (x < Math.min(...xs) - SLACK || x > Math.max(...xs) + SLACK) continue;
    if (y < Math.min(...ys) - SLACK || y > Math.max(...ys) + SLACK) continue;
    const found = inQuad(xs, ys, x, y);
    if (!found) continue;
    const [u, v] = found;
    return { cell, shares: [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v] };
  }
  return undefined;
}

/** The point of a mesh that a place of another mesh of the same cells stands for. */
export function pointAt(mesh: QuadMesh, { cell, shares }: PlaceInMesh): [number, number] {
  const out: [number, number] = [0, 0];
  cornersOf(mesh, cell).forEach((k, i) => {
    out[0] += shares[i] * mesh.at[2 * k];
    out[1] += shares[i] * mesh.at[2 * k + 1];
  });
  return out;
}

/** Bilinear coordinates of a point in a quad given round its outline: the root of a quadratic that lies in 0…1. */
function inQuad(
  xs: readonly number[],
  ys: readonly number[],
  x: number,
  y: number,
): [number, number] | undefined {
  const [ex, ey] = [xs[1] - xs[0], ys[1] - ys[0]];
  const [fx, fy] = [xs[3] - xs[0], ys[3] - ys[0]];
  const [gx, gy] = [xs[0] - xs[1] + xs[2] - xs[3], ys[0] - ys[1] + ys[2] - ys[3]];
  const [hx, hy] = [x - xs[0], y - ys[0]];
  const k2 = gx * fy - gy * fx;
  const k1 = ex * fy - ey * fx + hx * gy - hy * gx;
  const k0 = hx * ey - hy * ex;
  const roots: number[] = [];
  if (Math.abs(k2) < 1e-9 * Math.max(1, Math.abs(k1))) roots.push(-k0 / k1);
  else {
    const root = k1 * k1 - 4 * k0 * k2;
    if (root < 0) return undefined;
    roots.push((-k1 - Math.sqrt(root)) / (2 * k2), (-k1 + Math.sqrt(root)) / (2 * k2));
  }
  for (const v of roots) {
    if (!(v >= -SLACK && v <= 1 + SLACK)) continue;
    const [px, py] = [ex + gx * v, ey + gy * v];
    const u = Math.abs(px) > Math.abs(py) ? (hx - fx * v) / px : (hy - fy * v) / py;
    if (u >= -SLACK && u <= 1 + SLACK) return [u, v];
  }
  return undefined;
}
