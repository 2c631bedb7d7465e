// Sharpness of a frame on cells of two by two pixels.

@inline
function greyAt(p: usize, bytes: i32): f32 {
  if (bytes == 1) return <f32>load<u8>(p) + 2 * <f32>load<u8>(p, 1) + <f32>load<u8>(p, 2);
  if (bytes == 2) return <f32>load<u16>(p) + 2 * <f32>load<u16>(p, 2) + <f32>load<u16>(p, 4);
  return load<f32>(p) + 2 * load<f32>(p, 4) + load<f32>(p, 8);
}

/** Rows of interleaved codes as (R + 2G + B) · `scale`, with `rim` pixels beside both ends that repeat the last one. */
export function greyRows(src: usize, bytes: i32, w: i32, rows: i32, scale: f32, rim: i32, dst: usize, stride: i32): void {
  const step = <usize>bytes * 3;
  for (let y = 0; y < rows; y++) {
    const row = dst + (<usize>(y * stride) << 2);
    let p = src + <usize>(y * w) * step;
    let q = row + (<usize>rim << 2);
    for (let x = 0; x < w; x++, p += step, q += 4) store<f32>(q, scale * greyAt(p, bytes));
    const first = load<f32>(row + (<usize>rim << 2)), last = load<f32>(q - 4);
    for (let x = 0; x < rim; x++) {
      store<f32>(row + (<usize>x << 2), first);
      store<f32>(q + (<usize>x << 2), last);
    }
  }
}

/** |2c − a − b| */
@inline
function bend(twice: v128, a: v128, b: v128): v128 {
  return f32x4.abs(f32x4.sub(twice, f32x4.add(a, b)));
}

/** Sums of neighbours: [a0 + a1, a2 + a3, b0 + b1, b2 + b3]. */
@inline
function pairs(a: v128, b: v128): v128 {
  return f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7));
}

/**
 * The squared sum-modified Laplacian of two rows at steps of one and of four pixels, and their grey, summed over cells two pixels wide and added
 * to what the cells hold.
 * @param row of the first pixel, after the rim of four @param up1, down1, up4, down4 the rows above and below it
 * @param n pixels; up to four cells are written beyond @param share of the sums that is added
 */
export function laplacianCells(
  row: usize, up1: usize, down1: usize, up4: usize, down4: usize, n: i32, share: f32, fine: usize, coarse: usize, grey: usize,
): void {
  const part = f32x4.splat(share);
  for (let x = 0; x < n; x += 8) {
    const o = <usize>x << 2;
    const c = <usize>x << 1;
    let near0 = f32x4.splat(0), far0 = near0, sum0 = near0;
    let near1 = near0, far1 = near0, sum1 = near0;
    for (let half = 0; half < 2; half++) {
      const at = o + (<usize>half << 4);
      const v = v128.load(row + at);
      const twice = f32x4.add(v, v);
      const near = f32x4.add(
        bend(twice, v128.load(row + at - 4), v128.load(row + at, 4)),
        bend(twice, v128.load(up1 + at), v128.load(down1 + at)),
      );
      const far = f32x4.add(
        bend(twice, v128.load(row + at - 16), v128.load(row + at, 16)),
        bend(twice, v128.load(up4 + at), v128.load(down4 + at)),
      );
      const live = inRow(x + 4 * half, n);
      const e = v128.and(live, f32x4.mul(near, near)), f = v128.and(live, f32x4.mul(far, far)), g = v128.and(live, v);
      if (half == 0) {
        near0 = e;
        far0 = f;
        sum0 = g;
      } else {
        near1 = e;
        far1 = f;
        sum1 = g;
      }
    }
    v128.store(fine + c, f32x4.add(v128.load(fine + c), f32x4.mul(part, pairs(near0, near1))));
    v128.store(coarse + c, f32x4.add(v128.load(coarse + c), f32x4.mul(part, pairs(far0, far1))));
    v128.store(grey + c, f32x4.add(v128.load(grey + c), f32x4.mul(part, pairs(sum0, sum1))));
  }
}

/** All bits of the lanes whose pixel lies before `n`. */
@inline
function inRow(x: i32, n: i32): v128 {
  return i32x4.lt_s(i32x4.add(i32x4.splat(x), i32x4(0, 1, 2, 3)), i32x4.splat(n));
}

@inline
function listed(list: usize, k: i32): usize {
  return <usize>load<u32>(list + (<usize>k << 2));
}

/**
 * What each cell says by itself. @param fine, smooth, grey addresses of the frames' planes; `fine` is below 0 where a frame does not reach
 * @param unsure energy that makes a cell half sure @param shares addresses of the planes that take each frame's share times how sure it is
 */
export function ownShares(fine: usize, smooth: usize, grey: usize, frames: i32, n: i32, unsure: f32, guide: usize, sure: usize, shares: usize): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const others = f32x4.splat(frames > 1 ? 1 / <f32>(frames - 1) : 0);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    let top = f32x4.splat(-1), sum = zero, cubes = zero, tone = v128.load(listed(grey, 0) + o);
    for (let f = 0; f < frames; f++) {
      const seen = f32x4.ge(v128.load(listed(fine, f) + o), zero);
      const e = v128.and(seen, v128.load(listed(smooth, f) + o));
      sum = f32x4.add(sum, e);
      cubes = f32x4.add(cubes, f32x4.mul(f32x4.mul(e, e), e));
      const better = v128.and(seen, f32x4.gt(e, top));
      top = v128.bitselect(e, top, better);
      tone = v128.bitselect(v128.load(listed(grey, f) + o), tone, better);
    }
    v128.store(guide + o, tone);
    const rest = f32x4.mul(f32x4.sub(sum, top), others);
    const stands = frames > 1 ? f32x4.div(f32x4.sub(top, rest), f32x4.add(top, f32x4.splat(1e-12))) : one;
    const clear = f32x4.div(top, f32x4.add(top, f32x4.splat(unsure)));
    const speaks = v128.and(f32x4.ge(top, zero), f32x4.mul(f32x4.pmax(zero, stands), clear));
    v128.store(sure + o, speaks);
    const share = f32x4.div(speaks, f32x4.add(cubes, f32x4.splat(1e-30)));
    for (let f = 0; f < frames; f++) {
      const seen = f32x4.ge(v128.load(listed(fine, f) + o), zero);
      const e = v128.load(listed(smooth, f) + o);
      v128.store(listed(shares, f) + o, v128.and(seen, f32x4.mul(f32x4.mul(f32x4.mul(e, e), e), share)));
    }
  }
}

/**
 * Adds to `mixed` as much of the answers as is known, and takes it from what is `left`.
 * @param trust how much of a place is answered for so much known; infinite: all that is left
 */
export function takeAnswers(mixed: usize, left: usize, known: usize, answers: usize, frames: i32, n: i32, trust: f32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const all = trust == Infinity;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const k = v128.load(known + o), rest = v128.load(left + o);
    const some = f32x4.gt(k, f32x4.splat(1e-9));
    const part = all ? one : f32x4.pmin(one, f32x4.mul(k, f32x4.splat(trust)));
    const taken = v128.and(some, f32x4.mul(rest, part));
    const scale = v128.and(some, f32x4.div(taken, k));
    for (let f = 0; f < frames; f++) {
      const p = listed(mixed, f) + o;
      v128.store(p, f32x4.add(v128.load(p), f32x4.mul(scale, f32x4.pmax(zero, v128.load(listed(answers, f) + o)))));
    }
    v128.store(left + o, f32x4.sub(rest, taken));
  }
}

/** What lies above 0. */
export function aboveZero(src: usize, n: i32, dst: usize): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(dst + o, f32x4.pmax(f32x4.splat(0), v128.load(src + o)));
  }
}

/** Means of blocks of 4 × 4 cells; those at the right and lower border may be smaller. */
export function blockMeans(src: usize, w: i32, h: i32, dst: usize): void {
  const columns = (w + 3) >> 2, rows = (h + 3) >> 2;
  const stride = <usize>w << 2;
  for (let v = 0; v < rows; v++) {
    const own = min<i32>(4, h - 4 * v);
    const first = src + <usize>(4 * v) * stride;
    const out = dst + (<usize>(v * columns) << 2);
    const count = own << 2;
    const share = <f32>1 / <f32>count;
    let u = 0;
    for (; 4 * u + 4 <= w; u++) {
      let sum = f32x4.splat(0);
      for (let y = 0; y < own; y++) sum = f32x4.add(sum, v128.load(first + <usize>y * stride + (<usize>u << 4)));
      store<f32>(
        out + (<usize>u << 2),
        share * (f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3)),
      );
    }
    if (u < columns) {
      let sum: f32 = 0;
      for (let y = 0; y < own; y++)
        for (let x = 4 * u; x < w; x++) sum += load<f32>(first + <usize>y * stride + (<usize>x << 2));
      store<f32>(out + (<usize>u << 2), sum / <f32>(own * (w - 4 * u)));
    }
  }
}

/** A plane at a place between four of its cells. */
@inline
function between(plane: usize, right: usize, down: usize, a: f32, b: f32, c: f32, d: f32): f32 {
  return a * load<f32>(plane) + b * load<f32>(plane + right) + c * load<f32>(plane + down) + d * load<f32>(plane + right + down);
}

/**
 * Lays a frame's cells on the reference's, linearly between them. @param src fine, coarse and grey cells of w × h, `plane` bytes apart
 * @param imageW, imageH pixels of the frame @param width, height pixels of the reference
 * @param noise taken from what is fine; fine is −1 where not all of a cell lies on the frame
 * @param dst three planes of the reference's cells, `outPlane` bytes apart
 */
export function layCells(
  src: usize, plane: usize, w: i32, h: i32, imageW: i32, imageH: i32, width: i32, height: i32, noise: f32, dst: usize, outPlane: usize,
  m0: f64, m1: f64, m2: f64, m3: f64, m4: f64, m5: f64, m6: f64, m7: f64, m8: f64,
): void {
  const maxX = <f64>(imageW - 1) + 1e-6, maxY = <f64>(imageH - 1) + 1e-6;
  const lastX = <f32>(w - 1), lastY = <f32>(h - 1);
  const stride = <usize>w << 2;
  let o = dst;
  for (let y = 0; y < height; y += 2) {
    // the last cell of an odd picture has one pixel
    const ey: f64 = y + 1 < height ? 0.5 : 0;
    const Y = <f64>y + ey;
    for (let x = 0; x < width; x += 2, o += 4) {
      const ex: f64 = x + 1 < width ? 0.5 : 0;
      const X = <f64>x + ex;
      const d = 1.0 / (m6 * X + m7 * Y + m8);
      const u = (m0 * X + m1 * Y + m2) * d, v = (m3 * X + m4 * Y + m5) * d;
      const s0 = <f32>((u - 0.5) * 0.5), t0 = <f32>((v - 0.5) * 0.5);
      const s: f32 = s0 > 0 ? (s0 < lastX ? s0 : lastX) : 0;
      const t: f32 = t0 > 0 ? (t0 < lastY ? t0 : lastY) : 0;
      const is = <i32>s, it = <i32>t;
      const fs = s - <f32>is, ft = t - <f32>it;
      const right: usize = is + 1 < w ? 4 : 0;
      const down: usize = it + 1 < h ? stride : 0;
      const p = src + (<usize>is << 2) + <usize>it * stride;
      const d11 = fs * ft, d10 = fs - d11, d01 = ft - d11, d00 = <f32>1 - fs - d01;
      const seen = d > 0 && u - ex >= -1e-6 && v - ey >= -1e-6 && u + ex <= maxX && v + ey <= maxY;
      const e = between(p, right, down, d00, d10, d01, d11) - noise;
      store<f32>(o, seen ? (e > 0 ? e : 0) : -1);
      store<f32>(o + outPlane, between(p + plane, right, down, d00, d10, d01, d11));
      store<f32>(o + 2 * outPlane, between(p + 2 * plane, right, down, d00, d10, d01, d11));
    }
  }
}

/**
 * Each frame's share of a cell and the depth that they make: what near surroundings answered, and the far ones for what is left.
 * @param mixed, far, fine, planes addresses of the frames' planes; `planes` are filled, and 0 where `fine` is below 0
 */
export function settleShares(mixed: usize, left: usize, far: usize, fine: usize, frames: i32, n: i32, planes: usize, depth: usize): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const rest = v128.load(left + o);
    let total = zero;
    for (let f = 0; f < frames; f++) {
      const answer = f32x4.add(v128.load(listed(mixed, f) + o), f32x4.mul(rest, v128.load(listed(far, f) + o)));
      const seen = f32x4.ge(v128.load(listed(fine, f) + o), zero);
      const share = v128.and(seen, f32x4.add(answer, f32x4.splat(1e-12)));
      v128.store(listed(planes, f) + o, share);
      total = f32x4.add(total, share);
    }
    const some = f32x4.gt(total, zero);
    const scale = v128.and(some, f32x4.div(one, total));
    let place = zero;
    for (let f = 0; f < frames; f++) {
      const p = listed(planes, f) + o;
      let share = f32x4.mul(v128.load(p), scale);
      if (f == 0) share = v128.bitselect(share, one, some);
      v128.store(p, share);
      place = f32x4.add(place, f32x4.mul(share, f32x4.splat(<f32>f)));
    }
    v128.store(depth + o, place);
  }
}

/**
 * Counts cells of clear structure, and those of which the shares take little. @param energy, planes addresses of the frames' planes
 * @returns clear + lost · 2^26
 */
export function countLost(energy: usize, planes: usize, frames: i32, n: i32, floor: f32, little: f32): f64 {
  let clear = 0, lost = 0;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    let most = f32x4.splat(0), taken = most;
    for (let f = 0; f < frames; f++) {
      const e = v128.load(listed(energy, f) + o);
      most = f32x4.pmax(most, e);
      taken = f32x4.add(taken, f32x4.mul(e, v128.load(listed(planes, f) + o)));
    }
    const live = v128.and(f32x4.ge(most, f32x4.splat(floor)), inRow(i, n));
    clear += popcnt<i32>(i32x4.bitmask(live));
    lost += popcnt<i32>(i32x4.bitmask(v128.and(live, f32x4.lt(taken, f32x4.mul(most, f32x4.splat(little))))));
  }
  return <f64>clear + <f64>lost * 67108864;
}

/** Sum of the squares of three planes. */
export function energyPlane(r: usize, g: usize, b: usize, n: i32, dst: usize): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const x = v128.load(r + o), y = v128.load(g + o), z = v128.load(b + o);
    v128.store(dst + o, f32x4.add(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)), f32x4.mul(z, z)));
  }
}

/**
 * Adds one level of a frame by how much detail it shows: (1 + energy over the floor)⁶, energy at most 10⁵ floors.
 * @param local mean energy around each place; becomes the weight @param seen 1 where all of a place is seen
 * @param own energy of noise @param inverse of the floor @param planes, sums addresses of three planes each
 */
export function addBySalience(
  local: usize, seen: usize, n: i32, own: f32, inverse: f32, planes: usize, sums: usize, total: usize,
): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const above = f32x4.pmax(zero, f32x4.sub(v128.load(local + o), f32x4.splat(own)));
    const e = f32x4.add(one, f32x4.pmin(f32x4.splat(1e5), f32x4.mul(above, f32x4.splat(inverse))));
    const e2 = f32x4.mul(e, e);
    const covered = f32x4.gt(v128.load(seen + o), f32x4.splat(0.999));
    const w = f32x4.mul(f32x4.mul(e2, f32x4.mul(e2, e2)), v128.bitselect(one, f32x4.splat(1e-6), covered));
    v128.store(local + o, w);
    v128.store(total + o, f32x4.add(v128.load(total + o), w));
    for (let c = 0; c < 3; c++) {
      const s = listed(sums, c) + o;
      v128.store(s, f32x4.add(v128.load(s), f32x4.mul(w, v128.load(listed(planes, c) + o))));
    }
  }
}

/** Divides a plane by another. */
export function dividePlane(plane: usize, by: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(plane + o, f32x4.div(v128.load(plane + o), v128.load(by + o)));
  }
}
