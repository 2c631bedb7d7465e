import { encodeOpen } from '../colour/encodeSource';
import { type Kernels, kernels } from '../kernels/kernels';
import { decodePlane } from '../raster/srgb';
import { type LightTile } from './tile';

/** pixels that the kernel converts at a time */
const CHUNK = 1 << 15;

/** tiles in the other light: one that is kept is asked for again and again while something beside it changes */
const others = new WeakMap<LightTile, LightTile>();

/** A tile in the light that is asked for; the same one where it is in it already. */
export function inLight(tile: LightTile, encoded: boolean): LightTile {
  if (tile.encoded === encoded) return tile;
  const known = others.get(tile);
  if (known) return known;
  const other = { ...tile, planes: tile.planes.map((p) => converted(p, encoded)), encoded };
  others.set(tile, other);
  return other;
}

/** @param compiled null for the plain form, which the compiled one is held against */
export function converted(
  plane: Float32Array,
  encode: boolean,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const out = plane.slice();
  if (!compiled) {
    if (encode) for (let i = 0; i < out.length; i++) out[i] = encodeOpen(out[i]);
    else decodePlane(out);
    return out;
  }
  compiled.borrow(() => {
    const at = compiled.take(4 * CHUNK);
    for (let from = 0; from < out.length; from += CHUNK) {
      const count = Math.min(CHUNK, out.length - from);
      compiled.floats(at, count).set(out.subarray(from, from + count));
      if (encode) compiled.encodeOpenPlane(at, count);
      else compiled.decodePlane(at, count, 1);
      out.set(compiled.floats(at, count), from);
    }
  });
  return out;
}
