// Opacity at soft edges: pairs of colours that explain a pixel, the linear system of a matte, colours freed of what lies behind.

const UNKNOWN: u8 = 128;
const THIS: u8 = 255;
const LEAST: f32 = 1e-6;
const TINY: f32 = 1e-18;

@inline
function sumOf(v: v128): f32 {
  return f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3);
}

@inline
function dot3(a0: v128, a1: v128, a2: v128, b0: v128, b1: v128, b2: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(a0, b0), f32x4.mul(a1, b1)), f32x4.mul(a2, b2));
}

/** Square of what the nearest mix of two colours leaves of others. @param r what is to be explained, @param d the one colour, both less the other */
@inline
function left(r0: v128, r1: v128, r2: v128, d0: v128, d1: v128, d2: v128): v128 {
  const length2 = f32x4.add(dot3(d0, d1, d2, d0, d1, d2), f32x4.splat(LEAST));
  const mix = f32x4.div(dot3(r0, r1, r2, d0, d1, d2), length2);
  const share = f32x4.min(f32x4.max(mix, f32x4.splat(0)), f32x4.splat(1));
  const e0 = f32x4.sub(r0, f32x4.mul(share, d0));
  const e1 = f32x4.sub(r1, f32x4.mul(share, d1));
  const e2 = f32x4.sub(r2, f32x4.mul(share, d2));
  return dot3(e0, e1, e2, e0, e1, e2);
}

/**
 * For each unknown pixel of row y the known pixels of either side that explain it and its neighbours best and lie near, by rays. `rays`
 * holds four of so many `steps` for each of nine places, a step across and down and how far that is (i32 each); `room` is 64 bytes. Nothing found is −1.
 */
export function gatherPairs(light: usize, plane: usize, map: usize, w: i32, h: i32, y: i32, rays: usize, steps: i32, room: usize, inside: usize, outside: usize): void {
  const green = light + plane, blue = green + plane;
  const top = max<i32>(0, y - 1), bottom = min<i32>(h - 1, y + 1);
  for (let x = 0; x < w; x++) {
    const i = y * w + x;
    store<i32>(inside + (<usize>x << 2), -1);
    store<i32>(outside + (<usize>x << 2), -1);
    if (load<u8>(map + i) != UNKNOWN) continue;
    let ins = 0, outs = 0;
    let ray = rays + <usize>((x % 3 + 3 * (y % 3)) * 4 * steps * 12);
    for (let k = 0; k < 4; k++, ray += steps * 12) {
      let seesIn = false, seesOut = false;
      for (let step = ray, end = ray + steps * 12; step < end; step += 12) {
        const X = x + load<i32>(step), Y = y + load<i32>(step, 4);
        // one comparison each: what is negative is very large
        if (<u32>X >= <u32>w || <u32>Y >= <u32>h) break;
        const j = Y * w + X;
        const is = load<u8>(map + j);
        if (is == UNKNOWN) continue;
        if (is == THIS) {
          if (seesIn) continue;
          seesIn = true;
          store<i32>(room + (ins << 2), j);
          store<i32>(room + (ins++ << 2), load<i32>(step, 8), 16);
        } else {
          if (seesOut) continue;
          seesOut = true;
          store<i32>(room + (outs << 2), j, 32);
          store<i32>(room + (outs++ << 2), load<i32>(step, 8), 48);
        }
        if (seesIn && seesOut) break;
      }
    }
    const first = max<i32>(0, x - 1);
    const wide = min<i32>(w - 1, x + 1) - first + 1;
    const counted = f32x4.lt(f32x4(0, 1, 2, 3), f32x4.splat(<f32>wide));
    const n = <f64>(wide * (bottom - top + 1));
    let least = f64.MAX_VALUE;
    for (let a = 0; a < ins; a++) {
      const f = <usize>load<i32>(room + (a << 2)) << 2;
      const f0 = load<f32>(light + f), f1 = load<f32>(green + f), f2 = load<f32>(blue + f);
      const near = <f64>load<i32>(room + (a << 2), 16);
      for (let b = 0; b < outs; b++) {
        const g = <usize>load<i32>(room + (b << 2), 32) << 2;
        const b0 = load<f32>(light + g), b1 = load<f32>(green + g), b2 = load<f32>(blue + g);
        const d0 = f32x4.splat(f0 - b0), d1 = f32x4.splat(f1 - b1), d2 = f32x4.splat(f2 - b2);
        const c0 = f32x4.splat(b0), c1 = f32x4.splat(b1), c2 = f32x4.splat(b2);
        let sum = f32x4.splat(0);
        for (let Y = top; Y <= bottom; Y++) {
          const p = <usize>(Y * w + first) << 2;
          const e = left(
            f32x4.sub(v128.load(light + p), c0), f32x4.sub(v128.load(green + p), c1), f32x4.sub(v128.load(blue + p), c2),
            d0, d1, d2,
          );
          sum = f32x4.add(sum, v128.and(e, counted));
        }
        const mean = <f64>sumOf(sum) / n + 1e-5;
        const cost = mean * mean * mean * near * <f64>load<i32>(room + (b << 2), 48);
        if (cost >= least) continue;
        least = cost;
        store<i32>(inside + (<usize>x << 2), load<i32>(room + (a << 2)));
        store<i32>(outside + (<usize>x << 2), load<i32>(room + (b << 2), 32));
      }
    }
  }
}

/**
 * For each unknown pixel of row y the three pairs of its neighbours that explain it best, averaged. `pairs` are six planes (R G B of the one side,
 * then of the other), `wide` pixels a row, with a margin of `margin` on every side, not a number where there is no pair; `room` is 48 bytes. Writes the share of the one
 * colour, what the mix leaves of the pixel, and the square of the colours' distance; −1 there where nothing explains it.
 */
export function sharePairs(light: usize, plane: usize, map: usize, w: i32, y: i32, pairs: usize, pairPlane: usize, wide: i32, margin: i32, side: i32, step: i32, room: usize, share: usize, rest: usize, apart: usize): void {
  const green = light + plane, blue = green + plane;
  const P1 = pairs + pairPlane, P2 = P1 + pairPlane, Q0 = P2 + pairPlane, Q1 = Q0 + pairPlane, Q2 = Q1 + pairPlane;
  const none = f32x4.splat(f32.MAX_VALUE);
  for (let x = 0; x < w; x += 4) {
    const i = <usize>(y * w + x);
    const many = min<i32>(4, w - x);
    let any = false;
    for (let c = 0; c < many; c++) any = any || load<u8>(map + i + c) == UNKNOWN;
    if (!any) continue;
    const I0 = v128.load(light + (i << 2)), I1 = v128.load(green + (i << 2)), I2 = v128.load(blue + (i << 2));
    let r0 = none, r1 = none, r2 = none;
    let k0 = i32x4.splat(-1), k1 = k0, k2 = k0;
    for (let dy = -side; dy <= side; dy++) {
      const row = (y + margin + dy * step) * wide + x + margin;
      for (let dx = -side; dx <= side; dx++) {
        const own = row + dx * step;
        const p = <usize>own << 2;
        const b0 = v128.load(Q0 + p), b1 = v128.load(Q1 + p), b2 = v128.load(Q2 + p);
        const e = left(
          f32x4.sub(I0, b0), f32x4.sub(I1, b1), f32x4.sub(I2, b2),
          f32x4.sub(v128.load(pairs + p), b0), f32x4.sub(v128.load(P1 + p), b1), f32x4.sub(v128.load(P2 + p), b2),
        );
        const m2 = f32x4.lt(e, r2);
        if (!v128.any_true(m2)) continue;
        const m1 = f32x4.lt(e, r1), m0 = f32x4.lt(e, r0);
        const at = i32x4.splat(own);
        r2 = v128.bitselect(r1, v128.bitselect(e, r2, m2), m1);
        k2 = v128.bitselect(k1, v128.bitselect(at, k2, m2), m1);
        r1 = v128.bitselect(r0, v128.bitselect(e, r1, m1), m0);
        k1 = v128.bitselect(k0, v128.bitselect(at, k1, m1), m0);
        r0 = v128.bitselect(e, r0, m0);
        k0 = v128.bitselect(at, k0, m0);
      }
    }
    v128.store(room, k0);
    v128.store(room, k1, 16);
    v128.store(room, k2, 32);
    for (let c = 0; c < many; c++) {
      if (load<u8>(map + i + c) != UNKNOWN) continue;
      let n: f32 = 0;
      let f0: f32 = 0, f1: f32 = 0, f2: f32 = 0, b0: f32 = 0, b1: f32 = 0, b2: f32 = 0;
      for (let k = 0; k < 3; k++) {
        const own = load<i32>(room + (k << 4) + (c << 2));
        if (own < 0) break;
        // lanes lie beside each other
        const p = <usize>(own + c) << 2;
        n += 1;
        f0 += load<f32>(pairs + p);
        f1 += load<f32>(P1 + p);
        f2 += load<f32>(P2 + p);
        b0 += load<f32>(Q0 + p);
        b1 += load<f32>(Q1 + p);
        b2 += load<f32>(Q2 + p);
      }
      const o = <usize>(x + c) << 2;
      if (n == 0) {
        store<f32>(apart + o, -1);
        continue;
      }
      const s: f32 = 1 / n;
      const d0 = (f0 - b0) * s, d1 = (f1 - b1) * s, d2 = (f2 - b2) * s;
      const q = (i + c) << 2;
      const t0 = load<f32>(light + q) - b0 * s, t1 = load<f32>(green + q) - b1 * s, t2 = load<f32>(blue + q) - b2 * s;
      const length2 = d0 * d0 + d1 * d1 + d2 * d2 + LEAST;
      const mix = min<f32>(1, max<f32>(0, (t0 * d0 + t1 * d1 + t2 * d2) / length2));
      const e0 = t0 - mix * d0, e1 = t1 - mix * d1, e2 = t2 - mix * d2;
      store<f32>(share + o, mix);
      store<f32>(rest + o, e0 * e0 + e1 * e1 + e2 * e2);
      store<f32>(apart + o, length2);
    }
  }
}

/**
 * Product of the matrix of a matte with a vector, added up with it: `matrix` holds four rows beside each other, for each of their five by five
 * neighbours in turn, `own` what is added to the diagonal; `dense` holds the vector where its pixels lie, `wide` a row, 0 elsewhere. `runs` are rows beside each other:
 * first row (a multiple of four; up to the next run's they are there, empty), how many, where in `dense` (i32 each). @returns vector · product
 */
export function multiplyMatte(matrix: usize, own: usize, dense: usize, wide: i32, runs: usize, count: i32, out: usize): f64 {
  let total: f64 = 0;
  const row = <usize>wide << 2;
  for (let k = 0; k < count; k++) {
    const run = runs + <usize>k * 12;
    const first = load<i32>(run), many = load<i32>(run, 4), at = load<i32>(run, 8);
    let m = matrix + <usize>first * 100;
    for (let c = 0; c < many; c += 4) {
      const u = <usize>(first + c) << 2;
      const centre = dense + (<usize>(at + c) << 2);
      const x = v128.load(centre);
      let sum = f32x4.mul(v128.load(own + u), x);
      let line = centre - 2 * row - 8;
      for (let dy = 0; dy < 5; dy++) {
        sum = f32x4.add(sum, f32x4.mul(v128.load(m), v128.load(line)));
        sum = f32x4.add(sum, f32x4.mul(v128.load(m, 16), v128.load(line, 4)));
        sum = f32x4.add(sum, f32x4.mul(v128.load(m, 32), v128.load(line, 8)));
        sum = f32x4.add(sum, f32x4.mul(v128.load(m, 48), v128.load(line, 12)));
        sum = f32x4.add(sum, f32x4.mul(v128.load(m, 64), v128.load(line, 16)));
        m += 80;
        line += row;
      }
      v128.store(out + u, sum);
      total += <f64>sumOf(f32x4.mul(sum, x));
    }
  }
  return total;
}

/** Values without those that are as good as 0: what has too small an exponent is slow. */
@inline
function kept(v: v128): v128 {
  return v128.and(v, f32x4.ge(f32x4.abs(v), f32x4.splat(TINY)));
}

/** A step of conjugate gradients: x += by · p, r −= by · q, z = r / diagonal. @returns r · z */
export function stepMatte(x: usize, r: usize, z: usize, p: usize, q: usize, diagonal: usize, by: f32, n: i32): f64 {
  const step = f32x4.splat(by);
  let total: f64 = 0;
  for (let k = 0; k < n; k += 4) {
    const o = <usize>k << 2;
    v128.store(x + o, f32x4.add(v128.load(x + o), f32x4.mul(step, v128.load(p + o))));
    const rest = f32x4.sub(v128.load(r + o), f32x4.mul(step, v128.load(q + o)));
    const scaled = f32x4.div(rest, v128.load(diagonal + o));
    v128.store(r + o, kept(rest));
    v128.store(z + o, kept(scaled));
    total += <f64>sumOf(f32x4.mul(rest, scaled));
  }
  return total;
}

/** The next direction: p = z + by · p, also where its pixels lie. */
export function turnMatte(z: usize, p: usize, by: f32, dense: usize, runs: usize, count: i32): void {
  for (let k = 0; k < count; k++) {
    const run = runs + <usize>k * 12;
    const first = load<i32>(run), many = load<i32>(run, 4), at = load<i32>(run, 8);
    for (let c = 0; c < many; c++) {
      const u = <usize>(first + c) << 2;
      const next = load<f32>(z + u) + by * load<f32>(p + u);
      const v: f32 = abs<f32>(next) < TINY ? 0 : next;
      store<f32>(p + u, v);
      store<f32>(dense + (<usize>(at + c) << 2), v);
    }
  }
}

/** One sweep of the colours of both sides, four floats a pixel; see core/cutout/foregroundColour. */
export function sweepColours(light: usize, alpha: usize, w: i32, h: i32, inside: usize, outside: usize, smooth: f32, atEdges: f32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const a = load<f32>(alpha + (<usize>i << 2));
      const b: f32 = 1 - a;
      const n0 = x > 0 ? i - 1 : i, n1 = x + 1 < w ? i + 1 : i, n2 = y > 0 ? i - w : i, n3 = y + 1 < h ? i + w : i;
      const w0 = smooth + atEdges * abs<f32>(a - load<f32>(alpha + (<usize>n0 << 2)));
      const w1 = smooth + atEdges * abs<f32>(a - load<f32>(alpha + (<usize>n1 << 2)));
      const w2 = smooth + atEdges * abs<f32>(a - load<f32>(alpha + (<usize>n2 << 2)));
      const w3 = smooth + atEdges * abs<f32>(a - load<f32>(alpha + (<usize>n3 << 2)));
      const sum = w0 + w1 + w2 + w3;
      const m00 = a * a + sum, m01 = a * b, m11 = b * b + sum;
      // the determinant, without a difference of what is nearly alike
      const scale: f32 = 1 / (sum * (a * a + b * b + sum));
      const own = v128.load(light + (<usize>i << 4));
      let f = f32x4.mul(f32x4.splat(a), own), g = f32x4.mul(f32x4.splat(b), own);
      f = f32x4.add(f, f32x4.mul(f32x4.splat(w0), v128.load(inside + (<usize>n0 << 4))));
      f = f32x4.add(f, f32x4.mul(f32x4.splat(w1), v128.load(inside + (<usize>n1 << 4))));
      f = f32x4.add(f, f32x4.mul(f32x4.splat(w2), v128.load(inside + (<usize>n2 << 4))));
      f = f32x4.add(f, f32x4.mul(f32x4.splat(w3), v128.load(inside + (<usize>n3 << 4))));
      g = f32x4.add(g, f32x4.mul(f32x4.splat(w0), v128.load(outside + (<usize>n0 << 4))));
      g = f32x4.add(g, f32x4.mul(f32x4.splat(w1), v128.load(outside + (<usize>n1 << 4))));
      g = f32x4.add(g, f32x4.mul(f32x4.splat(w2), v128.load(outside + (<usize>n2 << 4))));
      g = f32x4.add(g, f32x4.mul(f32x4.splat(w3), v128.load(outside + (<usize>n3 << 4))));
      const F = f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(m11), f), f32x4.mul(f32x4.splat(m01), g)), f32x4.splat(scale));
      const B = f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(m00), g), f32x4.mul(f32x4.splat(m01), f)), f32x4.splat(scale));
      v128.store(inside + (<usize>i << 4), f32x4.min(f32x4.max(F, zero), one));
      v128.store(outside + (<usize>i << 4), f32x4.min(f32x4.max(B, zero), one));
    }
}
