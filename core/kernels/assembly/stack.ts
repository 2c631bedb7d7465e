// Stacking: the samples that all frames have of one place become one, four places at a time.

const INFINITY: f32 = Infinity;

/** Marks the pixels of three planes that a source does not reach as infinite. The map is as for `featherWeights`. */
export function hideOutside(
  planes: usize, plane: usize, outW: i32, rows: i32, x0: f64, y0: f64, maxX: f64, maxY: f64,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  for (let y = 0; y < rows; y++) {
    const Y = <f64>y + y0;
    // a row both of whose ends lie inside does so everywhere: straight lines stay straight
    if (reaches(x0, Y, maxX, maxY, m0, m1, m2, m3, m4, m5, m6, m7, m8) && reaches(x0 + <f64>(outW - 1), Y, maxX, maxY, m0, m1, m2, m3, m4, m5, m6, m7, m8))
      continue;
    let p = planes + (<usize>(y * outW) << 2);
    for (let x = 0; x < outW; x++, p += 4)
      if (!reaches(x0 + <f64>x, Y, maxX, maxY, m0, m1, m2, m3, m4, m5, m6, m7, m8)) {
        store<f32>(p, INFINITY);
        store<f32>(p + plane, INFINITY);
        store<f32>(p + 2 * plane, INFINITY);
      }
  }
}

@inline
function reaches(
  X: f64, Y: f64, maxX: f64, maxY: f64, m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): bool {
  const d = 1.0 / (m6 * X + m7 * Y + m8);
  const u = (m0 * X + m1 * Y + m2) * d, v = (m3 * X + m4 * Y + m5) * d;
  return d > 0 && min<f64>(min<f64>(u, maxX - u), min<f64>(v, maxY - v)) >= -1e-6;
}

/** Numbers at one place of each lane's own. @param at index into rows of four floats */
@inline
function pick(rows: usize, at: v128): v128 {
  const a = load<f32>(rows + (<usize>i32x4.extract_lane(at, 0) << 4));
  const b = load<f32>(rows + (<usize>i32x4.extract_lane(at, 1) << 4), 4);
  const c = load<f32>(rows + (<usize>i32x4.extract_lane(at, 2) << 4), 8);
  const d = load<f32>(rows + (<usize>i32x4.extract_lane(at, 3) << 4), 12);
  return f32x4(a, b, c, d);
}

/** Compare and exchange by a sorting network: pairs of indices, two bytes each. */
@inline
function sort(rows: usize, pairs: usize, count: i32): void {
  for (let k = 0; k < count; k++, pairs += 2) {
    const p = rows + (<usize>load<u8>(pairs) << 4), q = rows + (<usize>load<u8>(pairs, 1) << 4);
    const a = v128.load(p), b = v128.load(q);
    v128.store(p, f32x4.pmin(b, a));
    v128.store(q, f32x4.pmax(b, a));
  }
}

/** Which lanes of each frame are kept: within 2.5 winsorised deviations of the median. Fills `kept`. */
function clip(values: usize, kept: usize, sorted: usize, frames: i32, count: v128): void {
  const zero = f32x4.splat(0), half = f32x4.splat(0.5);
  const none = f32x4.splat(INFINITY);
  const one = i32x4.splat(1);
  const upper = i32x4.max_s(i32x4.splat(0), i32x4.shr_s(count, 1));
  const lower = i32x4.max_s(i32x4.splat(0), i32x4.shr_s(i32x4.sub(count, one), 1));
  const middle = f32x4.mul(half, f32x4.add(pick(sorted, lower), pick(sorted, i32x4.min_s(upper, i32x4.splat(frames - 1)))));
  const last = f32x4.convert_i32x4_s(i32x4.max_s(i32x4.splat(0), i32x4.sub(count, one)));
  const high = pick(sorted, i32x4.trunc_sat_f32x4_s(f32x4.floor(f32x4.mul(last, f32x4.splat(0.75)))));
  const low = pick(sorted, i32x4.trunc_sat_f32x4_s(f32x4.ceil(f32x4.mul(last, f32x4.splat(0.25)))));
  let deviation = f32x4.mul(f32x4.sub(high, low), f32x4.splat(1 / 1.349));
  const able = v128.and(f32x4.gt(deviation, zero), i32x4.gt_s(count, i32x4.splat(2)));
  if (!v128.any_true(able)) return;
  const degrees = f32x4.div(f32x4.splat(1), f32x4.pmax(f32x4.splat(1), last));
  let open = able;
  for (let pass = 0; pass < 4; pass++) {
    const reach = f32x4.mul(deviation, f32x4.splat(1.5));
    const least = f32x4.neg(reach);
    let square = zero;
    for (let f = 0; f < frames; f++) {
      const v = v128.load(values + (<usize>f << 4));
      const d = f32x4.pmax(least, f32x4.pmin(reach, f32x4.sub(v, middle)));
      square = f32x4.add(square, v128.and(f32x4.lt(v, none), f32x4.mul(d, d)));
    }
    const next = f32x4.mul(f32x4.splat(1.134), f32x4.sqrt(f32x4.mul(square, degrees)));
    const settled = f32x4.lt(f32x4.abs(f32x4.sub(next, deviation)), f32x4.mul(deviation, f32x4.splat(0.005)));
    deviation = v128.bitselect(next, deviation, open);
    open = v128.andnot(open, settled);
    if (!v128.any_true(open)) break;
  }
  const limit = f32x4.mul(deviation, f32x4.splat(2.5));
  for (let f = 0; f < frames; f++) {
    const at = <usize>f << 4;
    const far = v128.and(able, f32x4.gt(f32x4.abs(f32x4.sub(v128.load(values + at), middle)), limit));
    v128.store(kept + at, v128.andnot(v128.load(kept + at), far));
  }
}

/** Keeps in each lane the one frame whose value times `sign` is least, and returns it. */
@inline
function keepExtreme(values: usize, kept: usize, frames: i32, sign: f32): v128 {
  const s = f32x4.splat(sign), none = f32x4.splat(INFINITY);
  let best = none, which = i32x4.splat(-1);
  for (let f = 0; f < frames; f++) {
    const v = v128.load(values + (<usize>f << 4));
    const score = f32x4.mul(s, v);
    const better = v128.and(f32x4.lt(score, best), f32x4.lt(v, none));
    best = v128.bitselect(score, best, better);
    which = v128.bitselect(i32x4.splat(f), which, better);
  }
  for (let f = 0; f < frames; f++) v128.store(kept + (<usize>f << 4), i32x4.eq(which, i32x4.splat(f)));
  return v128.and(f32x4.mul(s, best), f32x4.lt(best, none));
}

/** Keeps in each lane the frame nearest to `middle`, and those as near to a thousandth. */
@inline
function keepNearest(values: usize, kept: usize, frames: i32, middle: v128): void {
  const none = f32x4.splat(INFINITY);
  let nearest = none;
  for (let f = 0; f < frames; f++)
    nearest = f32x4.pmin(nearest, f32x4.abs(f32x4.sub(v128.load(values + (<usize>f << 4)), middle)));
  const reach = f32x4.add(f32x4.mul(nearest, f32x4.splat(1.001)), f32x4.splat(1e-7));
  for (let f = 0; f < frames; f++) {
    const v = v128.load(values + (<usize>f << 4));
    v128.store(kept + (<usize>f << 4), v128.and(f32x4.lt(v, none), f32x4.le(f32x4.abs(f32x4.sub(v, middle)), reach)));
  }
}

/**
 * One row of one channel. @param list addresses of the frames' rows, 4 bytes each; infinite where a frame does not reach
 * @param weights of the frames, floats @param method 0 mean, 1 median, 2 clip, 3 max, 4 min @param pairs network that sorts so many frames
 * @param scratch three rows of `frames` × 16 bytes @param out the row, light
 * @param shares addresses of rows of bytes of half the width that take each frame's share, or 0
 * @returns samples turned down
 */
export function stackRow(
  list: usize, frames: i32, n: i32, weights: usize, method: i32, pairs: usize, pairCount: i32, scratch: usize, out: usize, shares: usize,
): i32 {
  const values = scratch, kept = scratch + (<usize>frames << 4), sorted = kept + (<usize>frames << 4);
  const none = f32x4.splat(INFINITY), zero = f32x4.splat(0);
  let turned: i32 = 0;
  for (let x = 0; x < n; x += 4) {
    const o = <usize>x << 2;
    let count = i32x4.splat(0);
    for (let f = 0; f < frames; f++) {
      const at = <usize>f << 4;
      const v = v128.load(<usize>load<u32>(list + (<usize>f << 2)) + o);
      const seen = f32x4.lt(v, none);
      v128.store(values + at, v);
      v128.store(sorted + at, v);
      v128.store(kept + at, seen);
      count = i32x4.sub(count, seen);
    }
    let result = zero;
    if (method == 1 || method == 2) sort(sorted, pairs, pairCount);
    if (method == 1) {
      const upper = i32x4.min_s(i32x4.shr_s(count, 1), i32x4.splat(frames - 1));
      const lower = i32x4.max_s(i32x4.splat(0), i32x4.shr_s(i32x4.sub(count, i32x4.splat(1)), 1));
      const middle = f32x4.mul(f32x4.splat(0.5), f32x4.add(pick(sorted, lower), pick(sorted, upper)));
      keepNearest(values, kept, frames, middle);
      result = v128.and(middle, f32x4.lt(middle, none));
    } else if (method == 3) result = keepExtreme(values, kept, frames, -1);
    else if (method == 4) result = keepExtreme(values, kept, frames, 1);
    else {
      if (method == 2) clip(values, kept, sorted, frames, count);
      let total = zero;
      let left = i32x4.splat(0);
      for (let f = 0; f < frames; f++) {
        const at = <usize>f << 4;
        const keep = v128.load(kept + at);
        const w = v128.and(keep, v128.load32_splat(weights + (<usize>f << 2)));
        result = f32x4.add(result, f32x4.mul(w, v128.and(keep, v128.load(values + at))));
        total = f32x4.add(total, w);
        left = i32x4.sub(left, keep);
      }
      result = v128.and(f32x4.gt(total, zero), f32x4.div(result, total));
      if (method == 2) {
        const lost = i32x4.sub(count, left);
        turned += i32x4.extract_lane(lost, 0);
        if (x + 1 < n) turned += i32x4.extract_lane(lost, 1);
        if (x + 2 < n) turned += i32x4.extract_lane(lost, 2);
        if (x + 3 < n) turned += i32x4.extract_lane(lost, 3);
      }
    }
    v128.store(out + o, result);
    if (shares) {
      let total = zero;
      for (let f = 0; f < frames; f++)
        total = f32x4.add(total, v128.and(v128.load(kept + (<usize>f << 4)), v128.load32_splat(weights + (<usize>f << 2))));
      const scale = v128.and(f32x4.gt(total, zero), f32x4.div(f32x4.splat(255), total));
      for (let f = 0; f < frames; f++) {
        const w = v128.and(v128.load(kept + (<usize>f << 4)), v128.load32_splat(weights + (<usize>f << 2)));
        const share = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(w, scale), f32x4.splat(0.5)));
        const to = <usize>load<u32>(shares + (<usize>f << 2)) + <usize>(x >> 1);
        store<u8>(to, <u8>i32x4.extract_lane(share, 0));
        if (x + 2 < n) store<u8>(to, <u8>i32x4.extract_lane(share, 2), 1);
      }
    }
  }
  return turned;
}
