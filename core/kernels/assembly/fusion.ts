// Weights of exposure fusion (Mertens, Kautz & Van Reeth 2007) and the bookkeeping around them.
import { exp4, log4 } from './maths';

/** Grey of three planes: 0.299 R + 0.587 G + 0.114 B. */
function greyPlane(planes: usize, plane: usize, n: i32, out: usize): void {
  const end = <usize>n << 2;
  for (let o: usize = 0; o < end; o += 16)
    v128.store(
      out + o,
      f32x4.add(
        f32x4.add(
          f32x4.mul(v128.load(planes + o), f32x4.splat(0.299)),
          f32x4.mul(v128.load(planes + plane + o), f32x4.splat(0.587)),
        ),
        f32x4.mul(v128.load(planes + 2 * plane + o), f32x4.splat(0.114)),
      ),
    );
}

@inline
function power(v: v128, exponent: f32): v128 {
  if (exponent == 1) return v;
  if (exponent == 0) return f32x4.splat(1);
  return exp4(f32x4.mul(log4(f32x4.pmax(v, f32x4.splat(1e-30))), f32x4.splat(exponent)));
}

@inline
function quality(r: v128, g: v128, b: v128, laplacian: v128, contrast: f32, saturation: f32, narrow: f32): v128 {
  const third = f32x4.splat(1.0 / 3.0), half = f32x4.splat(0.5);
  const mean = f32x4.mul(f32x4.add(f32x4.add(r, g), b), third);
  const dr = f32x4.sub(r, mean), dg = f32x4.sub(g, mean), db = f32x4.sub(b, mean);
  const s = f32x4.sqrt(f32x4.add(f32x4.add(f32x4.mul(dr, dr), f32x4.mul(dg, dg)), f32x4.mul(db, db)));
  const er = f32x4.sub(r, half), eg = f32x4.sub(g, half), eb = f32x4.sub(b, half);
  const squares = f32x4.add(f32x4.add(f32x4.mul(er, er), f32x4.mul(eg, eg)), f32x4.mul(eb, eb));
  const e = exp4(f32x4.mul(squares, f32x4.splat(narrow)));
  const c = power(f32x4.abs(laplacian), contrast);
  return f32x4.add(f32x4.mul(f32x4.mul(c, power(s, saturation)), e), f32x4.splat(1e-12));
}

@inline
function one(p: usize): v128 {
  return v128.load32_splat(p);
}

/**
 * Weights of one frame. @param planes R, G, B, `plane` bytes apart
 * @param grey scratch of the same size, 16 bytes of slack
 * @param narrow −exposedness / (2 · 0.2²)
 */
export function mertensWeights(
  planes: usize, plane: usize, w: i32, h: i32, contrast: f32, saturation: f32, narrow: f32, grey: usize, out: usize,
): void {
  greyPlane(planes, plane, w * h, grey);
  const stride = <usize>w << 2;
  const four = f32x4.splat(4);
  for (let y = 0; y < h; y++) {
    const at = <usize>y * stride;
    const up = y > 0 ? at - stride : h > 1 ? at + stride : at;
    const down = y + 1 < h ? at + stride : h > 1 ? at - stride : at;
    for (let x = 0; x < w; x++) {
      const o = <usize>x << 2;
      if (x > 0 && x + 5 <= w) {
        // four at once, neighbours on both sides inside
        const c = grey + at + o;
        const lap = f32x4.sub(
          f32x4.add(
            f32x4.add(v128.load(grey + up + o), v128.load(grey + down + o)),
            f32x4.add(v128.load(c - 4), v128.load(c, 4)),
          ),
          f32x4.mul(v128.load(c), four),
        );
        const p = planes + at + o;
        v128.store(
          out + at + o,
          quality(v128.load(p), v128.load(p + plane), v128.load(p + 2 * plane), lap, contrast, saturation, narrow),
        );
        x += 3;
        continue;
      }
      const left = x > 0 ? o - 4 : w > 1 ? o + 4 : o;
      const right = x + 1 < w ? o + 4 : w > 1 ? o - 4 : o;
      const c = grey + at;
      const lap =
        load<f32>(grey + up + o) + load<f32>(grey + down + o) + load<f32>(c + left) + load<f32>(c + right) - 4 * load<f32>(c + o);
      const p = planes + at + o;
      v128.store32_lane(
        out + at + o,
        quality(one(p), one(p + plane), one(p + 2 * plane), f32x4.splat(lap), contrast, saturation, narrow),
        0,
      );
    }
  }
}

/** Fades one weight by how far inside its source it lies. @returns false where it lies so well inside that it stays */
@inline
function featherAt(
  p: usize, X: f64, Y: f64, maxX: f64, maxY: f64, feather: f64,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): bool {
  const d = 1.0 / (m6 * X + m7 * Y + m8);
  const u = (m0 * X + m1 * Y + m2) * d, v = (m3 * X + m4 * Y + m5) * d;
  const inside = min<f64>(min<f64>(u, maxX - u), min<f64>(v, maxY - v));
  if (!(d > 0) || inside < -1e-6) store<f32>(p, 0);
  else if (inside + 0.5 < feather) store<f32>(p, load<f32>(p) * <f32>((inside + 0.5) / feather));
  else return false;
  return true;
}

/** Multiplies weights by how far inside its source each pixel lies: 0 outside, rising to 1 at `feather` pixels. */
export function featherWeights(
  weight: usize, outW: i32, rows: i32, x0: f64, y0: f64, maxX: f64, maxY: f64, feather: f64,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  for (let y = 0; y < rows; y++) {
    const Y = <f64>y + y0;
    const row = weight + ((<usize>y * <usize>outW) << 2);
    // what lies well inside is one stretch of a row, as straight lines stay straight: from either end up to it
    let x = 0;
    while (x < outW && featherAt(row + (<usize>x << 2), <f64>x + x0, Y, maxX, maxY, feather, m0, m1, m2, m3, m4, m5, m6, m7, m8)) x++;
    let end = outW - 1;
    while (end > x && featherAt(row + (<usize>end << 2), <f64>end + x0, Y, maxX, maxY, feather, m0, m1, m2, m3, m4, m5, m6, m7, m8)) end--;
  }
}

/** Divides the weights of all frames by their sum; where it is 0 the first frame takes the pixel. @param list addresses, 4 bytes each */
export function normaliseAll(list: usize, frames: i32, n: i32): void {
  const end = <usize>n << 2;
  const zero = f32x4.splat(0), unit = f32x4.splat(1);
  const first = <usize>load<u32>(list);
  for (let o: usize = 0; o < end; o += 16) {
    let sum = zero;
    for (let f = 0; f < frames; f++) sum = f32x4.add(sum, v128.load(<usize>load<u32>(list + (<usize>f << 2)) + o));
    const some = f32x4.gt(sum, zero);
    const inverse = v128.and(some, f32x4.div(unit, sum));
    for (let f = 0; f < frames; f++) {
      const p = <usize>load<u32>(list + (<usize>f << 2)) + o;
      v128.store(p, f32x4.mul(v128.load(p), inverse));
    }
    v128.store(first + o, v128.bitselect(v128.load(first + o), unit, some));
  }
}

/** A plane of 0…1 as bytes. */
export function toBytes(src: usize, n: i32, dst: usize): void {
  const scale = f32x4.splat(255);
  for (let i = 0; i < n; i += 4) {
    const v = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(src + (<usize>i << 2)), scale)));
    const b = u8x16Narrow(v);
    v128.store32_lane(dst + <usize>i, b, 0);
  }
}

@inline
function u8x16Narrow(v: v128): v128 {
  const s = i16x8.narrow_i32x4_s(v, v);
  return i8x16.narrow_i16x8_u(s, s);
}

/** Three planes as interleaved 16-bit codes; a pixel beyond white is scaled back to it, so that its hue stays. */
export function toCodes16(planes: usize, plane: usize, n: i32, dst: usize): void {
  const white = f32x4.splat(65535), half = f32x4.splat(0.5), zero = f32x4.splat(0);
  for (let i = 0; i < n; i++) {
    const p = planes + (<usize>i << 2);
    const r = load<f32>(p), g = load<f32>(p + plane), b = load<f32>(p + 2 * plane);
    let v = f32x4(r, g, b, 0);
    const most = max<f32>(r, max<f32>(g, b));
    if (most > 1) v = f32x4.mul(v, f32x4.splat(1 / most));
    v = f32x4.pmin(white, f32x4.pmax(zero, f32x4.add(f32x4.mul(v, white), half)));
    const c = i32x4.trunc_sat_f32x4_u(v);
    const q = dst + <usize>i * 6;
    store<u16>(q, <u16>i32x4.extract_lane(c, 0));
    store<u16>(q, <u16>i32x4.extract_lane(c, 1), 2);
    store<u16>(q, <u16>i32x4.extract_lane(c, 2), 4);
  }
}

/**
 * Rows of pixels out of a plane of cells `scale` pixels wide, linearly between their middles, plus `least`.
 * @param cells rows `first` … of a grid of w × h @param line room for w + 4 floats
 */
export function spreadCellRows(
  cells: usize, w: i32, h: i32, first: i32, scale: f32, x0: i32, y0: i32, outW: i32, rows: i32, least: f32, line: usize, out: usize,
): void {
  const stride = <usize>w << 2;
  const inverse: f32 = 1 / scale;
  const lastColumn = <f32>(w - 1), lastRow = <f32>(h - 1);
  for (let y = 0; y < rows; y++) {
    const v = min<f32>(lastRow, max<f32>(0, (<f32>(y + y0) + 0.5) * inverse - 0.5));
    const above = <i32>v;
    const p = cells + <usize>(above - first) * stride;
    const q = cells + <usize>(min<i32>(h - 1, above + 1) - first) * stride;
    const fy = f32x4.splat(v - <f32>above), base = f32x4.splat(least);
    for (let x = 0; x < w; x += 4) {
      const o = <usize>x << 2;
      const a = v128.load(p + o);
      v128.store(line + o, f32x4.add(base, f32x4.add(a, f32x4.mul(fy, f32x4.sub(v128.load(q + o), a)))));
    }
    // so that the last cell has a neighbour
    store<f32>(line + stride, load<f32>(line + stride - 4));
    let to = out + (<usize>(y * outW) << 2);
    for (let x = 0; x < outW; x++, to += 4) {
      const u = (<f32>(x + x0) + 0.5) * inverse - 0.5;
      const c = u > 0 ? (u < lastColumn ? u : lastColumn) : 0;
      const k = <i32>c;
      const at = line + (<usize>k << 2);
      const left = load<f32>(at);
      store<f32>(to, left + (c - <f32>k) * (load<f32>(at, 4) - left));
    }
  }
}
