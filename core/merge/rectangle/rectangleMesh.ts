import { type ProjectionKind } from '../panorama/projection';

/**
 * How the paper of a panorama is bent so that its picture fills a rectangle: a lattice of even cells on the rectangle, each vertex with
 * the place that is drawn there. Units are those of the projection's plane.
 */
export interface RectangleMesh {
  /** the plane it belongs to */
  readonly projection: ProjectionKind;
  /** the rectangle: its first corner and its size */
  readonly left: number;
  readonly top: number;
  readonly across: number;
  readonly down: number;
  /** vertices in a row and in a column, 2 or more */
  readonly columns: number;
  readonly rows: number;
  /** [2 · vertex] place on the plane, row by row */
  readonly places: readonly number[];
  /** how much larger or smaller than before things are drawn where it is most, % */
  readonly stretch: number;
  /** how far the straight line that fares worst leaves its chord, share of the rectangle's diagonal */
  readonly bow: number;
}

/** Weights of the four vertices around a fraction 0…1, smooth from cell to cell (Catmull & Rom 1974). */
function weights(t: number): readonly [number, number, number, number] {
  const [t2, t3] = [t * t, t * t * t];
  return [
    0.5 * (-t3 + 2 * t2 - t),
    0.5 * (3 * t3 - 5 * t2 + 2),
    0.5 * (-3 * t3 + 4 * t2 + t),
    0.5 * (t3 - t2),
  ];
}

/** The place on the plane that is drawn at (u, v) of the rectangle; beyond its border the lattice goes on as it ended. */
export function placeOnMesh(mesh: RectangleMesh, u: number, v: number): [number, number] {
  const { columns, rows } = mesh;
  return placeOnLattice(
    mesh,
    ((u - mesh.left) / mesh.across) * (columns - 1),
    ((v - mesh.top) / mesh.down) * (rows - 1),
  );
}

/** The place of a lattice at column `x` and row `y`, whole numbers being its vertices. */
export function placeOnLattice(
  {
    columns,
    rows,
    places,
  }: { readonly columns: number; readonly rows: number; readonly places: ArrayLike<number> },
  x: number,
  y: number,
): [number, number] {
  const i = Math.max(0, Math.min(columns - 2, Math.floor(x)));
  const j = Math.max(0, Math.min(rows - 2, Math.floor(y)));
  const at = (column: number, row: number, c: number): number => {
    // beyond the border: as far again as one step inwards
    if (column < 0) return 2 * at(0, row, c) - at(1, row, c);
    if (column >= columns) return 2 * at(columns - 1, row, c) - at(columns - 2, row, c);
    if (row < 0) return 2 * at(column, 0, c) - at(column, 1, c);
    if (row >= rows) return 2 * at(column, rows - 1, c) - at(column, rows - 2, c);
    return places[2 * (row * columns + column) + c];
  };
  const [wx, wy] = [weights(Math.max(-1, Math.min(2, x - i))), weights(Math.max(-1, Math.min(2, y - j)))];
  const out: [number, number] = [0, 0];
  for (let b = 0; b < 4; b++)
    for (let a = 0; a < 4; a++) {
      const w = wx[a] * wy[b];
      if (w === 0) continue;
      for (let c = 0; c < 2; c++) out[c] += w * at(i + a - 1, j + b - 1, c);
    }
  return out;
}
