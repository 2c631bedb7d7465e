// The last things that happen to pixels before they are seen.

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
