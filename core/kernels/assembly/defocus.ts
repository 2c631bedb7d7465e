// Discs of light, laid over each other in layers. Fields hold red, green, blue and opacity of each place beside each other.

/** Adds to the running sums at column x of a row, kept inside it. */
@inline
function rise(line: usize, w: i32, x: i32, step: v128): void {
  if (x >= w) return;
  const at = line + (<usize>max<i32>(0, x) << 4);
  v128.store(at, f32x4.add(v128.load(at), step));
}

/**
 * Spreads `count` cells over their discs into `sums` (differences along rows). `shapes` holds for each cell where its disc lies in `table`, or −1 for a
 * place of its own; a disc is its first row, its number of rows, its share of light a place and a word of nothing, then for each row where it begins
 * and ends: whole column (i32) and the rest of one (f32).
 */
export function spreadCells(places: usize, shapes: usize, light: usize, count: i32, table: usize, sums: usize, w: i32, h: i32): void {
  for (let k = 0; k < count; k++) {
    const place = load<i32>(places + (<usize>k << 2));
    const y = place / w;
    const x = place - y * w;
    const shines = v128.load(light + (<usize>k << 4));
    const shape = load<i32>(shapes + (<usize>k << 2));
    if (shape < 0) {
      const line = sums + (<usize>(y * w) << 4);
      rise(line, w, x, shines);
      rise(line, w, x + 1, f32x4.neg(shines));
      continue;
    }
    let disc = table + <usize>shape;
    const first = y + load<i32>(disc);
    const rows = load<i32>(disc, 4);
    const each = f32x4.mul(shines, v128.load32_splat(disc, 8));
    for (let j = 0; j < rows; j++) {
      disc += 16;
      const line = sums + (<usize>(max<i32>(0, min<i32>(h - 1, first + j)) * w) << 4);
      const begins = x + load<i32>(disc);
      const ends = x + load<i32>(disc, 8);
      const later = f32x4.mul(each, v128.load32_splat(disc, 4));
      const rest = f32x4.mul(each, v128.load32_splat(disc, 12));
      rise(line, w, begins, f32x4.sub(each, later));
      rise(line, w, begins + 1, later);
      rise(line, w, ends, f32x4.sub(rest, each));
      rise(line, w, ends + 1, f32x4.neg(rest));
    }
  }
}

/** Sums differences up along rows `top` to `bottom`, columns `left` to `right`, lays them over `field` and leaves `sums` empty there. */
export function overlaySums(sums: usize, field: usize, w: i32, left: i32, top: i32, right: i32, bottom: i32): void {
  const nothing = f32x4.splat(0);
  for (let y = top; y < bottom; y++) {
    let run = nothing;
    for (let i = <usize>(y * w + left) << 4, end = <usize>(y * w + right) << 4; i < end; i += 16) {
      run = f32x4.add(run, v128.load(sums + i));
      v128.store(sums + i, nothing);
      const opacity = f32x4.extract_lane(run, 3);
      if (opacity <= 1e-5) continue;
      const at = field + i;
      if (opacity >= 1) v128.store(at, f32x4.div(run, f32x4.splat(opacity)));
      else v128.store(at, f32x4.add(run, f32x4.mul(v128.load(at), f32x4.splat(1 - opacity))));
    }
  }
}

/** Lays a field of `w` × `h` places over one of twice as many, drawn large between the middles of its own, inside the given part of the finer one. */
export function overlayDoubled(coarse: usize, w: i32, h: i32, fine: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32): void {
  const most = f32x4.splat(0.75), least = f32x4.splat(0.25);
  for (let y = top; y < bottom; y++) {
    const v = y >> 1;
    const own = coarse + (<usize>(v * w) << 4);
    const next = coarse + (<usize>(max<i32>(0, min<i32>(h - 1, v + (y & 1 ? 1 : -1))) * w) << 4);
    for (let x = left; x < right; x++) {
      const p = <usize>(x >> 1) << 4;
      const q = <usize>max<i32>(0, min<i32>(w - 1, (x >> 1) + (x & 1 ? 1 : -1))) << 4;
      const near = f32x4.add(f32x4.mul(most, v128.load(own + p)), f32x4.mul(least, v128.load(next + p)));
      const beside = f32x4.add(f32x4.mul(most, v128.load(own + q)), f32x4.mul(least, v128.load(next + q)));
      const run = f32x4.add(f32x4.mul(most, near), f32x4.mul(least, beside));
      const opacity = f32x4.extract_lane(run, 3);
      if (opacity <= 1e-5) continue;
      const at = fine + (<usize>(y * width + x) << 4);
      v128.store(at, f32x4.add(run, f32x4.mul(v128.load(at), f32x4.splat(1 - opacity))));
    }
  }
}
