// Levels of Burt & Adelson 1983 with the kernel [1 4 6 4 1]/16, borders mirrored without repeating the edge sample.

@inline
function mirror(i: i32, n: i32): i32 {
  if (n == 1) return 0;
  const k = i < 0 ? -i : i;
  return k >= n ? max<i32>(0, 2 * n - 2 - k) : k;
}

function acrossAt(row: usize, w: i32, x: i32): f32 {
  return (
    0.375 * load<f32>(row + (<usize>(2 * x) << 2)) +
    0.25 * (load<f32>(row + (<usize>mirror(2 * x - 1, w) << 2)) + load<f32>(row + (<usize>mirror(2 * x + 1, w) << 2))) +
    0.0625 * (load<f32>(row + (<usize>mirror(2 * x - 2, w) << 2)) + load<f32>(row + (<usize>mirror(2 * x + 2, w) << 2)))
  );
}

/** One source row blurred across, every second sample kept. */
function across(row: usize, out: usize, w: i32, cw: i32): void {
  const k0 = f32x4.splat(0.375), k1 = f32x4.splat(0.25), k2 = f32x4.splat(0.0625);
  store<f32>(out, acrossAt(row, w, 0));
  let x = 1;
  // samples 2x − 2 … 2x + 9 are loaded
  for (; 2 * x + 9 < w && x + 3 < cw; x += 4) {
    const p = row + (<usize>(2 * x) << 2);
    const a = v128.load(p), b = v128.load(p, 16);
    const before = v128.load(p - 8), between = v128.load(p, 8), after = v128.load(p, 24);
    const e = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
    const o = v128.shuffle<f32>(a, b, 1, 3, 5, 7);
    const left = v128.shuffle<f32>(before, between, 0, 2, 4, 6);
    const odd = v128.shuffle<f32>(before, between, 1, 3, 5, 7);
    const right = v128.shuffle<f32>(between, after, 0, 2, 4, 6);
    v128.store(
      out + (<usize>x << 2),
      f32x4.add(
        f32x4.add(f32x4.mul(e, k0), f32x4.mul(f32x4.add(odd, o), k1)),
        f32x4.mul(f32x4.add(left, right), k2),
      ),
    );
  }
  for (; x < cw; x++) store<f32>(out + (<usize>x << 2), acrossAt(row, w, x));
}

/** The next coarser level. @param ring five rows of the coarse width */
export function reduceLevel(src: usize, w: i32, h: i32, dst: usize, ring: usize): void {
  const cw = (w + 1) >> 1, ch = (h + 1) >> 1;
  const stride = <usize>w << 2, line = <usize>cw << 2;
  const k0 = f32x4.splat(0.375), k1 = f32x4.splat(0.25), k2 = f32x4.splat(0.0625);
  let next = -2;
  for (let y = 0; y < ch; y++) {
    for (; next <= 2 * y + 2; next++)
      across(src + <usize>mirror(next, h) * stride, ring + <usize>((next + 5) % 5) * line, w, cw);
    const a = ring + <usize>((2 * y + 3) % 5) * line;
    const b = ring + <usize>((2 * y + 4) % 5) * line;
    const c = ring + <usize>((2 * y + 5) % 5) * line;
    const d = ring + <usize>((2 * y + 6) % 5) * line;
    const e = ring + <usize>((2 * y + 7) % 5) * line;
    const q = dst + <usize>y * line;
    let o: usize = 0;
    for (; o + 16 <= line; o += 16)
      v128.store(
        q + o,
        f32x4.add(
          f32x4.add(f32x4.mul(v128.load(c + o), k0), f32x4.mul(f32x4.add(v128.load(b + o), v128.load(d + o)), k1)),
          f32x4.mul(f32x4.add(v128.load(a + o), v128.load(e + o)), k2),
        ),
      );
    for (; o < line; o += 4)
      store<f32>(
        q + o,
        0.375 * load<f32>(c + o) +
          0.25 * (load<f32>(b + o) + load<f32>(d + o)) +
          0.0625 * (load<f32>(a + o) + load<f32>(e + o)),
      );
  }
}

/** One row of the coarse level expanded downwards: the row of the finer grid `y` before it is spread across. */
function expandedLine(coarse: usize, cw: i32, ch: i32, h: i32, y: i32, out: usize): void {
  const line = <usize>cw << 2;
  const k = y >> 1;
  let o: usize = 0;
  if (y & 1) {
    const b = coarse + <usize>k * line;
    const d = coarse + <usize>(k + 1 < ch ? k + 1 : ch - 1) * line;
    const half = f32x4.splat(0.5);
    for (; o + 16 <= line; o += 16)
      v128.store(out + o, f32x4.mul(f32x4.add(v128.load(b + o), v128.load(d + o)), half));
    for (; o < line; o += 4) store<f32>(out + o, 0.5 * (load<f32>(b + o) + load<f32>(d + o)));
    return;
  }
  const up = k > 0 ? k - 1 : min<i32>(1, ch - 1);
  const down = k + 1 < ch ? k + 1 : (h & 1) == 0 ? ch - 1 : max<i32>(0, ch - 2);
  const a = coarse + <usize>up * line, b = coarse + <usize>k * line, d = coarse + <usize>down * line;
  const most = f32x4.splat(0.75), rest = f32x4.splat(0.125);
  for (; o + 16 <= line; o += 16)
    v128.store(
      out + o,
      f32x4.add(f32x4.mul(v128.load(b + o), most), f32x4.mul(f32x4.add(v128.load(a + o), v128.load(d + o)), rest)),
    );
  for (; o < line; o += 4)
    store<f32>(out + o, 0.75 * load<f32>(b + o) + 0.125 * (load<f32>(a + o) + load<f32>(d + o)));
}

@inline
function lineAt(line: usize, x: i32): f32 {
  return load<f32>(line + (<usize>x << 2));
}

/** Sample x of a fine row from an expanded line. */
function spreadAt(line: usize, cw: i32, w: i32, x: i32): f32 {
  const k = x >> 1;
  const next = k + 1 < cw ? k + 1 : (w & 1) == 0 ? cw - 1 : max<i32>(0, cw - 2);
  if (x & 1) return 0.5 * (lineAt(line, k) + lineAt(line, k + 1 < cw ? k + 1 : cw - 1));
  const before = k > 0 ? k - 1 : min<i32>(1, cw - 1);
  return 0.75 * lineAt(line, k) + 0.125 * (lineAt(line, before) + lineAt(line, next));
}

/** fine += gain · expand(coarse). @param line a row of the coarse width, with 16 bytes of slack */
export function addExpandedLevel(
  fine: usize, w: i32, h: i32, coarse: usize, cw: i32, ch: i32, gain: f32, line: usize,
): void {
  const g = f32x4.splat(gain);
  const most = f32x4.splat(0.75), rest = f32x4.splat(0.125), half = f32x4.splat(0.5);
  for (let y = 0; y < h; y++) {
    expandedLine(coarse, cw, ch, h, y, line);
    const row = fine + ((<usize>y * <usize>w) << 2);
    let x = 0;
    for (; x < min<i32>(2, w); x++) {
      const p = row + (<usize>x << 2);
      store<f32>(p, load<f32>(p) + gain * spreadAt(line, cw, w, x));
    }
    // eight fine samples from coarse samples k − 1 … k + 4
    for (; x + 8 <= w && (x >> 1) + 4 < cw; x += 8) {
      const q = line + (<usize>(x >> 1) << 2);
      const c = v128.load(q), l = v128.load(q - 4), r = v128.load(q, 4);
      const even = f32x4.add(f32x4.mul(c, most), f32x4.mul(f32x4.add(l, r), rest));
      const odd = f32x4.mul(f32x4.add(c, r), half);
      const p = row + (<usize>x << 2);
      v128.store(p, f32x4.add(v128.load(p), f32x4.mul(v128.shuffle<f32>(even, odd, 0, 4, 1, 5), g)));
      v128.store(p, f32x4.add(v128.load(p, 16), f32x4.mul(v128.shuffle<f32>(even, odd, 2, 6, 3, 7), g)), 16);
    }
    for (; x < w; x++) {
      const p = row + (<usize>x << 2);
      store<f32>(p, load<f32>(p) + gain * spreadAt(line, cw, w, x));
    }
  }
}

/** sum += weight · (fine − expand(coarse)): one level of one frame of a pyramid blend, touched once. */
export function blendLevel(
  sum: usize, weight: usize, fine: usize, w: i32, h: i32, coarse: usize, cw: i32, ch: i32, line: usize,
): void {
  const most = f32x4.splat(0.75), rest = f32x4.splat(0.125), half = f32x4.splat(0.5);
  for (let y = 0; y < h; y++) {
    expandedLine(coarse, cw, ch, h, y, line);
    const at = (<usize>y * <usize>w) << 2;
    let x = 0;
    for (; x < min<i32>(2, w); x++) {
      const o = at + (<usize>x << 2);
      store<f32>(sum + o, load<f32>(sum + o) + load<f32>(weight + o) * (load<f32>(fine + o) - spreadAt(line, cw, w, x)));
    }
    for (; x + 8 <= w && (x >> 1) + 4 < cw; x += 8) {
      const q = line + (<usize>(x >> 1) << 2);
      const c = v128.load(q), l = v128.load(q - 4), r = v128.load(q, 4);
      const even = f32x4.add(f32x4.mul(c, most), f32x4.mul(f32x4.add(l, r), rest));
      const odd = f32x4.mul(f32x4.add(c, r), half);
      const o = at + (<usize>x << 2);
      v128.store(
        sum + o,
        f32x4.add(
          v128.load(sum + o),
          f32x4.mul(v128.load(weight + o), f32x4.sub(v128.load(fine + o), v128.shuffle<f32>(even, odd, 0, 4, 1, 5))),
        ),
      );
      v128.store(
        sum + o,
        f32x4.add(
          v128.load(sum + o, 16),
          f32x4.mul(v128.load(weight + o, 16), f32x4.sub(v128.load(fine + o, 16), v128.shuffle<f32>(even, odd, 2, 6, 3, 7))),
        ),
        16,
      );
    }
    for (; x < w; x++) {
      const o = at + (<usize>x << 2);
      store<f32>(sum + o, load<f32>(sum + o) + load<f32>(weight + o) * (load<f32>(fine + o) - spreadAt(line, cw, w, x)));
    }
  }
}
