/** A round pen drawn along points, pixels: (0, 0) is the centre of the first one. */
export interface PenLine {
  /** diameter, px */
  readonly size: number;
  readonly points: readonly (readonly [x: number, y: number])[];
}

/**
 * Names the cells of `factor` × `factor` pixels that a pen covers, by their index; one that is smaller than a cell covers the nearest one.
 * @param width of the grid, cells
 */
export function penCells(
  { size, points }: PenLine,
  width: number,
  height: number,
  factor: number,
  name: (cell: number) => void,
): void {
  const cell = (v: number): number => (v + 0.5) / factor - 0.5;
  const r = Math.max(size / 2 / factor, Math.SQRT1_2);
  points.forEach(([px, py], k) => {
    const [qx, qy] = points[Math.min(k + 1, points.length - 1)];
    const [ax, ay, dx, dy] = [cell(px), cell(py), cell(qx) - cell(px), cell(qy) - cell(py)];
    const length2 = dx * dx + dy * dy;
    const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, ax + dx) + r));
    const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, ay + dy) + r));
    for (let y = Math.max(0, Math.floor(Math.min(ay, ay + dy) - r)); y <= y1; y++)
      for (let x = Math.max(0, Math.floor(Math.min(ax, ax + dx) - r)); x <= x1; x++) {
        const along = length2 > 0 ? ((x - ax) * dx + (y - ay) * dy) / length2 : 0;
        const t = Math.max(0, Math.min(1, along));
        if ((x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2 <= r * r) name(y * width + x);
      }
  });
}
