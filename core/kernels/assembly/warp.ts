// Lanczos-3 resampling of interleaved RGB codes into three planes of floats.
// `whole` holds for every phase of 1/1024 pixel 48 bytes: the six weights in Q14 as three pairs [a b a b a b 0 0] of 16 bits;
// `exact` holds 32 bytes: the six weights as floats.

const PHASES: f64 = 1024;

@inline
function row8(p: usize, w0: v128, w1: v128, w2: v128): v128 {
  const v = v128.load(p);
  const u = v128.load(p, 2);
  // six pixels of three bytes; pairs of neighbours side by side: R0 R1 G0 G1 B0 B1 · · | R2 R3 G2 G3 B2 B3 · ·
  const ab = v128.shuffle<u8>(v, u, 0, 3, 1, 4, 2, 5, 0, 0, 6, 9, 7, 10, 8, 11, 0, 0);
  // bytes 12…17: the last pair; byte k of u is byte k + 2
  const c = v128.shuffle<u8>(v, u, 12, 15, 13, 30, 14, 31, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);
  const s = i32x4.add(
    i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(ab), w0),
    i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(ab), w1),
  );
  return f32x4.convert_i32x4_s(
    i32x4.add(s, i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(c), w2)),
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
  src: usize, w: i32, h: i32, firstRow: i32, bytes: i32, ix: i32, iy: i32, wx: usize, wy: usize,
): v128 {
  let r: f32 = 0, g: f32 = 0, b: f32 = 0;
  for (let t = 0; t < 6; t++) {
    const y = max<i32>(0, min<i32>(h - 1, iy - 2 + t)) - firstRow;
    const c = load<f32>(wy + (<usize>t << 2));
    for (let s = 0; s < 6; s++) {
      const x = max<i32>(0, min<i32>(w - 1, ix - 2 + s));
      const f = c * load<f32>(wx + (<usize>s << 2));
      const p = src + (<usize>(y * w + x)) * 3 * <usize>bytes;
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

/** One pixel of a source at (sx, sy), which lies on it. */
@inline
function pixelAt(
  src: usize, w: i32, h: i32, firstRow: i32, bytes: i32, stride: usize, whole: usize, exact: usize,
  sx: f64, sy: f64, unit: v128, plain: v128,
): v128 {
  const ix = <i32>sx, iy = <i32>sy;
  const px = <usize>((sx - <f64>ix) * PHASES + 0.5);
  const wy = exact + (<usize>((sy - <f64>iy) * PHASES + 0.5) << 5);
  let v: v128;
  if (ix >= 2 && iy >= 2 && ix < w - 3 && iy < h - 3) {
    const p = src + <usize>(iy - 2 - firstRow) * stride + <usize>(ix - 2) * 3 * <usize>bytes;
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
  } else v = f32x4.mul(edgePixel(src, w, h, firstRow, bytes, ix, iy, exact + (px << 5), wy), plain);
  return v;
}

/**
 * @param src rows `firstRow` … of a source of w × h, `bytes` a sample (1, 2, or 4 for floats), 16 bytes of slack after the last
 * @param dst three planes of `outW * rows`, `plane` bytes apart; the output's first pixel is (x0, y0)
 * @param scale of the codes: 1 / white
 */
export function warpLanczos(
  src: usize, w: i32, h: i32, firstRow: i32, bytes: i32, whole: usize, exact: usize,
  dst: usize, plane: usize, outW: i32, rows: i32, x0: f64, y0: f64, scale: f32,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  const maxX = <f64>(w - 1), maxY = <f64>(h - 1);
  const stride = <usize>w * 3 * <usize>bytes;
  const unit = f32x4.splat(bytes == 1 ? scale / 16384 : scale);
  const plain = f32x4.splat(scale);
  let o = dst;
  for (let y = 0; y < rows; y++) {
    const Y = <f64>y + y0;
    const ny = m1 * Y + m2, my = m4 * Y + m5, dy = m7 * Y + m8;
    for (let x = 0; x < outW; x++) {
      const X = <f64>x + x0;
      const d = 1.0 / (m6 * X + dy);
      const sx = min<f64>(maxX, max<f64>(0, (m0 * X + ny) * d));
      const sy = min<f64>(maxY, max<f64>(0, (m3 * X + my) * d));
      const v = pixelAt(src, w, h, firstRow, bytes, stride, whole, exact, sx, sy, unit, plain);
      v128.store32_lane(o, v, 0);
      v128.store32_lane(o + plane, v, 1);
      v128.store32_lane(o + 2 * plane, v, 2);
      o += 4;
    }
  }
}

/**
 * Resamples by a grid of places: the map is given every `cell` pixels and runs straight between.
 * @param grid pairs (u, v) of doubles in `gridW` columns; not a number where there is none
 * @param inside distance within the source's border for each pixel, negative outside; nothing is drawn beyond `slack`
 */
export function warpGrid(
  src: usize, w: i32, h: i32, firstRow: i32, bytes: i32, whole: usize, exact: usize,
  dst: usize, plane: usize, outW: i32, rows: i32, grid: usize, gridW: i32, cell: i32, scale: f32, inside: usize, slack: f32,
): void {
  const maxX = <f64>(w - 1), maxY = <f64>(h - 1);
  const stride = <usize>w * 3 * <usize>bytes;
  const unit = f32x4.splat(bytes == 1 ? scale / 16384 : scale);
  const plain = f32x4.splat(scale);
  const share = 1.0 / <f64>cell;
  const line = <usize>gridW << 4;
  let o: usize = 0;
  for (let y = 0; y < rows; y++) {
    const j = y / cell;
    const fy = <f64>(y - j * cell) * share;
    for (let x = 0; x < outW; x++) {
      const i = x / cell;
      const fx = <f64>(x - i * cell) * share;
      const p = grid + <usize>j * line + (<usize>i << 4);
      const au = load<f64>(p), av = load<f64>(p, 8);
      const bu = load<f64>(p + line), bv = load<f64>(p + line, 8);
      const tu = au + fx * (load<f64>(p, 16) - au), tv = av + fx * (load<f64>(p, 24) - av);
      const du = bu + fx * (load<f64>(p + line, 16) - bu), dv = bv + fx * (load<f64>(p + line, 24) - bv);
      const u = tu + fy * (du - tu), v = tv + fy * (dv - tv);
      const border = <f32>min<f64>(min<f64>(u, v), min<f64>(maxX - u, maxY - v));
      if (border >= slack) {
        store<f32>(inside + o, border);
        const sx = min<f64>(maxX, max<f64>(0, u)), sy = min<f64>(maxY, max<f64>(0, v));
        const c = pixelAt(src, w, h, firstRow, bytes, stride, whole, exact, sx, sy, unit, plain);
        v128.store32_lane(dst + o, c, 0);
        v128.store32_lane(dst + plane + o, c, 1);
        v128.store32_lane(dst + 2 * plane + o, c, 2);
      } else {
        store<f32>(inside + o, border == border ? border : -1e6);
        store<f32>(dst + o, 0);
        store<f32>(dst + plane + o, 0);
        store<f32>(dst + 2 * plane + o, 0);
      }
      o += 4;
    }
  }
}

/** Copies interleaved codes into three planes without resampling. */
export function splitPlanes(src: usize, bytes: i32, n: i32, dst: usize, plane: usize, scale: f32): void {
  const step = <usize>bytes * 3;
  const unit = f32x4.splat(scale);
  for (let i = 0; i < n; i++) {
    const codes =
      bytes == 1
        ? f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(src))))
        : bytes == 2
          ? f32x4.convert_i32x4_u(v128.load_ext<u16>(src))
          : v128.load(src);
    const v = f32x4.mul(codes, unit);
    v128.store32_lane(dst, v, 0);
    v128.store32_lane(dst + plane, v, 1);
    v128.store32_lane(dst + 2 * plane, v, 2);
    src += step;
    dst += 4;
  }
}
