// The last things that happen to pixels before they are seen.
import { between4 } from './maths';

/** Draws a plane towards another by a share of what they differ, in place. */
export function drawTowards(plane: usize, other: usize, n: i32, share: f32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const v = v128.load(plane + o);
    v128.store(plane + o, f32x4.add(v, f32x4.mul(f32x4.splat(share), f32x4.sub(v128.load(other + o), v))));
  }
}

/** Sends a plane of encoded values, clipped to 0…1, through a table of `steps` steps, in place. */
export function brightenPlane(plane: usize, n: i32, table: usize, steps: f32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    const t = f32x4.mul(f32x4.max(zero, f32x4.min(one, v128.load(p))), f32x4.splat(steps));
    v128.store(p, between4(table, t));
  }
}

@inline
function code4(p: usize): v128 {
  const v = f32x4.nearest(f32x4.mul(v128.load(p), f32x4.splat(255)));
  return i32x4.max_s(i32x4.splat(0), i32x4.min_s(i32x4.splat(255), i32x4.trunc_sat_f32x4_s(v)));
}

/** Encoded planes as opaque bytes, red first, clipped and rounded; writes up to three pixels beyond the last. */
export function showPlanes(r: usize, g: usize, b: usize, n: i32, out: usize): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(
      out + o,
      v128.or(
        v128.or(code4(r + o), i32x4.shl(code4(g + o), 8)),
        v128.or(i32x4.shl(code4(b + o), 16), i32x4.splat(0xff000000)),
      ),
    );
  }
}
