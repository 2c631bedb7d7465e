// Noise reduction and sharpening of the finished picture. Planes are `plane` bytes apart; rows are written four pixels at a time, and what
// goes beyond a row's end is overwritten by the next row or lies in the slack.
import { clampRow, guidedPlane, rowOf } from './window';

/**
 * Takes noise out of three encoded planes in place: luminance by itself, colour along luminance.
 * @param scratch room for nine planes
 * @param column room for w + 4 f64
 */
export function denoisePlanes(planes: usize, plane: usize, w: i32, h: i32, amount: f32, lumaRadius: i32, lumaEven: f32, chromaRadius: i32, chromaEven: f32, scratch: usize, column: usize): void {
  const n = w * h;
  const green = planes + plane, blue = green + plane;
  const luma = scratch, chroma = luma + plane, work = chroma + plane;
  const quarter = f32x4.splat(0.25), half = f32x4.splat(0.5), share = f32x4.splat(amount);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(
      luma + o,
      f32x4.add(
        f32x4.mul(f32x4.add(v128.load(planes + o), v128.load(blue + o)), quarter),
        f32x4.mul(v128.load(green + o), half),
      ),
    );
  }
  // red and blue become what they are off luminance, evened; green waits for both
  for (let c = 0; c < 2; c++) {
    const own = c == 0 ? planes : blue;
    for (let i = 0; i < n; i += 4) {
      const o = <usize>i << 2;
      v128.store(chroma + o, f32x4.sub(v128.load(own + o), v128.load(luma + o)));
    }
    guidedPlane(chroma, luma, w, h, chromaRadius, chromaEven, work, plane, column);
    for (let i = 0; i < n; i += 4) {
      const o = <usize>i << 2;
      const v = v128.load(chroma + o);
      v128.store(own + o, f32x4.add(v, f32x4.mul(share, f32x4.sub(v128.load(work + o), v))));
    }
  }
  guidedPlane(luma, luma, w, h, lumaRadius, lumaEven, work, plane, column);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const v = v128.load(luma + o), r = v128.load(planes + o), b = v128.load(blue + o);
    const y = f32x4.add(v, f32x4.mul(share, f32x4.sub(v128.load(work + o), v)));
    v128.store(planes + o, f32x4.add(y, r));
    v128.store(blue + o, f32x4.add(y, b));
    v128.store(green + o, f32x4.sub(y, f32x4.mul(half, f32x4.add(r, b))));
  }
}

/** Blur by a symmetric kernel, edges continued: `weights` from the middle outwards. `across` is a plane, `line` w + 2 · reach floats with slack. */
export function blurPlane(src: usize, w: i32, h: i32, weights: usize, reach: i32, dst: usize, across: usize, line: usize): void {
  const first = v128.load32_splat(weights);
  for (let y = 0; y < h; y++) {
    const p = rowOf(src, y, w), q = rowOf(across, y, w);
    const begin = line + (<usize>reach << 2);
    memory.copy(begin, p, <usize>w << 2);
    for (let k = 0; k < reach; k++) {
      store<f32>(line + (<usize>k << 2), load<f32>(p));
      store<f32>(begin + (<usize>(w + k) << 2), load<f32>(p + (<usize>(w - 1) << 2)));
    }
    for (let x = 0; x < w; x += 4) {
      const at = begin + (<usize>x << 2);
      let sum = f32x4.mul(first, v128.load(at));
      for (let k = 1; k <= reach; k++) {
        const o = <usize>k << 2;
        sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(weights + o), f32x4.add(v128.load(at - o), v128.load(at + o))));
      }
      v128.store(q + (<usize>x << 2), sum);
    }
  }
  for (let y = 0; y < h; y++) {
    const p = rowOf(across, y, w), q = rowOf(dst, y, w);
    for (let x = 0; x < w; x += 4) {
      const o = <usize>x << 2;
      let sum = f32x4.mul(first, v128.load(p + o));
      for (let k = 1; k <= reach; k++) {
        const above = rowOf(across, clampRow(y - k, h), w), below = rowOf(across, clampRow(y + k, h), w);
        sum = f32x4.add(
          sum,
          f32x4.mul(v128.load32_splat(weights + (<usize>k << 2)), f32x4.add(v128.load(above + o), v128.load(below + o))),
        );
      }
      v128.store(q + o, sum);
    }
  }
}

/** Slope of a plane by central differences, one-sided at the borders, times `gain`. */
function slopes(src: usize, w: i32, h: i32, gain: f32, dst: usize): void {
  for (let y = 0; y < h; y++) {
    const p = rowOf(src, y, w), q = rowOf(dst, y, w);
    const above = rowOf(src, clampRow(y - 1, h), w), below = rowOf(src, clampRow(y + 1, h), w);
    for (let x = 0; x < w; ) {
      const o = <usize>x << 2;
      if (x > 0 && x + 5 <= w) {
        const dx = f32x4.sub(v128.load(p + o, 4), v128.load(p + o - 4));
        const dy = f32x4.sub(v128.load(below + o), v128.load(above + o));
        v128.store(q + o, f32x4.mul(f32x4.splat(gain), f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy)))));
        x += 4;
        continue;
      }
      const dx = load<f32>(x + 1 < w ? p + o + 4 : p + o) - load<f32>(x > 0 ? p + o - 4 : p + o);
      const dy = load<f32>(below + o) - load<f32>(above + o);
      store<f32>(q + o, gain * <f32>Math.sqrt(<f64>(dx * dx + dy * dy)));
      x++;
    }
  }
}

/**
 * Sharpens three encoded planes in place on their luminance. `blur` and `wide` are the weights of the blur that detail is measured against
 * and of the one that spreads its edges; `full` is the contrast from which an edge is sharpened in full, 0 for everywhere.
 * @param scratch room for four planes
 * @param line room for three rows and their margins
 */
export function sharpenPlanes(planes: usize, plane: usize, w: i32, h: i32, blur: usize, reach: i32, edge: usize, edgeReach: i32, wide: usize, wideReach: i32, radius: f32, amount: f32, full: f32, overshoot: f32, scratch: usize, line: usize): void {
  const n = w * h;
  const green = planes + plane, blue = green + plane;
  const luma = scratch, blurred = luma + plane, mask = blurred + plane, across = mask + plane;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(
      luma + o,
      f32x4.add(
        f32x4.mul(v128.load(planes + o), f32x4.splat(0.2126)),
        f32x4.add(f32x4.mul(v128.load(green + o), f32x4.splat(0.7152)), f32x4.mul(v128.load(blue + o), f32x4.splat(0.0722))),
      ),
    );
  }
  if (full > 0) {
    blurPlane(luma, w, h, edge, edgeReach, blurred, across, line);
    slopes(blurred, w, h, radius, mask);
    blurPlane(mask, w, h, wide, wideReach, mask, across, line);
  }
  blurPlane(luma, w, h, blur, reach, blurred, across, line);
  const per = f32x4.splat(full > 0 ? 1 / full : 0), zero = f32x4.splat(0), one = f32x4.splat(1);
  const stride = (<usize>w + 12) << 2;
  const low = line + 16, high = line + stride + 16;
  for (let y = 0; y < h; y++) {
    const a = rowOf(luma, clampRow(y - 1, h), w), b = rowOf(luma, y, w), c = rowOf(luma, clampRow(y + 1, h), w);
    for (let x = 0; x < w; x += 4) {
      const o = <usize>x << 2;
      const p = v128.load(a + o), q = v128.load(b + o), r = v128.load(c + o);
      v128.store(low + o, f32x4.pmin(p, f32x4.pmin(q, r)));
      v128.store(high + o, f32x4.pmax(p, f32x4.pmax(q, r)));
    }
    const end = <usize>w << 2;
    store<f32>(low - 4, load<f32>(low));
    store<f32>(high - 4, load<f32>(high));
    store<f32>(low + end, load<f32>(low + end - 4));
    store<f32>(high + end, load<f32>(high + end - 4));
    const row = <usize>(y * w) << 2;
    for (let x = 0; x < w; x += 4) {
      const o = <usize>x << 2, at = row + o;
      const least = f32x4.pmin(v128.load(low + o - 4), f32x4.pmin(v128.load(low + o), v128.load(low + o, 4)));
      const most = f32x4.pmax(v128.load(high + o - 4), f32x4.pmax(v128.load(high + o), v128.load(high + o, 4)));
      let share = one;
      if (full > 0) {
        const t = f32x4.pmax(zero, f32x4.pmin(one, f32x4.mul(f32x4.sub(f32x4.mul(v128.load(mask + at), per), f32x4.splat(0.25)), f32x4.splat(1 / 0.75))));
        share = f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
      }
      const v = v128.load(luma + at);
      const room = f32x4.mul(f32x4.splat(overshoot), f32x4.sub(most, least));
      const detail = f32x4.mul(f32x4.mul(share, f32x4.splat(amount)), f32x4.sub(v, v128.load(blurred + at)));
      const wanted = f32x4.pmin(f32x4.add(most, room), f32x4.pmax(f32x4.sub(least, room), f32x4.add(v, detail)));
      const change = f32x4.sub(wanted, v);
      if (x + 4 <= w) {
        v128.store(planes + at, f32x4.add(v128.load(planes + at), change));
        v128.store(green + at, f32x4.add(v128.load(green + at), change));
        v128.store(blue + at, f32x4.add(v128.load(blue + at), change));
        continue;
      }
      // what lies beyond the row's end belongs to the next one
      let by = change;
      for (let k = x; k < w; k++) {
        const one = row + (<usize>k << 2), d = f32x4.extract_lane(by, 0);
        store<f32>(planes + one, load<f32>(planes + one) + d);
        store<f32>(green + one, load<f32>(green + one) + d);
        store<f32>(blue + one, load<f32>(blue + one) + d);
        by = v128.shuffle<i32>(by, by, 1, 2, 3, 0);
      }
    }
  }
}
