import { sharedFloats } from '../../raster/raster';
import { gridRow, type ReducedGrid, reducedGrid } from '../../raster/reducedGrid';
import { type FocusEnergy } from './focusEnergy';

/** bytes that the depth map of a set may take: three planes of energy and three of its answers a frame */
const MOST = 1.2e9;
const PLANES = 6;

/** Halvings of the grid that the depth map of so many frames is made on: 1, and more where its planes would not fit into memory. */
export function energyLevel(frames: number, width: number, height: number): number {
  let level = 1;
  for (;;) {
    const grid = reducedGrid(width, height, level);
    if (4 * PLANES * frames * grid.width * grid.height <= MOST) return level;
    level++;
  }
}

/** Sharpness on a grid half as fine: means of the cells that the frame reaches. */
export function coarserEnergy({ width, height, level, ...energy }: FocusEnergy): FocusEnergy {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const [fine, coarse, grey] = [0, 1, 2].map(() => sharedFloats(w * h));
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      let [n, all] = [0, 0];
      for (let v = 2 * y; v < Math.min(height, 2 * y + 2); v++)
        for (let u = 2 * x; u < Math.min(width, 2 * x + 2); u++) {
          const k = v * width + u;
          all++;
          coarse[i] += energy.coarse[k];
          grey[i] += energy.grey[k];
          if (energy.fine[k] < 0) continue;
          n++;
          fine[i] += energy.fine[k];
        }
      fine[i] = n > 0 ? fine[i] / n : -1;
      coarse[i] /= all;
      grey[i] /= all;
    }
  return { ...energy, width: w, height: h, level: level + 1, fine, coarse, grey };
}

/** A plane of a grid on the grid of half the picture's size, in between linearly. */
export function onHalfGrid(
  plane: Float32Array,
  grid: ReducedGrid,
  width: number,
  height: number,
): Float32Array {
  if (grid.level <= 1) return plane;
  const half = reducedGrid(width, height, 1);
  const out = sharedFloats(half.width * half.height);
  for (let y = 0; y < half.height; y++)
    gridRow(
      out.subarray(y * half.width, (y + 1) * half.width),
      plane,
      { ...grid, level: grid.level - 1 },
      0,
      y,
    );
  return out;
}
