import { type LightTile } from './tile';

/** A plane without so many pixels on every side. */
export function croppedPlane(
  plane: Float32Array,
  width: number,
  height: number,
  margin: number,
): Float32Array {
  if (margin === 0) return plane;
  const [w, h] = [width - 2 * margin, height - 2 * margin];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    const from = (y + margin) * width + margin;
    out.set(plane.subarray(from, from + w), y * w);
  }
  return out;
}

/** A tile without so many pixels on every side. */
export function cropped(tile: LightTile, width: number, height: number, margin: number): LightTile {
  if (margin === 0) return tile;
  const cut = (p: Float32Array): Float32Array => croppedPlane(p, width, height, margin);
  return { ...tile, planes: tile.planes.map(cut), ...(tile.alpha ? { alpha: cut(tile.alpha) } : {}) };
}
