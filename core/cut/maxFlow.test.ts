import { describe, expect, test } from '@jest/globals';
import { randomSource } from '../raster/random';
import { type CutGraph, minimumCut } from './maxFlow';

const cost = (g: CutGraph, side: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < g.nodes; i++) {
    if (g.terminal[i] > 0 && side[i] === 1) sum += g.terminal[i];
    if (g.terminal[i] < 0 && side[i] === 0) sum -= g.terminal[i];
  }
  for (let e = 0; e < g.from.length; e++) if (side[g.from[e]] !== side[g.to[e]]) sum += g.capacity[e];
  return sum;
};

/** A grid with random terminals and edges. */
function grid(w: number, h: number, seed: number): CutGraph {
  const random = randomSource(seed);
  const from: number[] = [];
  const to: number[] = [];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const join = (other: number): void => {
        from.push(y * w + x);
        to.push(other);
      };
      if (x + 1 < w) join(y * w + x + 1);
      if (y + 1 < h) join((y + 1) * w + x);
    }
  return {
    nodes: w * h,
    terminal: Float32Array.from({ length: w * h }, () =>
      random() < 0.4 ? Math.round(20 * random() - 10) : 0,
    ),
    from: Int32Array.from(from),
    to: Int32Array.from(to),
    capacity: Float32Array.from(from, () => Math.round(8 * random())),
  };
}

describe('minimum cut', () => {
  test.each(Array.from({ length: 40 }, (_, i) => i))(
    'is the least of all cuts of a 4 × 3 grid (seed %i)',
    (seed) => {
      const g = grid(4, 3, seed + 1);
      let least = Infinity;
      for (let bits = 0; bits < 1 << g.nodes; bits++)
        least = Math.min(
          least,
          cost(
            g,
            Array.from({ length: g.nodes }, (_, i) => (bits >> i) & 1),
          ),
        );
      expect(cost(g, minimumCut(g))).toBe(least);
    },
  );

  test('no single node of a large cut can change sides and make it cheaper', () => {
    const g = grid(60, 50, 7);
    const side = minimumCut(g);
    const own = cost(g, side);
    for (let i = 0; i < g.nodes; i += 37) {
      const other = side.slice();
      other[i] = 1 - other[i];
      expect(cost(g, other)).toBeGreaterThanOrEqual(own);
    }
  });
});
