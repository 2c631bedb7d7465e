/** A dab that says what a place is: a round pen drawn along points, pixels of the upright picture. “edge”: both may be mixed there, as in hair, and the matte decides. */
export interface Dab {
  readonly is: 'this' | 'not' | 'edge';
  /** diameter, px */
  readonly size: number;
  /** centres, (0, 0) is the centre of the first pixel */
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** What the dabs say of a pixel: 1 “this”, 0 “not”, −1 nothing, {@link EDGE} that it is undecided. */
export type Seeds = Int8Array;

export const EDGE = -2;

const SAYS: Readonly<Record<Dab['is'], number>> = { this: 1, not: 0, edge: EDGE };

/**
 * Where dabs lie on a grid of cells of `factor` × `factor` pixels. A later dab covers an earlier one; a dab that is smaller than a cell
 * marks the nearest one.
 */
export function dabSeeds(dabs: readonly Dab[], width: number, height: number, factor = 1): Seeds {
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const seeds = new Int8Array(w * h).fill(-1);
  const cell = (v: number): number => (v + 0.5) / factor - 0.5;
  for (const { is, size, points } of dabs) {
    const label = SAYS[is];
    const r = Math.max(size / 2 / factor, Math.SQRT1_2);
    points.forEach(([px, py], k) => {
      const [qx, qy] = points[Math.min(k + 1, points.length - 1)];
      const [ax, ay, dx, dy] = [cell(px), cell(py), cell(qx) - cell(px), cell(qy) - cell(py)];
      const length2 = dx * dx + dy * dy;
      const x1 = Math.min(w - 1, Math.ceil(Math.max(ax, ax + dx) + r));
      const y1 = Math.min(h - 1, Math.ceil(Math.max(ay, ay + dy) + r));
      for (let y = Math.max(0, Math.floor(Math.min(ay, ay + dy) - r)); y <= y1; y++)
        for (let x = Math.max(0, Math.floor(Math.min(ax, ax + dx) - r)); x <= x1; x++) {
          const along = length2 > 0 ? ((x - ax) * dx + (y - ay) * dy) / length2 : 0;
          const t = Math.max(0, Math.min(1, along));
          if ((x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2 <= r * r) seeds[y * w + x] = label;
        }
    });
  }
  return seeds;
}
