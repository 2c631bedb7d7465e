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

/** Three planes, `plane` bytes apart, as interleaved codes 0…white of 1 or 2 bytes, clipped and rounded. */
export function layCodes(planes: usize, plane: usize, n: i32, white: f64, bytes: i32, out: usize): void {
  for (let c = 0; c < 3; c++) {
    const from = planes + <usize>c * plane;
    const to = out + <usize>(c * bytes);
    if (bytes == 1)
      for (let i = 0; i < n; i++) store<u8>(to + <usize>(3 * i), code(load<f32>(from + (<usize>i << 2)), white));
    else
      for (let i = 0; i < n; i++) store<u16>(to + <usize>(6 * i), code(load<f32>(from + (<usize>i << 2)), white));
  }
}

@inline
function code(v: f32, white: f64): i32 {
  // what is no number is black
  return i32(<f64>(v > 0 ? (v < 1 ? v : <f32>1) : <f32>0) * white + 0.5);
}
