// Means over square windows and the guided filter made of them. Rows are written four pixels at a time, and what goes beyond a row's end is
// overwritten by the next row or lies in the slack.

@inline
export function rowOf(plane: usize, y: i32, w: i32): usize {
  return plane + (<usize>(y * w) << 2);
}

@inline
export function clampRow(y: i32, h: i32): i32 {
  return max<i32>(0, min<i32>(h - 1, y));
}

/** Means over (2r + 1)² windows cut off at the borders, by running sums in double precision. `rows` is a plane, `column` w + 4 f64. */
export function meanPlane(src: usize, w: i32, h: i32, r: i32, dst: usize, rows: usize, column: usize): void {
  for (let y = 0; y < h; y++) {
    const p = rowOf(src, y, w), q = rowOf(rows, y, w);
    let sum: f64 = 0;
    let n = min<i32>(w, r);
    for (let x = 0; x < n; x++) sum += <f64>load<f32>(p + (<usize>x << 2));
    let x = 0;
    for (; x < w && (x <= r || x + r >= w); x++) {
      if (x + r < w) {
        sum += <f64>load<f32>(p + (<usize>(x + r) << 2));
        n++;
      }
      if (x > r) {
        sum -= <f64>load<f32>(p + (<usize>(x - r - 1) << 2));
        n--;
      }
      store<f32>(q + (<usize>x << 2), <f32>(sum / <f64>n));
    }
    // away from the borders the window is whole
    const share = 1 / <f64>(2 * r + 1);
    for (; x + r < w; x++) {
      sum += <f64>load<f32>(p + (<usize>(x + r) << 2)) - <f64>load<f32>(p + (<usize>(x - r - 1) << 2));
      store<f32>(q + (<usize>x << 2), <f32>(sum * share));
    }
    n = 2 * r + 1;
    for (; x < w; x++) {
      sum -= <f64>load<f32>(p + (<usize>(x - r - 1) << 2));
      n--;
      store<f32>(q + (<usize>x << 2), <f32>(sum / <f64>n));
    }
  }
  memory.fill(column, 0, (<usize>w + 4) << 3);
  let n = min<i32>(h, r);
  for (let y = 0; y < n; y++) addRow(column, rowOf(rows, y, w), w, 1);
  for (let y = 0; y < h; y++) {
    if (y + r < h) {
      addRow(column, rowOf(rows, y + r, w), w, 1);
      n++;
    }
    if (y > r) {
      addRow(column, rowOf(rows, y - r - 1, w), w, -1);
      n--;
    }
    const q = rowOf(dst, y, w);
    const share = f64x2.splat(1 / <f64>n);
    for (let x = 0; x < w; x += 4) {
      const c = column + (<usize>x << 3);
      const low = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(c), share));
      const high = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(c, 16), share));
      v128.store(q + (<usize>x << 2), v128.shuffle<i64>(low, high, 0, 2));
    }
  }
}

@inline
export function addRow(column: usize, row: usize, w: i32, sign: f64): void {
  const s = f64x2.splat(sign);
  for (let x = 0; x < w; x += 4) {
    const c = column + (<usize>x << 3);
    const v = v128.load(row + (<usize>x << 2));
    v128.store(c, f64x2.add(v128.load(c), f64x2.mul(s, f64x2.promote_low_f32x4(v))));
    const high = f64x2.promote_low_f32x4(v128.shuffle<i64>(v, v, 1, 0));
    v128.store(c, f64x2.add(v128.load(c, 16), f64x2.mul(s, high)), 16);
  }
}

/** What a guided filter asks of its guide, once: its mean and the mean of its square. `work` and `rows` are planes of room. */
export function guideMeans(guide: usize, w: i32, h: i32, r: i32, mean: usize, square: usize, work: usize, rows: usize, column: usize): void {
  const n = w * h;
  meanPlane(guide, w, h, r, mean, rows, column);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const v = v128.load(guide + o);
    v128.store(work + o, f32x4.mul(v, v));
  }
  meanPlane(work, w, h, r, square, rows, column);
}

/** The guided filter (He, Sun & Tang 2010) of `input` under a guide whose means are known; four planes from `scratch` on are room. `out` may be `input`. */
export function guidedUnder(
  input: usize, guide: usize, meanGuide: usize, square: usize, w: i32, h: i32, r: i32, smoothness: f32, out: usize, scratch: usize, plane: usize, column: usize,
): void {
  const n = w * h;
  const meanInput = scratch, cross = meanInput + plane, work = cross + plane, rows = work + plane;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(work + o, f32x4.mul(v128.load(guide + o), v128.load(input + o)));
  }
  meanPlane(work, w, h, r, cross, rows, column);
  meanPlane(input, w, h, r, meanInput, rows, column);
  const eps = f32x4.splat(smoothness);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const g = v128.load(meanGuide + o), m = v128.load(meanInput + o);
    const variance = f32x4.sub(v128.load(square + o), f32x4.mul(g, g));
    const a = f32x4.div(f32x4.sub(v128.load(cross + o), f32x4.mul(g, m)), f32x4.add(variance, eps));
    v128.store(work + o, a);
    v128.store(meanInput + o, f32x4.sub(m, f32x4.mul(a, g)));
  }
  meanPlane(work, w, h, r, cross, rows, column);
  meanPlane(meanInput, w, h, r, work, rows, column);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(out + o, f32x4.add(f32x4.mul(v128.load(cross + o), v128.load(guide + o)), v128.load(work + o)));
  }
}

/** Both at once for one plane; the seven planes from `scratch` on are room, the first of them gets the result. */
export function guidedPlane(input: usize, guide: usize, w: i32, h: i32, r: i32, smoothness: f32, scratch: usize, plane: usize, column: usize): void {
  const mean = scratch + plane, square = mean + plane, work = square + plane;
  guideMeans(guide, w, h, r, mean, square, work, work + plane, column);
  guidedUnder(input, guide, mean, square, w, h, r, smoothness, scratch, work, plane, column);
}

/**
 * Takes the local mean of values away and, with `divide`, their local deviation (+`least`) out, in place; the variance follows.
 * @param held share 0…1 of each pixel that counts; where a window holds less than `some` of itself its mean is 0
 * @param scratch five planes of room
 */
export function structurePlane(
  value: usize, variance: usize, held: usize, w: i32, h: i32, r: i32, divide: i32, least: f32, some: f32, scratch: usize, plane: usize, column: usize,
): void {
  const n = w * h;
  const work = scratch, rows = work + plane, count = rows + plane, mean = count + plane, square = mean + plane;
  meanPlane(held, w, h, r, count, rows, column);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(work + o, f32x4.mul(v128.load(held + o), v128.load(value + o)));
  }
  meanPlane(work, w, h, r, mean, rows, column);
  if (divide) {
    for (let i = 0; i < n; i += 4) {
      const o = <usize>i << 2;
      v128.store(work + o, f32x4.mul(v128.load(work + o), v128.load(value + o)));
    }
    meanPlane(work, w, h, r, square, rows, column);
  }
  const one = f32x4.splat(1), zero = f32x4.splat(0), added = f32x4.splat(least), enough = f32x4.splat(some);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const c = v128.load(count + o);
    const k = v128.and(f32x4.gt(c, enough), f32x4.div(one, c));
    const m = f32x4.mul(v128.load(mean + o), k);
    const from = f32x4.sub(v128.load(value + o), m);
    if (!divide) {
      v128.store(value + o, from);
      continue;
    }
    const spread = f32x4.sub(f32x4.mul(v128.load(square + o), k), f32x4.mul(m, m));
    const s = f32x4.div(one, f32x4.add(f32x4.sqrt(f32x4.pmax(zero, spread)), added));
    v128.store(value + o, f32x4.mul(from, s));
    v128.store(variance + o, f32x4.mul(v128.load(variance + o), f32x4.mul(s, s)));
  }
}
