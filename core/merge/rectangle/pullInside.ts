import { type QuadMesh } from './quadMesh';
import { placeOnLattice } from './rectangleMesh';

/** places looked at along each cell of the border */
const SAMPLES = 10;
/** how far a vertex goes towards its inner neighbour at a time */
const PULL = 0.06;
const MOST_PASSES = 60;

/**
 * A lattice whose border runs within what is covered: where the curve between two vertices cuts a corner of the picture, both are drawn a little
 * inwards, again and again, so that a notch costs a little picture beside it and not a whole strip of the crop.
 * @param covered [pixel] 1 where there is picture
 */
export function pullInside(mesh: QuadMesh, covered: Uint8Array, width: number, height: number): QuadMesh {
  const { columns, rows } = mesh;
  const at = mesh.at.slice();
  const isCovered = (u: number, v: number): boolean => {
    const [x, y] = [Math.round(u), Math.round(v)];
    return x >= 0 && y >= 0 && x < width && y < height && covered[y * width + x] === 1;
  };
  const inwards = (i: number, size: number): number => (i === 0 ? 1 : i === size - 1 ? size - 2 : i);
  const sides = [
    { count: columns - 1, vertex: (k: number) => [k, 0] as const },
    { count: columns - 1, vertex: (k: number) => [k, rows - 1] as const },
    { count: rows - 1, vertex: (k: number) => [0, k] as const },
    { count: rows - 1, vertex: (k: number) => [columns - 1, k] as const },
  ];
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    const out = new Set<number>();
    for (const { count, vertex } of sides)
      for (let k = 0; k < count; k++) {
        const [a, b] = [vertex(k), vertex(k + 1)];
        for (let s = 0; s <= SAMPLES; s++) {
          const t = s / SAMPLES;
          const [u, v] = placeOnLattice(
            { columns, rows, places: at },
            a[0] + t * (b[0] - a[0]),
            a[1] + t * (b[1] - a[1]),
          );
          if (isCovered(u, v)) continue;
          if (t < 0.75) out.add(a[1] * columns + a[0]);
          if (t > 0.25) out.add(b[1] * columns + b[0]);
        }
      }
    if (out.size === 0) break;
    for (const vertex of out) {
      const [i, j] = [vertex % columns, Math.floor(vertex / columns)];
      const inner = inwards(j, rows) * columns + inwards(i, columns);
      for (let c = 0; c < 2; c++) at[2 * vertex + c] += PULL * (at[2 * inner + c] - at[2 * vertex + c]);
    }
  }
  return { columns, rows, at };
}
