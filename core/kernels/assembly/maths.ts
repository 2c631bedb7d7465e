// Elementary functions on four floats at once (Cephes single precision, Moshier 1989).

/** A table of floats at four places between its steps, from 0 to its last but one. */
@inline
export function between4(table: usize, at: v128): v128 {
  return along4(table, i32x4.trunc_sat_f32x4_s(at), at);
}

/** The lines that four steps `k` of a table of floats lie on, at four places. */
@inline
export function along4(table: usize, k: v128, at: v128): v128 {
  const off = i32x4.shl(k, 2);
  const ab = v128.load_lane<u64>(table + i32x4.extract_lane(off, 1), v128.load64_zero(table + i32x4.extract_lane(off, 0)), 1);
  const cd = v128.load_lane<u64>(table + i32x4.extract_lane(off, 3), v128.load64_zero(table + i32x4.extract_lane(off, 2)), 1);
  const low = v128.shuffle<i32>(ab, cd, 0, 2, 4, 6);
  const step = f32x4.sub(v128.shuffle<i32>(ab, cd, 1, 3, 5, 7), low);
  return f32x4.add(low, f32x4.mul(f32x4.sub(at, f32x4.convert_i32x4_s(k)), step));
}

@inline
export function exp4(x: v128): v128 {
  x = f32x4.pmax(f32x4.pmin(x, f32x4.splat(88.0)), f32x4.splat(-87.0));
  const n = f32x4.nearest(f32x4.mul(x, f32x4.splat(1.44269504088896)));
  const r = f32x4.sub(
    f32x4.sub(x, f32x4.mul(n, f32x4.splat(0.693359375))),
    f32x4.mul(n, f32x4.splat(-2.1219444e-4)),
  );
  let p = f32x4.splat(1.98756915e-4);
  p = f32x4.add(f32x4.mul(p, r), f32x4.splat(1.3981999507e-3));
  p = f32x4.add(f32x4.mul(p, r), f32x4.splat(8.3334519073e-3));
  p = f32x4.add(f32x4.mul(p, r), f32x4.splat(4.1665795894e-2));
  p = f32x4.add(f32x4.mul(p, r), f32x4.splat(1.6666665459e-1));
  p = f32x4.add(f32x4.mul(p, r), f32x4.splat(5.0000001201e-1));
  p = f32x4.add(f32x4.add(f32x4.mul(f32x4.mul(p, r), r), r), f32x4.splat(1));
  return f32x4.mul(p, i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(n), i32x4.splat(127)), 23));
}

/** Natural logarithm of positive floats. */
@inline
export function log4(x: v128): v128 {
  const bits = x;
  let e = f32x4.convert_i32x4_s(i32x4.sub(i32x4.shr_u(bits, 23), i32x4.splat(126)));
  // mantissa in [0.5, 1)
  let m = v128.or(v128.and(bits, i32x4.splat(0x007fffff)), i32x4.splat(0x3f000000));
  const small = f32x4.lt(m, f32x4.splat(0.70710678));
  e = f32x4.sub(e, v128.and(small, f32x4.splat(1)));
  m = f32x4.sub(f32x4.add(m, v128.and(small, m)), f32x4.splat(1));
  const z = f32x4.mul(m, m);
  let p = f32x4.splat(7.0376836292e-2);
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-1.151461031e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(1.1676998740e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-1.2420140846e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(1.4249322787e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-1.6668057665e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(2.0000714765e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-2.4999993993e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(3.3333331174e-1));
  let y = f32x4.mul(f32x4.mul(p, m), z);
  y = f32x4.add(y, f32x4.mul(e, f32x4.splat(-2.1219444e-4)));
  y = f32x4.sub(y, f32x4.mul(z, f32x4.splat(0.5)));
  return f32x4.add(f32x4.add(m, y), f32x4.mul(e, f32x4.splat(0.693359375)));
}
