// Water in motion: what each of its pixels shows while the shutter is open.

/** Rows of `waves`: change along and away from the view and phase, in steps of the table of sines, as f64. */
const WAVE: usize = 24;

/**
 * For every pixel of the `mask` of `w` × `rows` the mean of what the surface shows at the places that travelling waves turn it to.
 * `src` holds red, green, blue and nothing beside each other, `out` is three planes `plane` bytes apart; pixels that are no water are
 * copied. `byTime` holds for each wave, its cosine and then its sine, `padded` moments; waves from `rightward` on run to the left. `sines`
 * are `turn` (a power of 2) floats; `offsets` is room for `padded` pairs of offsets. With `ways` of 2 each moment is also seen mirrored.
 */
export function mixRipples(src: usize, mask: usize, distance: usize, w: i32, rows: i32, waves: usize, count: i32, rightward: i32, byTime: usize, steps: i32, padded: i32, ways: i32, sines: usize, turn: i32, focal: f32, aside: f32, wideFrom: f32, margin: i32, here: usize, offsets: usize, out: usize, plane: usize): void {
  const n = w * rows;
  const middle = 0.5 * <f32>(w - 1);
  const line = i32x4.splat(w);
  const twice = f32x4.splat(2 * focal);
  const across2 = f32x4.splat(2 * focal * aside);
  const share = f32x4.splat(1 / <f32>(ways * steps));
  const downs = offsets + (<usize>padded << 2);
  for (let y = 0, i = 0; y < rows; y++) {
    let beside = false;
    for (let x = 0; x < w; x++, i++) {
      const to = out + (<usize>i << 2);
      if (load<u8>(mask + <usize>i) == 0) {
        beside = false;
        const kept = v128.load(src + (<usize>i << 4));
        store<f32>(to, f32x4.extract_lane(kept, 0));
        store<f32>(to + plane, f32x4.extract_lane(kept, 1));
        store<f32>(to + 2 * plane, f32x4.extract_lane(kept, 2));
        continue;
      }
      const ahead = load<f32>(distance + (<usize>i << 2));
      if (!beside || x % (ahead < wideFrom ? 4 : 2) == 0) {
        const across = (<f64>ahead * <f64>(<f32>x - middle)) / <f64>focal;
        for (let k = 0; k < count; k++) {
          const wave = waves + <usize>k * WAVE;
          const at = <i32>(load<f64>(wave) * across + load<f64>(wave, 8) * <f64>ahead + load<f64>(wave, 16));
          store<f32>(here + (<usize>k << 3), load<f32>(sines + (<usize>((at + (turn >> 2)) & (turn - 1)) << 2)));
          store<f32>(here + (<usize>k << 3), load<f32>(sines + (<usize>(at & (turn - 1)) << 2)), 4);
        }
        for (let s = 0; s < padded; s += 4) {
          let rises = f32x4.splat(0), falls = f32x4.splat(0);
          let at = byTime + (<usize>s << 2);
          for (let k = 0; k < rightward; k++, at += <usize>padded << 2)
            rises = f32x4.add(rises, f32x4.mul(v128.load32_splat(here + (<usize>k << 2)), v128.load(at)));
          for (let k = rightward; k < 2 * count; k++, at += <usize>padded << 2)
            falls = f32x4.add(falls, f32x4.mul(v128.load32_splat(here + (<usize>k << 2)), v128.load(at)));
          // a mirror turned by an angle turns what it shows by twice that
          const right = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(across2, f32x4.sub(rises, falls))));
          const down = i32x4.mul(i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(twice, f32x4.add(rises, falls)))), line);
          v128.store(offsets + (<usize>s << 2), i32x4.add(down, right));
          v128.store(downs + (<usize>s << 2), down);
        }
      }
      beside = true;
      const list = x < margin || x >= w - margin ? downs : offsets;
      let sum = f32x4.splat(0);
      for (let s = 0; s < steps; s++) {
        const by = load<i32>(list + (<usize>s << 2));
        sum = f32x4.add(sum, seen(src, mask, i, i + by, n));
        if (ways == 2) sum = f32x4.add(sum, seen(src, mask, i, i - by, n));
      }
      sum = f32x4.mul(sum, share);
      store<f32>(to, f32x4.extract_lane(sum, 0));
      store<f32>(to + plane, f32x4.extract_lane(sum, 1));
      store<f32>(to + 2 * plane, f32x4.extract_lane(sum, 2));
    }
  }
}

/** What lies at j, or at i where j is no water. */
@inline
function seen(src: usize, mask: usize, i: i32, j: i32, n: i32): v128 {
  const at = <u32>j < <u32>n && load<u8>(mask + <usize>j) != 0 ? j : i;
  return v128.load(src + (<usize>at << 4));
}
