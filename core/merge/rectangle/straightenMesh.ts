import { type Equations, leastSquares } from './leastSquares';
import { cellsOf, cornersOf, placeIn, type PlaceInMesh, pointAt, type QuadMesh } from './quadMesh';
import { type Segment } from '../../raster/straightSegments';
import { length2 } from '../../raster/length';

/** A piece of a straight edge within one cell of a mesh. */
export interface LinePiece {
  readonly line: number;
  readonly from: PlaceInMesh;
  readonly to: PlaceInMesh;
  /** direction in the picture, radians, −π/2 … π/2 */
  readonly angle: number;
}

/** Straight edges cut where they cross the cells of a mesh. */
export function cutByMesh(mesh: QuadMesh, lines: readonly Segment[]): LinePiece[] {
  return lines.flatMap(({ x0, y0, x1, y1 }, line) => {
    const steps = Math.max(1, Math.ceil(length2(x1 - x0, y1 - y0)));
    const angle = halfTurn(Math.atan2(y1 - y0, x1 - x0));
    const pieces: LinePiece[] = [];
    let from: PlaceInMesh | undefined;
    let to: PlaceInMesh | undefined;
    const end = (): void => {
      if (from && to && from !== to) pieces.push({ line, from, to, angle });
    };
    for (let s = 0; s <= steps; s++) {
      const place = placeIn(mesh, x0 + ((x1 - x0) * s) / steps, y0 + ((y1 - y0) * s) / steps);
      if (place && from && place.cell === from.cell) to = place;
      else {
        end();
        from = to = place;
      }
    }
    end();
    return pieces;
  });
}

/** An angle without a sense, within half a turn. */
const halfTurn = (angle: number): number => angle - Math.PI * Math.round(angle / Math.PI);

/** lines of like direction are turned alike; so many directions */
const DIRECTIONS = 50;
/** weight of the straight edges against the cells' shapes (He, Chang & Sun 2013) */
const STRAIGHT = 100;
const ROUNDS = 10;

/**
 * The mesh that fills a rectangle and keeps what it can: every cell stays as similar to what it was as possible, and pieces of straight
 * edges of like direction are turned by one angle, which is sought in turn with the vertices (He, Chang & Sun 2013, section 3.2).
 * @param before the cells in the picture
 * @param width of the rectangle, pixels from its first to its last column
 */
export function straightenMesh(
  before: QuadMesh,
  pieces: readonly LinePiece[],
  width: number,
  height: number,
): QuadMesh {
  const { columns, rows } = before;
  const n = 2 * columns * rows;
  const given = new Uint8Array(n);
  let at: QuadMesh['at'] = new Float64Array(n);
  for (let j = 0, k = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, k += 2) {
      at[k] = (i * width) / (columns - 1);
      at[k + 1] = (j * height) / (rows - 1);
      if (i === 0 || i === columns - 1) given[k] = 1;
      if (j === 0 || j === rows - 1) given[k + 1] = 1;
    }
  const shapes = shapeEquations(before);
  const rounds = pieces.length > 0 ? ROUNDS : 1;
  for (let round = 0; round < rounds; round++) {
    const lines = lineEquations({ columns, rows, at }, pieces);
    at = leastSquares(joined(shapes, lines), at, given);
  }
  return { columns, rows, at };
}

/** Each cell against the similar figure that fits it best: what a projection onto shifts, turns and scales leaves. */
function shapeEquations(mesh: QuadMesh): Equations {
  const cells = cellsOf(mesh);
  const coefficients = new Float64Array(64 * cells);
  const unknowns = new Int32Array(64 * cells);
  const weight = Math.sqrt(1 / cells);
  for (let cell = 0, o = 0; cell < cells; cell++) {
    const corners = cornersOf(mesh, cell);
    const points = corners.map((k) => [mesh.at[2 * k], mesh.at[2 * k + 1]]);
    const middle = [0, 1].map((c) => points.reduce((s, p) => s + p[c] / 4, 0));
    const turned = points.flatMap(([x, y]) => [x - middle[0], y - middle[1]]);
    const across = turned.map((_, i) => (i % 2 === 0 ? -turned[i + 1] : turned[i - 1]));
    const size = Math.max(
      1e-9,
      turned.reduce((s, v) => s + v * v, 0),
    );
    for (let r = 0; r < 8; r++)
      for (let c = 0; c < 8; c++, o++) {
        const shift = r % 2 === c % 2 ? 0.25 : 0;
        const similar = shift + (turned[r] * turned[c] + across[r] * across[c]) / size;
        coefficients[o] = weight * (similar - (r === c ? 1 : 0));
        unknowns[o] = 2 * corners[c >> 1] + (c % 2);
      }
  }
  return { coefficients, unknowns };
}

/** Every piece along its direction, turned as the pieces of like direction are turned in the mesh now. */
function lineEquations(mesh: QuadMesh, pieces: readonly LinePiece[]): Equations {
  const binOf = ({ angle }: LinePiece): number =>
    Math.min(DIRECTIONS - 1, Math.floor((angle / Math.PI + 0.5) * DIRECTIONS));
  const [turn, weights] = [new Float64Array(DIRECTIONS), new Float64Array(DIRECTIONS)];
  for (const piece of pieces) {
    const [a, b] = [pointAt(mesh, piece.from), pointAt(mesh, piece.to)];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const length = length2(dx, dy);
    turn[binOf(piece)] += length * halfTurn(Math.atan2(dy, dx) - piece.angle);
    weights[binOf(piece)] += length;
  }
  const coefficients = new Float64Array(8 * pieces.length);
  const unknowns = new Int32Array(8 * pieces.length);
  const weight = Math.sqrt(STRAIGHT / Math.max(1, pieces.length));
  pieces.forEach((piece, p) => {
    const bin = binOf(piece);
    const angle = piece.angle + turn[bin] / Math.max(1e-9, weights[bin]);
    const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
    cornersOf(mesh, piece.from.cell).forEach((k, i) => {
      const share = weight * (piece.to.shares[i] - piece.from.shares[i]);
      const o = 8 * p + 2 * i;
      coefficients[o] = share * nx;
      coefficients[o + 1] = share * ny;
      unknowns[o] = 2 * k;
      unknowns[o + 1] = 2 * k + 1;
    });
  });
  return { coefficients, unknowns };
}

function joined(a: Equations, b: Equations): Equations {
  const coefficients = new Float64Array(a.coefficients.length + b.coefficients.length);
  coefficients.set(a.coefficients);
  coefficients.set(b.coefficients, a.coefficients.length);
  const unknowns = new Int32Array(coefficients.length);
  unknowns.set(a.unknowns);
  unknowns.set(b.unknowns, a.unknowns.length);
  return { coefficients, unknowns };
}
