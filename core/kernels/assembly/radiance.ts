// The radiance merge and its tone map; see core/merge/radiance for the meaning of each number.
import { along4, exp4, log4 } from './maths';
import { encode4 } from './transfer';

/** A table at four places, linearly between its steps 0 … `last`; beyond either end its slope goes on. */
@inline
function open4(table: usize, at: v128, last: v128): v128 {
  return along4(table, i32x4.trunc_sat_f32x4_s(f32x4.pmax(f32x4.splat(0), f32x4.pmin(last, at))), at);
}

/** The entries of a table at four whole places 0 … `last`. */
@inline
function entry4(table: usize, at: v128, last: v128): v128 {
  const off = i32x4.shl(i32x4.trunc_sat_f32x4_s(f32x4.pmax(f32x4.splat(0), f32x4.pmin(last, at))), 2);
  let v = v128.load32_zero(table + i32x4.extract_lane(off, 0));
  v = v128.load_lane<u32>(table + i32x4.extract_lane(off, 1), v, 1);
  v = v128.load_lane<u32>(table + i32x4.extract_lane(off, 2), v, 2);
  return v128.load_lane<u32>(table + i32x4.extract_lane(off, 3), v, 3);
}

/**
 * Adds one resampled frame to a radiance map, weighed by the inverse of its variance.
 * @param picture three encoded planes, `plane` bytes apart; @param tables light of red, green, blue, and the step of green: `stride` bytes apart
 * @param share holds how far inside the frame each pixel lies, and takes its weight
 * @param full @param none shares of white between which a channel ceases to count; @param open floats that never clip
 * @param sums four planes: the sum of weights, then of weighted red, green and blue light
 */
export function addRadiance(
  picture: usize, plane: usize, n: i32, tables: usize, stride: usize, steps: f32, share: usize, scale: f32,
  full: f32, none: f32, open: i32, resort: f32, shot: f32, read: f32, sums: usize,
): void {
  const last = f32x4.splat(steps - 1), codes = f32x4.splat(steps), whole = f32x4.splat(steps);
  const one = f32x4.splat(1), zero = f32x4.splat(0), two = f32x4.splat(2), three = f32x4.splat(3);
  const end = f32x4.splat(none), fade = f32x4.splat(1 / (none - full)), gain = f32x4.splat(scale), square = f32x4.splat(scale * scale);
  const dark = f32x4.splat(read * read), grain = f32x4.splat(shot), least = f32x4.splat(1e-20), lone = f32x4.splat(resort);
  const quarter = f32x4.splat(0.25), half = f32x4.splat(0.5), twelfth = f32x4.splat(1.0 / 12.0);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2, p = picture + o, q = sums + o;
    const R = v128.load(p), G = v128.load(p + plane), B = v128.load(p + 2 * plane);
    let held = one;
    if (!open) {
      const t = f32x4.pmax(zero, f32x4.pmin(one, f32x4.mul(f32x4.sub(end, f32x4.pmax(R, f32x4.pmax(G, B))), fade)));
      held = f32x4.mul(f32x4.mul(t, t), f32x4.sub(three, f32x4.mul(two, t)));
    }
    const g = f32x4.mul(G, codes);
    const r = open4(tables, f32x4.mul(R, codes), last);
    const gl = open4(tables + stride, g, last);
    const b = open4(tables + 2 * stride, f32x4.mul(B, codes), last);
    const step = entry4(tables + 3 * stride, g, whole);
    const mean = f32x4.add(f32x4.mul(quarter, f32x4.add(r, b)), f32x4.mul(half, gl));
    const own = f32x4.add(f32x4.add(f32x4.mul(grain, f32x4.pmax(zero, mean)), dark), f32x4.mul(f32x4.mul(step, step), twelfth));
    const counts = f32x4.add(f32x4.div(f32x4.add(held, lone), f32x4.mul(own, square)), least);
    const w = f32x4.mul(v128.load(share + o), counts);
    v128.store(share + o, w);
    v128.store(q, f32x4.add(v128.load(q), w));
    const light = f32x4.mul(w, gain);
    v128.store(q + plane, f32x4.add(v128.load(q + plane), f32x4.mul(light, r)));
    v128.store(q + 2 * plane, f32x4.add(v128.load(q + 2 * plane), f32x4.mul(light, gl)));
    v128.store(q + 3 * plane, f32x4.add(v128.load(q + 3 * plane), f32x4.mul(light, b)));
  }
}

/** Makes planes that were added up into means. @param list addresses of `count` planes, 4 bytes each; @param total their common weight */
export function overTotal(list: usize, count: i32, total: usize, n: i32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const sum = v128.load(total + o);
    const k = v128.and(f32x4.gt(sum, zero), f32x4.div(one, sum));
    for (let f = 0; f < count; f++) {
      const p = <usize>load<u32>(list + (<usize>f << 2)) + o;
      v128.store(p, f32x4.mul(v128.load(p), k));
    }
  }
}

/** Linear planes as interleaved sRGB-encoded floats, unbounded. */
export function layEncoded(planes: usize, plane: usize, n: i32, out: usize): void {
  for (let i = 0; i < n; i += 4) {
    const p = planes + (<usize>i << 2);
    const r = encode4(v128.load(p)), g = encode4(v128.load(p + plane)), b = encode4(v128.load(p + 2 * plane));
    const rg = v128.shuffle<f32>(r, g, 0, 4, 1, 5), more = v128.shuffle<f32>(r, g, 2, 6, 3, 7);
    const q = out + <usize>i * 12;
    v128.store(q, v128.shuffle<f32>(rg, v128.shuffle<f32>(b, r, 0, 0, 5, 5), 0, 1, 4, 6));
    v128.store(q, v128.shuffle<f32>(v128.shuffle<f32>(g, b, 1, 5, 1, 5), more, 0, 1, 4, 5), 16);
    v128.store(q, v128.shuffle<f32>(b, more, 2, 6, 7, 3), 32);
  }
}

const LOG2E: f32 = 1.44269504, LN2: f32 = 0.69314718;

@inline
function luminance4(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(0.2126)), f32x4.mul(g, f32x4.splat(0.7152))),
    f32x4.mul(b, f32x4.splat(0.0722)),
  );
}

/** Stops of luminance from middle grey; −20 where there is none. */
@inline
function tone4(r: v128, g: v128, b: v128): v128 {
  const y = luminance4(r, g, b), least = f32x4.splat(1e-7);
  const stops = f32x4.mul(log4(f32x4.mul(f32x4.pmax(y, least), f32x4.splat(1 / 0.18))), f32x4.splat(LOG2E));
  return v128.bitselect(stops, f32x4.splat(-20), f32x4.gt(y, least));
}

/** Tone of linear light; `out` may be the first plane. */
export function tonePlane(planes: usize, plane: usize, n: i32, out: usize): void {
  for (let i = 0; i < n; i += 4) {
    const p = planes + (<usize>i << 2);
    v128.store(out + (<usize>i << 2), tone4(v128.load(p), v128.load(p + plane), v128.load(p + 2 * plane)));
  }
}

/** 1 − e^(−x), for x from 0 on. */
@inline
function rising4(x: v128): v128 {
  return f32x4.sub(f32x4.splat(1), exp4(f32x4.neg(x)));
}

/**
 * Tone-maps linear planes in place to sRGB-encoded 0…1; see core/merge/radiance/toneMap.ts.
 * @param slope @param offset planes by which the base follows from the tone
 * @param middle, aim, down, up, turn, zero of the curve of the base
 * @param start stops from which tones are rounded off, over `round` stops; @param knee light from which a channel is
 */
export function toneMapPixels(
  planes: usize, plane: usize, n: i32, slope: usize, offset: usize, detail: f32,
  middle: f32, aim: f32, down: f32, up: f32, turn: f32, zero: f32, start: f32, round: f32, knee: f32,
): void {
  const none = f32x4.splat(0), one = f32x4.splat(1), own = f32x4.splat(detail);
  const room: f32 = 1 - knee;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2, p = planes + o;
    let r = v128.load(p), g = v128.load(p + plane), b = v128.load(p + 2 * plane);
    const tone = tone4(r, g, b);
    const base = f32x4.add(f32x4.mul(v128.load(slope + o), tone), v128.load(offset + o));
    const d = f32x4.sub(base, f32x4.splat(middle));
    const e = exp4(f32x4.mul(f32x4.abs(d), f32x4.splat(-1 / turn)));
    const soft = f32x4.add(f32x4.mul(f32x4.splat(turn), log4(f32x4.add(one, e))), f32x4.pmax(none, d));
    const curved = f32x4.add(
      f32x4.add(f32x4.splat(aim), f32x4.mul(f32x4.splat(down), d)),
      f32x4.mul(f32x4.splat(up - down), f32x4.sub(soft, f32x4.splat(zero))),
    );
    const wanted = f32x4.add(curved, f32x4.mul(own, f32x4.sub(tone, base)));
    const over = f32x4.mul(f32x4.pmax(none, f32x4.sub(wanted, f32x4.splat(start))), f32x4.splat(1 / round));
    const toned = f32x4.add(f32x4.pmin(wanted, f32x4.splat(start)), f32x4.mul(f32x4.splat(round), rising4(over)));
    const gain = exp4(f32x4.mul(f32x4.sub(toned, tone), f32x4.splat(LN2)));
    r = f32x4.pmax(none, f32x4.mul(r, gain));
    g = f32x4.pmax(none, f32x4.mul(g, gain));
    b = f32x4.pmax(none, f32x4.mul(b, gain));
    const most = f32x4.pmax(r, f32x4.pmax(g, b));
    const beyond = f32x4.gt(most, f32x4.splat(knee));
    if (v128.any_true(beyond)) {
      // towards grey of the same luminance, until the strongest channel comes softly under white
      const grey = f32x4.pmin(one, luminance4(r, g, b));
      const above = f32x4.mul(f32x4.pmax(none, f32x4.sub(most, f32x4.splat(knee))), f32x4.splat(1 / room));
      const held = f32x4.pmax(grey, f32x4.add(f32x4.splat(knee), f32x4.mul(f32x4.splat(room), rising4(above))));
      const part = f32x4.sub(most, grey);
      const t = v128.and(f32x4.gt(part, none), f32x4.div(f32x4.sub(held, grey), part));
      r = v128.bitselect(f32x4.add(grey, f32x4.mul(t, f32x4.sub(r, grey))), r, beyond);
      g = v128.bitselect(f32x4.add(grey, f32x4.mul(t, f32x4.sub(g, grey))), g, beyond);
      b = v128.bitselect(f32x4.add(grey, f32x4.mul(t, f32x4.sub(b, grey))), b, beyond);
    }
    v128.store(p, encode4(r));
    v128.store(p + plane, encode4(g));
    v128.store(p + 2 * plane, encode4(b));
  }
}
