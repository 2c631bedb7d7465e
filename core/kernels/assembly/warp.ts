// Lanczos-3 resampling of interleaved RGB codes into three planes of floats.
// `whole` holds for every phase of 1/1024 pixel 48 bytes: the six weights in Q14 as three pairs [a b a b a b 0 0] of 16 bits;
// `exact` holds 32 bytes: the six weights as floats.

const PHASES: f64 = 1024;
const PHASE_BITS: i32 = 10;
const PHASE_MASK: i32 = 1023;

// a byte beyond 15 gives 0: pairs of neighbours become 16-bit numbers side by side, R0 R1 G0 G1 B0 B1
const N: i8 = -128;

/** Six pixels of three bytes weighed; the last pair is taken from a load two bytes on. */
@inline
function row8(p: usize, w0: v128, w1: v128, w2: v128): v128 {
  const v = v128.load(p);
  const first = i8x16.swizzle(v, i8x16(0, N, 3, N, 1, N, 4, N, 2, N, 5, N, N, N, N, N));
  const second = i8x16.swizzle(v, i8x16(6, N, 9, N, 7, N, 10, N, 8, N, 11, N, N, N, N, N));
  const third = i8x16.swizzle(v128.load(p, 2), i8x16(10, N, 13, N, 11, N, 14, N, 12, N, 15, N, N, N, N, N));
  return f32x4.convert_i32x4_s(
    i32x4.add(
      i32x4.add(i32x4.dot_i16x8_s(first, w0), i32x4.dot_i16x8_s(second, w1)),
      i32x4.dot_i16x8_s(third, w2),
    ),
  );
}

@inline
function row16(p: usize, weights: usize): v128 {
  let s = f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p)), v128.load32_splat(weights));
  s = f32x4.add(s, f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p, 6)), v128.load32_splat(weights, 4)));
  s = f32x4.add(s, f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p, 12)), v128.load32_splat(weights, 8)));
  s = f32x4.add(s, f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p, 18)), v128.load32_splat(weights, 12)));
  s = f32x4.add(s, f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p, 24)), v128.load32_splat(weights, 16)));
  return f32x4.add(s, f32x4.mul(f32x4.convert_i32x4_u(v128.load_ext<u16>(p, 30)), v128.load32_splat(weights, 20)));
}

@inline
function row32(p: usize, weights: usize): v128 {
  let s = f32x4.mul(v128.load(p), v128.load32_splat(weights));
  s = f32x4.add(s, f32x4.mul(v128.load(p, 12), v128.load32_splat(weights, 4)));
  s = f32x4.add(s, f32x4.mul(v128.load(p, 24), v128.load32_splat(weights, 8)));
  s = f32x4.add(s, f32x4.mul(v128.load(p, 36), v128.load32_splat(weights, 12)));
  s = f32x4.add(s, f32x4.mul(v128.load(p, 48), v128.load32_splat(weights, 16)));
  return f32x4.add(s, f32x4.mul(v128.load(p, 60), v128.load32_splat(weights, 20)));
}

/** One pixel next to a border: every tap clamped. */
function edgePixel(
  src: usize, w: i32, h: i32, firstRow: i32, firstColumn: i32, bytes: i32, stride: usize,
  ix: i32, iy: i32, wx: usize, wy: usize,
): v128 {
  let r: f32 = 0, g: f32 = 0, b: f32 = 0;
  for (let t = 0; t < 6; t++) {
    const y = max<i32>(0, min<i32>(h - 1, iy - 2 + t)) - firstRow;
    const c = load<f32>(wy + (<usize>t << 2));
    for (let s = 0; s < 6; s++) {
      const x = max<i32>(0, min<i32>(w - 1, ix - 2 + s));
      const f = c * load<f32>(wx + (<usize>s << 2));
      const p = src + <usize>y * stride + <usize>(x - firstColumn) * 3 * <usize>bytes;
      if (bytes == 1) {
        r += f * <f32>load<u8>(p);
        g += f * <f32>load<u8>(p, 1);
        b += f * <f32>load<u8>(p, 2);
      } else if (bytes == 2) {
        r += f * <f32>load<u16>(p);
        g += f * <f32>load<u16>(p, 2);
        b += f * <f32>load<u16>(p, 4);
      } else {
        r += f * load<f32>(p);
        g += f * load<f32>(p, 4);
        b += f * load<f32>(p, 8);
      }
    }
  }
  return f32x4(r, g, b, 0);
}

/** The codes of one pixel as floats. */
@inline
function codesAt(p: usize, bytes: i32): v128 {
  return bytes == 1
    ? f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p))))
    : bytes == 2
      ? f32x4.convert_i32x4_u(v128.load_ext<u16>(p))
      : v128.load(p);
}

/** The pixel that lies nearest to a place on the source. */
@inline
function nearestPixel(
  src: usize, firstRow: i32, firstColumn: i32, bytes: i32, stride: usize, place: v128, plain: v128,
): v128 {
  const q = i32x4.trunc_sat_f64x2_s_zero(f64x2.add(place, f64x2.splat(0.5)));
  const row = src + <usize>(i32x4.extract_lane(q, 1) - firstRow) * stride;
  const at = row + <usize>(i32x4.extract_lane(q, 0) - firstColumn) * 3 * <usize>bytes;
  return f32x4.mul(codesAt(at, bytes), plain);
}

/** One pixel of a source. @param place both coordinates, within the source */
@inline
function pixelAt(
  src: usize, w: i32, h: i32, firstRow: i32, firstColumn: i32, bytes: i32, stride: usize, whole: usize, exact: usize,
  place: v128, unit: v128, plain: v128,
): v128 {
  const q = i32x4.trunc_sat_f64x2_s_zero(f64x2.add(f64x2.mul(place, f64x2.splat(PHASES)), f64x2.splat(0.5)));
  const qx = i32x4.extract_lane(q, 0), qy = i32x4.extract_lane(q, 1);
  const ix = qx >> PHASE_BITS, iy = qy >> PHASE_BITS;
  const px = <usize>(qx & PHASE_MASK);
  const wy = exact + (<usize>(qy & PHASE_MASK) << 5);
  let v: v128;
  if (<u32>(ix - 2) < <u32>max<i32>(0, w - 5) && <u32>(iy - 2) < <u32>max<i32>(0, h - 5)) {
    const p = src + <usize>(iy - 2 - firstRow) * stride + <usize>(ix - 2 - firstColumn) * 3 * <usize>bytes;
    if (bytes == 1) {
      const wx = whole + px * 48;
      const w0 = v128.load(wx), w1 = v128.load(wx, 16), w2 = v128.load(wx, 32);
      v = f32x4.mul(row8(p, w0, w1, w2), v128.load32_splat(wy));
      v = f32x4.add(v, f32x4.mul(row8(p + stride, w0, w1, w2), v128.load32_splat(wy, 4)));
      v = f32x4.add(v, f32x4.mul(row8(p + 2 * stride, w0, w1, w2), v128.load32_splat(wy, 8)));
      v = f32x4.add(v, f32x4.mul(row8(p + 3 * stride, w0, w1, w2), v128.load32_splat(wy, 12)));
      v = f32x4.add(v, f32x4.mul(row8(p + 4 * stride, w0, w1, w2), v128.load32_splat(wy, 16)));
      v = f32x4.add(v, f32x4.mul(row8(p + 5 * stride, w0, w1, w2), v128.load32_splat(wy, 20)));
    } else if (bytes == 2) {
      const wx = exact + (px << 5);
      v = f32x4.mul(row16(p, wx), v128.load32_splat(wy));
      v = f32x4.add(v, f32x4.mul(row16(p + stride, wx), v128.load32_splat(wy, 4)));
      v = f32x4.add(v, f32x4.mul(row16(p + 2 * stride, wx), v128.load32_splat(wy, 8)));
      v = f32x4.add(v, f32x4.mul(row16(p + 3 * stride, wx), v128.load32_splat(wy, 12)));
      v = f32x4.add(v, f32x4.mul(row16(p + 4 * stride, wx), v128.load32_splat(wy, 16)));
      v = f32x4.add(v, f32x4.mul(row16(p + 5 * stride, wx), v128.load32_splat(wy, 20)));
    } else {
      const wx = exact + (px << 5);
      v = f32x4.mul(row32(p, wx), v128.load32_splat(wy));
      v = f32x4.add(v, f32x4.mul(row32(p + stride, wx), v128.load32_splat(wy, 4)));
      v = f32x4.add(v, f32x4.mul(row32(p + 2 * stride, wx), v128.load32_splat(wy, 8)));
      v = f32x4.add(v, f32x4.mul(row32(p + 3 * stride, wx), v128.load32_splat(wy, 12)));
      v = f32x4.add(v, f32x4.mul(row32(p + 4 * stride, wx), v128.load32_splat(wy, 16)));
      v = f32x4.add(v, f32x4.mul(row32(p + 5 * stride, wx), v128.load32_splat(wy, 20)));
    }
    v = f32x4.mul(v, unit);
  } else v = f32x4.mul(edgePixel(src, w, h, firstRow, firstColumn, bytes, stride, ix, iy, exact + (px << 5), wy), plain);
  return v;
}

/**
 * @param src `columns` of a source of w × h from its row `firstRow` and column `firstColumn` on, `bytes` a sample (1, 2, or 4 for floats), 16 bytes of slack after the last
 * @param dst three planes of `outW * rows`, `plane` bytes apart; the output's first pixel is (x0, y0)
 * @param scale of the codes: 1 / white
 */
export function warpLanczos(
  src: usize, w: i32, h: i32, firstRow: i32, firstColumn: i32, columns: i32, bytes: i32, whole: usize, exact: usize,
  dst: usize, plane: usize, outW: i32, rows: i32, x0: f64, y0: f64, scale: f32,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  const zero = f64x2.splat(0), most = f64x2(<f64>(w - 1), <f64>(h - 1));
  const stride = <usize>columns * 3 * <usize>bytes;
  const unit = f32x4.splat(bytes == 1 ? scale / 16384 : scale);
  const plain = f32x4.splat(scale);
  const along = f64x2(m0, m3), down = f64x2(m1, m4), from = f64x2(m2, m5);
  const even = m6 == 0 && m7 == 0;
  let o = dst;
  for (let y = 0; y < rows; y++) {
    const Y = <f64>y + y0;
    const line = f64x2.add(f64x2.mul(down, f64x2.splat(Y)), from);
    const dy = m7 * Y + m8;
    let d = 1.0 / dy;
    for (let x = 0; x < outW; x++) {
      const X = <f64>x + x0;
      if (!even) d = 1.0 / (m6 * X + dy);
      const there = f64x2.mul(f64x2.add(f64x2.mul(along, f64x2.splat(X)), line), f64x2.splat(d));
      // no number becomes 0
      const place = f64x2.pmin(most, f64x2.pmax(zero, there));
      const v = pixelAt(src, w, h, firstRow, firstColumn, bytes, stride, whole, exact, place, unit, plain);
      v128.store32_lane(o, v, 0);
      v128.store32_lane(o + plane, v, 1);
      v128.store32_lane(o + 2 * plane, v, 2);
      o += 4;
    }
  }
}

/** The same linearly between four pixels, for a source of two rows and columns and more. */
export function warpBilinear(
  src: usize, w: i32, h: i32, firstRow: i32, firstColumn: i32, columns: i32, bytes: i32,
  dst: usize, plane: usize, outW: i32, rows: i32, x0: f64, y0: f64, scale: f32,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  const zero = f64x2.splat(0), most = f64x2(<f64>(w - 1), <f64>(h - 1));
  const last = i32x4(w - 2, h - 2, 0, 0);
  const step = <usize>bytes * 3;
  const stride = <usize>columns * step;
  const unit = f32x4.splat(scale);
  const along = f64x2(m0, m3), down = f64x2(m1, m4), from = f64x2(m2, m5);
  const even = m6 == 0 && m7 == 0;
  let o = dst;
  for (let y = 0; y < rows; y++) {
    const Y = <f64>y + y0;
    const line = f64x2.add(f64x2.mul(down, f64x2.splat(Y)), from);
    const dy = m7 * Y + m8;
    let d = 1.0 / dy;
    for (let x = 0; x < outW; x++, o += 4) {
      const X = <f64>x + x0;
      if (!even) d = 1.0 / (m6 * X + dy);
      const there = f64x2.mul(f64x2.add(f64x2.mul(along, f64x2.splat(X)), line), f64x2.splat(d));
      const place = f64x2.pmin(most, f64x2.pmax(zero, there));
      const q = i32x4.min_s(last, i32x4.trunc_sat_f64x2_s_zero(place));
      const f = f32x4.demote_f64x2_zero(f64x2.sub(place, f64x2.convert_low_i32x4_s(q)));
      const fx = v128.shuffle<f32>(f, f, 0, 0, 0, 0), fy = v128.shuffle<f32>(f, f, 1, 1, 1, 1);
      const p = src + <usize>(i32x4.extract_lane(q, 1) - firstRow) * stride + <usize>(i32x4.extract_lane(q, 0) - firstColumn) * step;
      const a = codesAt(p, bytes), b = codesAt(p + step, bytes);
      const c = codesAt(p + stride, bytes), e = codesAt(p + stride + step, bytes);
      const top = f32x4.add(a, f32x4.mul(fx, f32x4.sub(b, a)));
      const bottom = f32x4.add(c, f32x4.mul(fx, f32x4.sub(e, c)));
      const v = f32x4.mul(unit, f32x4.add(top, f32x4.mul(fy, f32x4.sub(bottom, top))));
      v128.store32_lane(o, v, 0);
      v128.store32_lane(o + plane, v, 1);
      v128.store32_lane(o + 2 * plane, v, 2);
    }
  }
}

/**
 * Resamples by a grid of places: the map is given every `cell` pixels and runs straight between.
 * @param grid pairs (u, v) of doubles in `gridW` columns; not a number where there is none
 * @param inside distance within the source's border for each pixel, negative outside; nothing is drawn beyond `slack`
 */
export function warpGrid(
  src: usize, w: i32, h: i32, firstRow: i32, firstColumn: i32, columns: i32, bytes: i32, whole: usize, exact: usize,
  dst: usize, plane: usize, outW: i32, rows: i32, grid: usize, gridW: i32, cell: i32, scale: f32, inside: usize, slack: f32,
): void {
  const zero = f64x2.splat(0), most = f64x2(<f64>(w - 1), <f64>(h - 1));
  const stride = <usize>columns * 3 * <usize>bytes;
  const unit = f32x4.splat(bytes == 1 ? scale / 16384 : scale);
  const plain = f32x4.splat(scale);
  const share = 1.0 / <f64>cell;
  const line = <usize>gridW << 4;
  let o: usize = 0;
  for (let y = 0; y < rows; y++) {
    const j = y / cell;
    const fy = f64x2.splat(<f64>(y - j * cell) * share);
    let p = grid + <usize>j * line;
    for (let x = 0; x < outW; x += cell, p += 16) {
      const left = v128.load(p), right = v128.load(p, 16);
      const above = f64x2.sub(right, left);
      const under = v128.load(p + line);
      const below = f64x2.sub(v128.load(p + line, 16), under);
      const end = min<i32>(cell, outW - x);
      for (let i = 0; i < end; i++, o += 4) {
        const fx = f64x2.splat(<f64>i * share);
        const t = f64x2.add(left, f64x2.mul(fx, above));
        const there = f64x2.add(t, f64x2.mul(fy, f64x2.sub(f64x2.add(under, f64x2.mul(fx, below)), t)));
        const inner = f64x2.pmin(there, f64x2.sub(most, there));
        const u = f64x2.extract_lane(inner, 0), v = f64x2.extract_lane(inner, 1);
        const border = <f32>(u < v ? u : v);
        if (border >= slack) {
          store<f32>(inside + o, border);
          const place = f64x2.pmin(most, f64x2.pmax(zero, there));
          // beyond the border its pixels are continued as they are
          const c =
            border < 0
              ? nearestPixel(src, firstRow, firstColumn, bytes, stride, place, plain)
              : pixelAt(src, w, h, firstRow, firstColumn, bytes, stride, whole, exact, place, unit, plain);
          v128.store32_lane(dst + o, c, 0);
          v128.store32_lane(dst + plane + o, c, 1);
          v128.store32_lane(dst + 2 * plane + o, c, 2);
        } else {
          store<f32>(inside + o, border == border ? border : -1e6);
          store<f32>(dst + o, 0);
          store<f32>(dst + plane + o, 0);
          store<f32>(dst + 2 * plane + o, 0);
        }
      }
    }
  }
}

/** Copies interleaved codes into three planes without resampling. */
export function splitPlanes(src: usize, bytes: i32, n: i32, dst: usize, plane: usize, scale: f32): void {
  const step = <usize>bytes * 3;
  const unit = f32x4.splat(scale);
  for (let i = 0; i < n; i++) {
    const codes = codesAt(src, bytes);
    const v = f32x4.mul(codes, unit);
    v128.store32_lane(dst, v, 0);
    v128.store32_lane(dst + plane, v, 1);
    v128.store32_lane(dst + 2 * plane, v, 2);
    src += step;
    dst += 4;
  }
}
