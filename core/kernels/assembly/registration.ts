// The streaming steps of registration: luminance, its logarithm, levels, gradient scores, and the pass over the points.
import { log4 } from './maths';

const LOG2E: f32 = 1.44269504;

/**
 * Light of interleaved codes by table, and where no used channel clips.
 * @param table light of each code in the common exposure, 4 bytes each
 * @param channel 0…2 for one channel, 3 for (R + 2G + B) / 4
 */
export function luminancePlane(src: usize, bytes: i32, n: i32, table: usize, limit: i32, channel: i32, light: usize, valid: usize): void {
  const step: usize = bytes == 1 ? 3 : 6;
  for (let i = 0; i < n; i++) {
    let r: i32, g: i32, b: i32;
    if (bytes == 1) {
      r = <i32>load<u8>(src);
      g = <i32>load<u8>(src, 1);
      b = <i32>load<u8>(src, 2);
    } else {
      r = <i32>load<u16>(src);
      g = <i32>load<u16>(src, 2);
      b = <i32>load<u16>(src, 4);
    }
    src += step;
    const o = <usize>i << 2;
    if (channel == 3) {
      store<f32>(
        light + o,
        0.25 * (load<f32>(table + (<usize>r << 2)) + load<f32>(table + (<usize>b << 2))) + 0.5 * load<f32>(table + (<usize>g << 2)),
      );
      store<f32>(valid + o, select<f32>(1, 0, r < limit && g < limit && b < limit));
    } else {
      const c = channel == 0 ? r : channel == 1 ? g : b;
      store<f32>(light + o, load<f32>(table + (<usize>c << 2)));
      store<f32>(valid + o, select<f32>(1, 0, c < limit));
    }
  }
}

function halveAcross(light: usize, valid: usize, row: i32, W: i32, H: i32, width: i32, sums: usize, weights: usize): void {
  const at = (<usize>min<i32>(H - 1, max<i32>(0, row)) * <usize>W) << 2;
  const three = f32x4.splat(3);
  for (let x = 0; x < width; x++) {
    if (x > 0 && 2 * x + 9 < W && x + 3 < width) {
      const p = light + at + (<usize>(2 * x) << 2), q = valid + at + (<usize>(2 * x) << 2);
      const l0 = v128.load(p), l1 = v128.load(p, 16), v0 = v128.load(q), v1 = v128.load(q, 16);
      const lm0 = v128.load(p - 4), lm1 = v128.load(p, 12), vm0 = v128.load(q - 4), vm1 = v128.load(q, 12);
      const lp0 = v128.load(p, 8), lp1 = v128.load(p, 24), vp0 = v128.load(q, 8), vp1 = v128.load(q, 24);
      const lb = v128.shuffle<f32>(l0, l1, 0, 2, 4, 6), lc = v128.shuffle<f32>(l0, l1, 1, 3, 5, 7);
      const vb = f32x4.mul(three, v128.shuffle<f32>(v0, v1, 0, 2, 4, 6)), vc = f32x4.mul(three, v128.shuffle<f32>(v0, v1, 1, 3, 5, 7));
      const la = v128.shuffle<f32>(lm0, lm1, 0, 2, 4, 6), va = v128.shuffle<f32>(vm0, vm1, 0, 2, 4, 6);
      const ld = v128.shuffle<f32>(lp0, lp1, 0, 2, 4, 6), vd = v128.shuffle<f32>(vp0, vp1, 0, 2, 4, 6);
      const o = <usize>x << 2;
      v128.store(
        sums + o,
        f32x4.add(f32x4.add(f32x4.mul(va, la), f32x4.mul(vb, lb)), f32x4.add(f32x4.mul(vc, lc), f32x4.mul(vd, ld))),
      );
      v128.store(weights + o, f32x4.add(f32x4.add(va, vb), f32x4.add(vc, vd)));
      x += 3;
      continue;
    }
    const i = at + (<usize>(2 * x) << 2);
    const a = x > 0 ? i - 4 : i;
    const d = 2 * x + 2 < W ? i + 8 : i + 4;
    const va = load<f32>(valid + a), vb = <f32>3 * load<f32>(valid + i), vc = <f32>3 * load<f32>(valid + i, 4), vd = load<f32>(valid + d);
    const o = <usize>x << 2;
    store<f32>(
      sums + o,
      va * load<f32>(light + a) + vb * load<f32>(light + i) + vc * load<f32>(light + i, 4) + vd * load<f32>(light + d),
    );
    store<f32>(weights + o, va + vb + vc + vd);
  }
}

/** The next level: [1 3 3 1]/8 normalised by validity. @param ring eight rows of the coarse width, each with slack */
export function halveLuminancePlanes(light: usize, valid: usize, W: i32, H: i32, out: usize, cover: usize, ring: usize): void {
  const width = W >> 1, height = H >> 1;
  const row = (<usize>width << 2) + 16;
  const unit = f32x4.splat(1.0 / 64), three = f32x4.splat(3), least = f32x4.splat(0.25), zero = f32x4.splat(0);
  for (let r = -1; r < 1; r++) halveAcross(light, valid, r, W, H, width, ring + <usize>((r + 4) & 3) * row, ring + <usize>(4 + ((r + 4) & 3)) * row);
  for (let y = 0; y < height; y++) {
    for (let r = 2 * y + 1; r < 2 * y + 3; r++)
      halveAcross(light, valid, r, W, H, width, ring + <usize>((r + 4) & 3) * row, ring + <usize>(4 + ((r + 4) & 3)) * row);
    const a = <usize>((2 * y + 3) & 3) * row, b = <usize>((2 * y + 4) & 3) * row;
    const c = <usize>((2 * y + 5) & 3) * row, d = <usize>((2 * y + 6) & 3) * row;
    const w = ring + 4 * row;
    const at = (<usize>y * <usize>width) << 2;
    const source = light + ((<usize>(2 * y) * <usize>W) << 2);
    for (let x = 0; x < width; x++) {
      const o = <usize>x << 2;
      if (x + 4 <= width) {
        const v = f32x4.mul(
          f32x4.add(
            f32x4.add(v128.load(w + a + o), v128.load(w + d + o)),
            f32x4.mul(three, f32x4.add(v128.load(w + b + o), v128.load(w + c + o))),
          ),
          unit,
        );
        const s = f32x4.mul(
          f32x4.add(
            f32x4.add(v128.load(ring + a + o), v128.load(ring + d + o)),
            f32x4.mul(three, f32x4.add(v128.load(ring + b + o), v128.load(ring + c + o))),
          ),
          unit,
        );
        const p = source + (<usize>(2 * x) << 2);
        const nearest = v128.shuffle<f32>(v128.load(p), v128.load(p, 16), 0, 2, 4, 6);
        v128.store(out + at + o, v128.bitselect(f32x4.div(s, v), nearest, f32x4.gt(v, zero)));
        v128.store(cover + at + o, v128.and(v, f32x4.gt(v, least)));
        x += 3;
        continue;
      }
      const v = (load<f32>(w + a + o) + load<f32>(w + d + o) + 3 * (load<f32>(w + b + o) + load<f32>(w + c + o))) / 64;
      const s = (load<f32>(ring + a + o) + load<f32>(ring + d + o) + 3 * (load<f32>(ring + b + o) + load<f32>(ring + c + o))) / 64;
      store<f32>(out + at + o, v > 0 ? s / v : load<f32>(source + (<usize>(2 * x) << 2)));
      store<f32>(cover + at + o, v > 0.25 ? v : 0);
    }
  }
}

/**
 * log2(light + floor) and the variance of its noise: shot, read and quantisation noise of an ordinary sensor.
 * @param inverseGain from the common exposure to the frame's own; @param perLevel gain² / 4^level
 */
export function logPlane(light: usize, n: i32, floor: f32, inverseGain: f32, perLevel: f32, value: usize, variance: usize): void {
  const zero = f32x4.splat(0), end = <usize>n << 2;
  for (let o: usize = 0; o < end; o += 16) {
    const l = f32x4.pmax(zero, v128.load(light + o));
    const raised = f32x4.add(l, f32x4.splat(floor));
    v128.store(value + o, f32x4.mul(log4(raised), f32x4.splat(LOG2E)));
    const own = f32x4.pmax(f32x4.mul(l, f32x4.splat(inverseGain)), f32x4.splat(5.9604645e-8));
    // own^0.58 to 3 %, closer than the noise model itself: a float's bits, read as a number, are nearly its logarithm
    const root = i32x4.trunc_sat_f32x4_s(
      f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(own), f32x4.splat(0.58)), f32x4.splat(0.42 * 1064985000.0)),
    );
    const code = f32x4.add(f32x4.splat(0.0003), f32x4.mul(f32x4.splat(0.6 * 0.0039), root));
    const noise = f32x4.add(
      f32x4.add(f32x4.mul(own, f32x4.splat(0.4 / 15000)), f32x4.splat(<f32>((4.0 / 15000) * (4.0 / 15000) * 0.4))),
      f32x4.mul(f32x4.mul(code, code), f32x4.splat(0.15)),
    );
    const slope = f32x4.div(f32x4.splat(1.4427), raised);
    v128.store(variance + o, f32x4.mul(f32x4.mul(noise, f32x4.splat(perLevel)), f32x4.mul(slope, slope)));
  }
}

/** Binomial smoothing [1 2 1]²/16 with repeated edges. @param ring three rows with slack */
export function smoothPlane(src: usize, w: i32, h: i32, dst: usize, ring: usize): void {
  const row = (<usize>w << 2) + 16, stride = <usize>w << 2;
  const quarter = f32x4.splat(0.25), half = f32x4.splat(0.5);
  for (let y = -1; y <= h; y++) {
    if (y >= 0 || h > 0) {
      // blur row y + 1 across
      const r = y + 1;
      if (r < h) {
        const p = src + <usize>r * stride, q = ring + <usize>(r % 3) * row;
        store<f32>(q, 0.75 * load<f32>(p) + 0.25 * load<f32>(p, 4));
        let x = 1;
        for (; x + 5 <= w; x += 4) {
          const o = <usize>x << 2;
          v128.store(
            q + o,
            f32x4.add(f32x4.mul(f32x4.add(v128.load(p + o - 4), v128.load(p + o, 4)), quarter), f32x4.mul(v128.load(p + o), half)),
          );
        }
        for (; x + 1 < w; x++) {
          const o = <usize>x << 2;
          store<f32>(q + o, 0.25 * (load<f32>(p + o - 4) + load<f32>(p + o, 4)) + 0.5 * load<f32>(p + o));
        }
        const last = <usize>(w - 1) << 2;
        store<f32>(q + last, 0.75 * load<f32>(p + last) + 0.25 * load<f32>(p + last - 4));
      }
    }
    if (y < 0 || y >= h) continue;
    const a = ring + <usize>((y > 0 ? y - 1 : y) % 3) * row, b = ring + <usize>(y % 3) * row;
    const c = ring + <usize>((y + 1 < h ? y + 1 : y) % 3) * row;
    const q = dst + <usize>y * stride;
    let o: usize = 0;
    for (; o + 16 <= stride; o += 16)
      v128.store(
        q + o,
        f32x4.add(f32x4.mul(f32x4.add(v128.load(a + o), v128.load(c + o)), quarter), f32x4.mul(v128.load(b + o), half)),
      );
    for (; o < stride; o += 4) store<f32>(q + o, 0.25 * (load<f32>(a + o) + load<f32>(c + o)) + 0.5 * load<f32>(b + o));
  }
}

/** Squared Sobel gradient over noise for every inner pixel, 0 next to the border. */
export function scorePlane(value: usize, variance: usize, w: i32, h: i32, score: usize): void {
  const stride = <usize>w << 2;
  const half = f32x4.splat(0.5), floor = f32x4.splat(4e-4);
  memory.fill(score, 0, stride);
  memory.fill(score + <usize>(h - 1) * stride, 0, stride);
  for (let y = 1; y + 1 < h; y++) {
    const p = value + <usize>y * stride, q = variance + <usize>y * stride, s = score + <usize>y * stride;
    store<f32>(s, 0);
    for (let x = 1; x + 1 < w; x += 4) {
      const o = <usize>x << 2;
      const u = p + o - stride, m = p + o, d = p + o + stride;
      const ul = v128.load(u - 4), uc = v128.load(u), ur = v128.load(u, 4);
      const dl = v128.load(d - 4), dc = v128.load(d), dr = v128.load(d, 4);
      const gx = f32x4.add(
        f32x4.sub(v128.load(m, 4), v128.load(m - 4)),
        f32x4.mul(half, f32x4.add(f32x4.sub(dr, dl), f32x4.sub(ur, ul))),
      );
      const gy = f32x4.add(
        f32x4.sub(dc, uc),
        f32x4.mul(half, f32x4.add(f32x4.sub(dr, ur), f32x4.sub(dl, ul))),
      );
      const v = f32x4.div(f32x4.add(f32x4.mul(gx, gx), f32x4.mul(gy, gy)), f32x4.add(v128.load(q + o), floor));
      if (x + 5 <= w) v128.store(s + o, v);
      else {
        // the last few of the row, one by one
        store<f32>(s + o, f32x4.extract_lane(v, 0));
        if (x + 2 < w) store<f32>(s + o, x + 2 < w - 1 ? f32x4.extract_lane(v, 1) : 0, 4);
        if (x + 3 < w) store<f32>(s + o, x + 3 < w - 1 ? f32x4.extract_lane(v, 2) : 0, 8);
      }
    }
    store<f32>(s + stride - 4, 0);
  }
}

/** Places of a rectangle whose score reaches the threshold and whose four neighbours are valid. @returns how many were written */
export function pickPoints(score: usize, valid: usize, w: i32, x0: i32, x1: i32, y0: i32, y1: i32, threshold: f32, out: usize, most: i32): i32 {
  const stride = <usize>w << 2;
  let n = 0;
  for (let y = y0; y < y1; y++) {
    const row = <usize>y * stride;
    for (let x = x0; x < x1; x++) {
      const o = row + (<usize>x << 2);
      if (load<f32>(score + o) < threshold) continue;
      const v = valid + o;
      if (load<f32>(v) <= 0 || load<f32>(v - 4) <= 0 || load<f32>(v, 4) <= 0 || load<f32>(v - stride) <= 0 || load<f32>(v + stride) <= 0)
        continue;
      if (n >= most) return n;
      store<i32>(out + (<usize>n << 2), y * w + x);
      n++;
    }
  }
  return n;
}

/** Counts scores of every second pixel each way in bins of an eighth of an octave, 160 at a score of 1. */
export function scoreHistogram(score: usize, valid: usize, w: i32, x0: i32, x1: i32, y0: i32, y1: i32, bins: usize): void {
  const stride = <usize>w << 2;
  for (let y = y0; y < y1; y += 2)
    for (let x = x0; x < x1; x += 2) {
      const o = <usize>y * stride + (<usize>x << 2);
      if (load<f32>(valid + o) <= 0) continue;
      const s = load<f32>(score + o);
      let bin = 0;
      if (s > 0) {
        // exponent and three bits of the mantissa: eighths that are even in the number, near enough to even in the logarithm
        bin = <i32>(reinterpret<u32>(s) >> 20) - (127 << 3) + 160;
        bin = max<i32>(0, min<i32>(255, bin));
      }
      const p = bins + (<usize>bin << 2);
      store<i32>(p, load<i32>(p) + 4);
    }
}

/**
 * The pass over the points of one tile; see core/register/normalEquations.ts for its meaning.
 * @param points seven planes of `count` floats: x, y, value, gradient x, gradient y, variance — `plane` bytes apart
 * @param out 36 upper-triangle products as 8 rows of 8 (f64, whole rows from the diagonal's pair on), then Σwj, Σwej, Σwtj (8 each),
 *   then Σw, Σwe, Σwe², ΣwT, ΣwT², ΣwTe, count, residual count
 * @returns number of residuals written
 */
export function tilePass(
  points: usize, plane: usize, from: i32, to: i32, value: usize, valid: usize, variance: usize, W: i32, H: i32,
  map: usize, cx: f64, cy: f64, scale: f64, gain: f64, offset: f64, mean: f64, limit: f64, tukey: i32, out: usize, residuals: usize,
): i32 {
  const h0 = load<f64>(map), h1 = load<f64>(map, 8), h2 = load<f64>(map, 16), h3 = load<f64>(map, 24), h4 = load<f64>(map, 32);
  const h5 = load<f64>(map, 40), h6 = load<f64>(map, 48), h7 = load<f64>(map, 56), h8 = load<f64>(map, 64);
  const stride = <usize>W << 2;
  const inverse = 1.0 / scale;
  const zero = f64x2.splat(0);
  // rows of the triangle in pairs of columns: row 0, 1 → four pairs; 2, 3 → three; 4, 5 → two; 6, 7 → one
  let a00 = zero, a01 = zero, a02 = zero, a03 = zero, a10 = zero, a11 = zero, a12 = zero, a13 = zero;
  let a21 = zero, a22 = zero, a23 = zero, a31 = zero, a32 = zero, a33 = zero;
  let a42 = zero, a43 = zero, a52 = zero, a53 = zero, a63 = zero, a73 = zero;
  let s0 = zero, s1 = zero, s2 = zero, s3 = zero, e0 = zero, e1 = zero, e2 = zero, e3 = zero, t0 = zero, t1 = zero, t2 = zero, t3 = zero;
  let sw: f64 = 0, swe: f64 = 0, swee: f64 = 0, swT: f64 = 0, swTT: f64 = 0, swTe: f64 = 0;
  let count = 0, kept = 0;
  for (let k = from; k < to; k++) {
    const p = points + (<usize>k << 2);
    const x = <f64>load<f32>(p), y = <f64>load<f32>(p + plane);
    const d = 1.0 / (h6 * x + h7 * y + h8);
    const u = (h0 * x + h1 * y + h2) * d, v = (h3 * x + h4 * y + h5) * d;
    if (!(u >= 2 && v >= 2 && u < <f64>(W - 3) && v < <f64>(H - 3))) continue;
    const iu = <i32>u, iv = <i32>v;
    const i = <usize>iv * stride + (<usize>iu << 2);
    const q = valid + i;
    if (load<f32>(q) <= 0 || load<f32>(q, 4) <= 0 || load<f32>(q + stride) <= 0 || load<f32>(q + stride, 4) <= 0) continue;
    const f = <f32>(u - <f64>iu), g = <f32>(v - <f64>iv);
    // Catmull–Rom: weights of four columns as one vector, rows added up with theirs
    const f2 = f * f, f3 = f2 * f, g2 = g * g, g3 = g2 * g;
    const wx = f32x4(-0.5 * f3 + f2 - 0.5 * f, 1.5 * f3 - 2.5 * f2 + 1, -1.5 * f3 + 2 * f2 + 0.5 * f, 0.5 * f3 - 0.5 * f2);
    const r = value + i - stride - 4;
    let c = f32x4.mul(v128.load(r), f32x4.splat(-0.5 * g3 + g2 - 0.5 * g));
    c = f32x4.add(c, f32x4.mul(v128.load(r + stride), f32x4.splat(1.5 * g3 - 2.5 * g2 + 1)));
    c = f32x4.add(c, f32x4.mul(v128.load(r + 2 * stride), f32x4.splat(-1.5 * g3 + 2 * g2 + 0.5 * g)));
    c = f32x4.mul(f32x4.add(c, f32x4.mul(v128.load(r + 3 * stride), f32x4.splat(0.5 * g3 - 0.5 * g2))), wx);
    const sample = <f64>(f32x4.extract_lane(c, 0) + f32x4.extract_lane(c, 1) + f32x4.extract_lane(c, 2) + f32x4.extract_lane(c, 3));
    count++;
    const T = <f64>load<f32>(p + 2 * plane) - mean;
    const e = sample - mean - gain * T - offset;
    let w = 1.0 / (<f64>load<f32>(p + 5 * plane) + <f64>load<f32>(variance + i) + 0.0009);
    const square = e * e * w;
    if ((k & 7) == 0) {
      store<f32>(residuals + (<usize>kept << 2), <f32>Math.sqrt(square));
      kept++;
    }
    if (tukey) {
      const z = square * limit;
      if (z >= 1) continue;
      w *= (1 - z) * (1 - z);
    } else {
      const z = square * limit * 4;
      if (z > 1) w /= Math.sqrt(z);
    }
    const gX = <f64>load<f32>(p + 3 * plane) * gain * scale, gY = <f64>load<f32>(p + 4 * plane) * gain * scale;
    const X = (x - cx) * inverse, Y = (y - cy) * inverse;
    const m = -(gX * X + gY * Y);
    const XY = f64x2(X, Y);
    const j0 = f64x2.mul(f64x2.splat(gX), XY);
    const j1 = f64x2(gX, gY * X);
    const j2 = f64x2(gY * Y, gY);
    const j3 = f64x2.mul(f64x2.splat(m), XY);
    const wv = f64x2.splat(w);
    const w0 = f64x2.mul(wv, j0), w1 = f64x2.mul(wv, j1), w2 = f64x2.mul(wv, j2), w3 = f64x2.mul(wv, j3);
    let b = v128.shuffle<f64>(w0, w0, 0, 0);
    a00 = f64x2.add(a00, f64x2.mul(b, j0));
    a01 = f64x2.add(a01, f64x2.mul(b, j1));
    a02 = f64x2.add(a02, f64x2.mul(b, j2));
    a03 = f64x2.add(a03, f64x2.mul(b, j3));
    b = v128.shuffle<f64>(w0, w0, 1, 1);
    a10 = f64x2.add(a10, f64x2.mul(b, j0));
    a11 = f64x2.add(a11, f64x2.mul(b, j1));
    a12 = f64x2.add(a12, f64x2.mul(b, j2));
    a13 = f64x2.add(a13, f64x2.mul(b, j3));
    b = v128.shuffle<f64>(w1, w1, 0, 0);
    a21 = f64x2.add(a21, f64x2.mul(b, j1));
    a22 = f64x2.add(a22, f64x2.mul(b, j2));
    a23 = f64x2.add(a23, f64x2.mul(b, j3));
    b = v128.shuffle<f64>(w1, w1, 1, 1);
    a31 = f64x2.add(a31, f64x2.mul(b, j1));
    a32 = f64x2.add(a32, f64x2.mul(b, j2));
    a33 = f64x2.add(a33, f64x2.mul(b, j3));
    b = v128.shuffle<f64>(w2, w2, 0, 0);
    a42 = f64x2.add(a42, f64x2.mul(b, j2));
    a43 = f64x2.add(a43, f64x2.mul(b, j3));
    b = v128.shuffle<f64>(w2, w2, 1, 1);
    a52 = f64x2.add(a52, f64x2.mul(b, j2));
    a53 = f64x2.add(a53, f64x2.mul(b, j3));
    a63 = f64x2.add(a63, f64x2.mul(v128.shuffle<f64>(w3, w3, 0, 0), j3));
    a73 = f64x2.add(a73, f64x2.mul(v128.shuffle<f64>(w3, w3, 1, 1), j3));
    s0 = f64x2.add(s0, w0);
    s1 = f64x2.add(s1, w1);
    s2 = f64x2.add(s2, w2);
    s3 = f64x2.add(s3, w3);
    b = f64x2.splat(e);
    e0 = f64x2.add(e0, f64x2.mul(b, w0));
    e1 = f64x2.add(e1, f64x2.mul(b, w1));
    e2 = f64x2.add(e2, f64x2.mul(b, w2));
    e3 = f64x2.add(e3, f64x2.mul(b, w3));
    b = f64x2.splat(T);
    t0 = f64x2.add(t0, f64x2.mul(b, w0));
    t1 = f64x2.add(t1, f64x2.mul(b, w1));
    t2 = f64x2.add(t2, f64x2.mul(b, w2));
    t3 = f64x2.add(t3, f64x2.mul(b, w3));
    sw += w;
    swe += w * e;
    swee += w * e * e;
    swT += w * T;
    swTT += w * T * T;
    swTe += w * T * e;
  }
  v128.store(out, a00); v128.store(out, a01, 16); v128.store(out, a02, 32); v128.store(out, a03, 48);
  v128.store(out, a10, 64); v128.store(out, a11, 80); v128.store(out, a12, 96); v128.store(out, a13, 112);
  v128.store(out, a21, 144); v128.store(out, a22, 160); v128.store(out, a23, 176);
  v128.store(out, a31, 208); v128.store(out, a32, 224); v128.store(out, a33, 240);
  v128.store(out, a42, 288); v128.store(out, a43, 304); v128.store(out, a52, 352); v128.store(out, a53, 368);
  v128.store(out, a63, 432); v128.store(out, a73, 496);
  v128.store(out, s0, 512); v128.store(out, s1, 528); v128.store(out, s2, 544); v128.store(out, s3, 560);
  v128.store(out, e0, 576); v128.store(out, e1, 592); v128.store(out, e2, 608); v128.store(out, e3, 624);
  v128.store(out, t0, 640); v128.store(out, t1, 656); v128.store(out, t2, 672); v128.store(out, t3, 688);
  store<f64>(out, sw, 704); store<f64>(out, swe, 712); store<f64>(out, swee, 720); store<f64>(out, swT, 728);
  store<f64>(out, swTT, 736); store<f64>(out, swTe, 744); store<f64>(out, <f64>count, 752);
  return kept;
}
