// Masks: shapes, ranges, how parts join, and reading one that was made on a coarser grid.

/** 3t² − 2t³ between 0 and 1. */
@inline
function smoothStep4(t: v128): v128 {
  const s = f32x4.pmax(f32x4.pmin(t, f32x4.splat(1)), f32x4.splat(0));
  return f32x4.mul(f32x4.mul(s, s), f32x4.sub(f32x4.splat(3), f32x4.add(s, s)));
}

/** 0, 1, 2, 3 from a place on. */
@inline
function counted(from: i32): v128 {
  return f32x4.convert_i32x4_s(i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3)));
}

/** Joins a part to a mask in place: added, m + (1 − m)·p, or kept to, m·p, where p is offset + gain · part. */
export function joinPlane(mask: usize, part: usize, n: i32, adds: i32, gain: f32, offset: f32): void {
  const g = f32x4.splat(gain), o = f32x4.splat(offset), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const at = <usize>i << 2;
    const m = v128.load(mask + at);
    const p = f32x4.add(o, f32x4.mul(g, v128.load(part + at)));
    v128.store(mask + at, adds ? f32x4.add(m, f32x4.mul(f32x4.sub(one, m), p)) : f32x4.mul(m, p));
  }
}

/** How well values lie in a range, in place: 1 inside, falling as a smooth step beyond its ends, `perSoft` a unit. */
export function rangePlane(plane: usize, n: i32, from: f32, to: f32, perSoft: f32): void {
  const low = f32x4.splat(from), high = f32x4.splat(to), per = f32x4.splat(perSoft), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    const v = v128.load(p);
    const inside = f32x4.pmin(f32x4.sub(v, low), f32x4.sub(high, v));
    v128.store(p, smoothStep4(f32x4.add(f32x4.mul(inside, per), one)));
  }
}

/**
 * An ellipse on a grid: where (u, v) lies in the unit circle. Rows of `stride` floats, a multiple of 4.
 * @param u0 at the first pixel; `ux` a column further, `uy` a row; `v` alike
 */
export function ellipsePlane(out: usize, w: i32, h: i32, stride: i32, u0: f64, ux: f64, uy: f64, v0: f64, vx: f64, vy: f64, outer: f32, perFade: f32): void {
  const edge = f32x4.splat(outer), per = f32x4.splat(perFade);
  const stepU = f32x4.splat(<f32>ux), stepV = f32x4.splat(<f32>vx);
  for (let y = 0; y < h; y++) {
    const startU = f32x4.splat(<f32>(u0 + uy * y)), startV = f32x4.splat(<f32>(v0 + vy * y));
    const row = out + (<usize>(y * stride) << 2);
    for (let x = 0; x < w; x += 4) {
      const i = counted(x);
      const u = f32x4.add(startU, f32x4.mul(stepU, i)), v = f32x4.add(startV, f32x4.mul(stepV, i));
      const radius = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)));
      v128.store(row + (<usize>x << 2), smoothStep4(f32x4.mul(f32x4.sub(edge, radius), per)));
    }
  }
}

/** A fade on a grid: smooth steps of what is `first` at the first pixel, `across` more a column and `down` more a row. */
export function fadePlane(out: usize, w: i32, h: i32, stride: i32, first: f64, across: f64, down: f64): void {
  const step = f32x4.splat(<f32>across);
  for (let y = 0; y < h; y++) {
    const start = f32x4.splat(<f32>(first + down * y));
    const row = out + (<usize>(y * stride) << 2);
    for (let x = 0; x < w; x += 4)
      v128.store(row + (<usize>x << 2), smoothStep4(f32x4.add(start, f32x4.mul(step, counted(x)))));
  }
}

/** Reads a row between its pixels: those before each place and the share of the next. */
function readRow(row: usize, columns: usize, shares: usize, w: i32, last: i32, out: usize): void {
  for (let x = 0; x < w; x++) {
    const o = <usize>x << 2;
    const c = load<i32>(columns + o);
    const a = load<f32>(row + (<usize>c << 2));
    const b = load<f32>(row + (<usize>min(c + 1, last) << 2));
    store<f32>(out + o, a + load<f32>(shares + o) * (b - a));
  }
}

/**
 * Reads a plane of `sw` × `sh` between its pixels on a grid of `w` × `h`.
 * @param columns of the pixel before each column, `shares` of the one behind; `rows` and `downs` alike
 * @param lines room for two rows, `line` bytes apart
 */
export function readBetween(src: usize, sw: i32, sh: i32, columns: usize, shares: usize, w: i32, rows: usize, downs: usize, h: i32, lines: usize, line: usize, out: usize): void {
  let above = lines, below = lines + line;
  let held = -2;
  for (let y = 0; y < h; y++) {
    const r = load<i32>(rows + (<usize>y << 2));
    if (r != held) {
      if (r == held + 1) {
        const other = above;
        above = below;
        below = other;
      } else readRow(src + (<usize>(r * sw) << 2), columns, shares, w, sw - 1, above);
      readRow(src + (<usize>(min(r + 1, sh - 1) * sw) << 2), columns, shares, w, sw - 1, below);
      held = r;
    }
    const f = f32x4.splat(load<f32>(downs + (<usize>y << 2)));
    const to = out + (<usize>(y * w) << 2);
    // what is written past the end of a row is the beginning of the next, which is written after it
    for (let x = 0; x < w; x += 4) {
      const o = <usize>x << 2;
      const a = v128.load(above + o);
      v128.store(to + o, f32x4.add(a, f32x4.mul(f, f32x4.sub(v128.load(below + o), a))));
    }
  }
}

/** Opacity of a layer: that of its pixels, of the whole, and where it is shown; `alpha` or `mask` 0 where there is none. */
export function opacityPlane(alpha: usize, mask: usize, n: i32, opacity: f32, out: usize): void {
  const whole = f32x4.splat(opacity);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    let a = whole;
    if (alpha) a = f32x4.mul(a, v128.load(alpha + o));
    if (mask) a = f32x4.mul(a, v128.load(mask + o));
    v128.store(out + o, a);
  }
}

/** Means of two by two pixels of three samples a pixel, rounded; two rows of codes of 1 or 2 bytes, `below` bytes apart. */
export function halveRow(src: usize, below: usize, right: i32, pixels: i32, bytes: i32, out: usize): void {
  if (bytes == 1)
    for (let x = 0; x < pixels; x++)
      for (let c = 0; c < 3; c++) {
        const p = src + <usize>(6 * x + c);
        const sum = <u32>load<u8>(p) + load<u8>(p + right) + load<u8>(p + below) + load<u8>(p + below + right);
        store<u8>(out + <usize>(3 * x + c), <u8>((sum + 2) >> 2));
      }
  else
    for (let x = 0; x < pixels; x++)
      for (let c = 0; c < 3; c++) {
        const p = src + (<usize>(6 * x + c) << 1);
        const sum = <u32>load<u16>(p) + load<u16>(p + 2 * right) + load<u16>(p + below) + load<u16>(p + below + 2 * right);
        store<u16>(out + (<usize>(3 * x + c) << 1), <u16>((sum + 2) >> 2));
      }
}
