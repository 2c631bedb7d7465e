// Light of a plane at places that lie anyhow, through a separable point spread of at most eight taps.

/** What lies far outside, or nowhere, sees the border. */
@inline
function within(place: f64): f64 {
  return place > -1e6 && place < 1e6 ? place : 0;
}

/** The row of the table for a fraction of −½ … ½. */
@inline
function weightsAt(table: usize, fraction: f64, phases: i32): usize {
  return table + (<usize><i32>((fraction + 0.5) * <f64>phases + 0.5) << 5);
}

/**
 * For each of `n` places (pairs of f64: column, row) the sum of `taps` × `taps` samples around it, weighed by the row of the table that
 * belongs to the place's fraction. The table has `phases` + 1 rows of eight floats, unused ones 0; columns and rows beyond the border repeat it.
 */
export function gatherSpread(src: usize, W: i32, H: i32, places: usize, n: i32, table: usize, phases: i32, taps: i32, out: usize): void {
  const reach = taps >> 1;
  for (let o = 0; o < n; o++) {
    const u = within(load<f64>(places + (<usize>o << 4)));
    const v = within(load<f64>(places + (<usize>o << 4), 8));
    const iu = <i32>Math.floor(u + 0.5);
    const iv = <i32>Math.floor(v + 0.5);
    const across = weightsAt(table, u - <f64>iu, phases);
    const down = weightsAt(table, v - <f64>iv, phases);
    const left = iu - reach;
    const inside = left >= 0 && left + taps <= W;
    const a = v128.load(across), b = v128.load(across, 16);
    let sum = f32x4.splat(0);
    let rest: f32 = 0;
    for (let j = 0; j < taps; j++) {
      const line = max<i32>(0, min<i32>(H - 1, iv - reach + j));
      const row = src + (<usize>(line * W) << 2);
      const w = load<f32>(down + (<usize>j << 2));
      if (inside) {
        const at = row + (<usize>left << 2);
        const along = f32x4.add(f32x4.mul(a, v128.load(at)), f32x4.mul(b, v128.load(at, 16)));
        sum = f32x4.add(sum, f32x4.mul(along, f32x4.splat(w)));
      } else {
        let along: f32 = 0;
        for (let i = 0; i < taps; i++)
          along += load<f32>(across + (<usize>i << 2)) * load<f32>(row + (<usize>max<i32>(0, min<i32>(W - 1, left + i)) << 2));
        rest += along * w;
      }
    }
    const total =
      f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3) + rest;
    store<f32>(out + (<usize>o << 2), total);
  }
}

@inline
function five(at: usize, a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(a, v128.load(at)), f32x4.mul(b, v128.load(at, 16))),
    f32x4.add(
      f32x4.add(f32x4.mul(c, v128.load(at, 32)), f32x4.mul(d, v128.load(at, 48))),
      f32x4.mul(e, v128.load(at, 64)),
    ),
  );
}

/**
 * The same for three colours at once that look at the same places: `src` holds red, green, blue and nothing beside each other, `out` is three planes
 * of `plane` bytes.
 */
export function gatherColours(src: usize, W: i32, H: i32, places: usize, n: i32, table: usize, phases: i32, taps: i32, out: usize, plane: usize): void {
  const reach = taps >> 1;
  for (let o = 0; o < n; o++) {
    const u = within(load<f64>(places + (<usize>o << 4)));
    const v = within(load<f64>(places + (<usize>o << 4), 8));
    const iu = <i32>Math.floor(u + 0.5);
    const iv = <i32>Math.floor(v + 0.5);
    const across = weightsAt(table, u - <f64>iu, phases);
    const down = weightsAt(table, v - <f64>iv, phases);
    const left = iu - reach;
    const inside = left >= 0 && left + taps <= W;
    let sum = f32x4.splat(0);
    if (taps == 5 && inside && iv >= 2 && iv + 2 < H) {
      // the ordinary case: weights stay in registers
      const a = v128.load32_splat(across), b = v128.load32_splat(across, 4), c = v128.load32_splat(across, 8);
      const d = v128.load32_splat(across, 12), e = v128.load32_splat(across, 16);
      const stride = <usize>W << 4;
      let at = src + (<usize>((iv - 2) * W + left) << 4);
      sum = f32x4.mul(v128.load32_splat(down), five(at, a, b, c, d, e));
      at += stride;
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(down, 4), five(at, a, b, c, d, e)));
      at += stride;
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(down, 8), five(at, a, b, c, d, e)));
      at += stride;
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(down, 12), five(at, a, b, c, d, e)));
      at += stride;
      sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(down, 16), five(at, a, b, c, d, e)));
      const to = out + (<usize>o << 2);
      store<f32>(to, f32x4.extract_lane(sum, 0));
      store<f32>(to + plane, f32x4.extract_lane(sum, 1));
      store<f32>(to + 2 * plane, f32x4.extract_lane(sum, 2));
      continue;
    }
    for (let j = 0; j < taps; j++) {
      const line = max<i32>(0, min<i32>(H - 1, iv - reach + j));
      const row = src + (<usize>(line * W) << 4);
      let along = f32x4.splat(0);
      if (inside) {
        const at = row + (<usize>left << 4);
        for (let i = 0; i < taps; i++)
          along = f32x4.add(along, f32x4.mul(v128.load32_splat(across + (<usize>i << 2)), v128.load(at + (<usize>i << 4))));
      } else
        for (let i = 0; i < taps; i++) {
          const at = row + (<usize>max<i32>(0, min<i32>(W - 1, left + i)) << 4);
          along = f32x4.add(along, f32x4.mul(v128.load32_splat(across + (<usize>i << 2)), v128.load(at)));
        }
      sum = f32x4.add(sum, f32x4.mul(along, v128.load32_splat(down + (<usize>j << 2))));
    }
    const to = out + (<usize>o << 2);
    store<f32>(to, f32x4.extract_lane(sum, 0));
    store<f32>(to + plane, f32x4.extract_lane(sum, 1));
    store<f32>(to + 2 * plane, f32x4.extract_lane(sum, 2));
  }
}

/** Red, green, blue and nothing of `n` pixels beside each other, from planes `plane` bytes apart. */
export function layBeside(src: usize, plane: usize, n: i32, out: usize): void {
  const none = f32x4.splat(0);
  let i = 0;
  for (; i + 4 <= n; i += 4, out += 64) {
    const from = src + (<usize>i << 2);
    const r = v128.load(from), g = v128.load(from + plane), b = v128.load(from + 2 * plane);
    const lowRedGreen = v128.shuffle<i32>(r, g, 0, 4, 1, 5), highRedGreen = v128.shuffle<i32>(r, g, 2, 6, 3, 7);
    const lowBlue = v128.shuffle<i32>(b, none, 0, 4, 1, 5), highBlue = v128.shuffle<i32>(b, none, 2, 6, 3, 7);
    v128.store(out, v128.shuffle<i64>(lowRedGreen, lowBlue, 0, 2));
    v128.store(out, v128.shuffle<i64>(lowRedGreen, lowBlue, 1, 3), 16);
    v128.store(out, v128.shuffle<i64>(highRedGreen, highBlue, 0, 2), 32);
    v128.store(out, v128.shuffle<i64>(highRedGreen, highBlue, 1, 3), 48);
  }
  for (; i < n; i++, out += 16) {
    const from = src + (<usize>i << 2);
    store<f32>(out, load<f32>(from));
    store<f32>(out, load<f32>(from + plane), 4);
    store<f32>(out, load<f32>(from + 2 * plane), 8);
    store<f32>(out, 0, 12);
  }
}
