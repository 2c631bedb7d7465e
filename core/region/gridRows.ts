import { type At } from '../graph/tile';

/** Where the pixel centres of a row lie, fractions of the long edge. */
export interface GridRow {
  /** of pixel `i`: `(first + i + ½) · scale` */
  readonly first: number;
  readonly scale: number;
  readonly y: number;
}

/** A plane that is filled row by row, each by what lies at its pixel centres: a loop of its own for each kind, which a compiler can follow. */
export function gridRows(
  { level, area }: At,
  longEdge: number,
  fill: (row: Float32Array, at: GridRow) => void,
): Float32Array {
  const scale = 2 ** level / longEdge;
  const out = new Float32Array(area.width * area.height);
  for (let y = 0; y < area.height; y++)
    fill(out.subarray(y * area.width, (y + 1) * area.width), {
      first: area.x,
      scale,
      y: (area.y + y + 0.5) * scale,
    });
  return out;
}
