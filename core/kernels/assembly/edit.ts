// Changes of tone and colour on planes of linear light, in place; and how far a change is taken over.
import { between4, log4 } from './maths';
import { cubeRoot4, encode4, SIGN } from './transfer';

/** Cube root, odd. */
@inline
function root4(v: v128): v128 {
  const a = f32x4.pmax(f32x4.abs(v), f32x4.splat(1e-30));
  return v128.or(cubeRoot4(a), v128.and(v, i32x4.splat(SIGN)));
}

@inline
function dot3(x: v128, a: f32, y: v128, b: f32, z: v128, c: f32): v128 {
  return f32x4.add(f32x4.mul(x, f32x4.splat(a)), f32x4.add(f32x4.mul(y, f32x4.splat(b)), f32x4.mul(z, f32x4.splat(c))));
}

/** Multiplies a plane by a gain. */
export function scalePlane(plane: usize, n: i32, gain: f32): void {
  const g = f32x4.splat(gain);
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    v128.store(p, f32x4.mul(v128.load(p), g));
  }
}

/** Three planes, `plane` bytes apart, through a matrix of nine f32, row by row. */
export function mixChannels(planes: usize, plane: usize, n: i32, matrix: usize): void {
  const green = planes + plane, blue = green + plane;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    for (let c = 0; c < 3; c++) {
      const m = matrix + <usize>(c * 12);
      v128.store(planes + <usize>c * plane + o, dot3(r, load<f32>(m), g, load<f32>(m, 4), b, load<f32>(m, 8)));
    }
  }
}

/**
 * Multiplies three planes, `plane` bytes apart, by a gain that follows their luminance.
 * @param gains of luminance in `perStop` steps a stop from `first` stops of 0.18 on, `last` the last place with a neighbour
 */
export function gainByTone(planes: usize, plane: usize, n: i32, gains: usize, first: f32, perStop: f32, last: f32): void {
  const green = planes + plane, blue = green + plane;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    const y = dot3(r, 0.2126, g, 0.7152, b, 0.0722);
    const stops = f32x4.mul(log4(f32x4.pmax(f32x4.mul(y, f32x4.splat(1 / 0.18)), f32x4.splat(1e-30))), f32x4.splat(1.4426950408889634));
    const at = f32x4.pmax(f32x4.pmin(f32x4.mul(f32x4.sub(stops, f32x4.splat(first)), f32x4.splat(perStop)), f32x4.splat(last)), f32x4.splat(0));
    const gain = between4(gains, at);
    v128.store(planes + o, f32x4.mul(r, gain));
    v128.store(green + o, f32x4.mul(g, gain));
    v128.store(blue + o, f32x4.mul(b, gain));
  }
}

/** Cone responses of Oklab (Ottosson 2020), compressed: one row of its first matrix. */
@inline
function cone4(r: v128, a: f32, g: v128, b: f32, blue: v128, c: f32): v128 {
  return root4(dot3(r, a, g, b, blue, c));
}

/** Stores a colour of Oklab as linear light, `o` bytes into three planes. */
@inline
function storeOklab(planes: usize, plane: usize, o: usize, L: v128, A: v128, B: v128): void {
  const l = dot3(L, 1, A, 0.3963377774, B, 0.2158037573);
  const m = dot3(L, 1, A, -0.1055613458, B, -0.0638541728);
  const s = dot3(L, 1, A, -0.0894841775, B, -1.291485548);
  const l3 = f32x4.mul(f32x4.mul(l, l), l), m3 = f32x4.mul(f32x4.mul(m, m), m), s3 = f32x4.mul(f32x4.mul(s, s), s);
  v128.store(planes + o, dot3(l3, 4.0767416621, m3, -3.3077115913, s3, 0.2309699292));
  v128.store(planes + plane + o, dot3(l3, -1.2684380046, m3, 2.6097574011, s3, -0.3413193965));
  v128.store(planes + 2 * plane + o, dot3(l3, -0.0041960863, m3, -0.7034186147, s3, 1.707614701));
}

/** Multiplies the chroma of Oklab of three planes, `plane` bytes apart. */
export function scaleChroma(planes: usize, plane: usize, n: i32, factor: f32): void {
  const green = planes + plane, blue = green + plane;
  const sat = f32x4.splat(factor);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    const l = cone4(r, 0.4122214708, g, 0.5363325363, b, 0.0514459929);
    const m = cone4(r, 0.2119034982, g, 0.6806995451, b, 0.1073969566);
    const s = cone4(r, 0.0883024619, g, 0.2817188376, b, 0.6299787005);
    const L = dot3(l, 0.2104542553, m, 0.793617785, s, -0.0040720468);
    const A = f32x4.mul(sat, dot3(l, 1.9779984951, m, -2.428592205, s, 0.4505937099));
    const B = f32x4.mul(sat, dot3(l, 0.0259040371, m, 0.7827717662, s, -0.808675766));
    storeOklab(planes, plane, o, L, A, B);
  }
}

/**
 * Adds colour by tone, in Oklab, to three planes, `plane` bytes apart; lightness stays.
 * @param tables two of `bytes` bytes: what is added to a and b at `perLightness` steps from black on, `last` the last place with a neighbour
 */
export function tintByTone(planes: usize, plane: usize, n: i32, tables: usize, bytes: i32, perLightness: f32, last: f32): void {
  const green = planes + plane, blue = green + plane;
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    const l = cone4(r, 0.4122214708, g, 0.5363325363, b, 0.0514459929);
    const m = cone4(r, 0.2119034982, g, 0.6806995451, b, 0.1073969566);
    const s = cone4(r, 0.0883024619, g, 0.2817188376, b, 0.6299787005);
    const L = dot3(l, 0.2104542553, m, 0.793617785, s, -0.0040720468);
    const A = dot3(l, 1.9779984951, m, -2.428592205, s, 0.4505937099);
    const B = dot3(l, 0.0259040371, m, 0.7827717662, s, -0.808675766);
    const at = f32x4.pmax(f32x4.pmin(f32x4.mul(L, f32x4.splat(perLightness)), f32x4.splat(last)), f32x4.splat(0));
    storeOklab(planes, plane, o, L, f32x4.add(A, between4(tables, at)), f32x4.add(B, between4(tables + <usize>bytes, at)));
  }
}

/**
 * Turns, strengthens and lightens colours by their hue, in Oklab, in three planes, `plane` bytes apart. What has next to no colour stays.
 * @param tables three of `bytes` bytes by hue: real and imaginary part of what a + ib is multiplied by, and the factor of lightness; `perTurn` steps
 *   a full turn, from −b on, even in b / (|a| + |b|)
 * @param least chroma over lightness below which a colour has no hue, `rise` how soon it counts whole, 1 / (chroma over lightness)
 */
export function turnHues(planes: usize, plane: usize, n: i32, tables: usize, bytes: i32, perTurn: f32, least: f32, rise: f32): void {
  const green = planes + plane, blue = green + plane;
  const quarter = f32x4.splat(perTurn / 4), one = f32x4.splat(1), two = f32x4.splat(2), zero = f32x4.splat(0);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    const l = cone4(r, 0.4122214708, g, 0.5363325363, b, 0.0514459929);
    const m = cone4(r, 0.2119034982, g, 0.6806995451, b, 0.1073969566);
    const s = cone4(r, 0.0883024619, g, 0.2817188376, b, 0.6299787005);
    const L = dot3(l, 0.2104542553, m, 0.793617785, s, -0.0040720468);
    const A = dot3(l, 1.9779984951, m, -2.428592205, s, 0.4505937099);
    const B = dot3(l, 0.0259040371, m, 0.7827717662, s, -0.808675766);
    const t = f32x4.div(B, f32x4.add(f32x4.add(f32x4.abs(A), f32x4.abs(B)), f32x4.splat(1e-12)));
    const turn = v128.bitselect(t, f32x4.sub(two, t), f32x4.ge(A, zero));
    const at = f32x4.mul(f32x4.add(turn, one), quarter);
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B)));
    const strength = f32x4.div(chroma, f32x4.pmax(L, f32x4.splat(1e-4)));
    const ramp = f32x4.pmax(f32x4.pmin(f32x4.mul(f32x4.sub(strength, f32x4.splat(least)), f32x4.splat(rise)), one), zero);
    const share = f32x4.mul(f32x4.mul(ramp, ramp), f32x4.sub(f32x4.splat(3), f32x4.mul(two, ramp)));
    const real = f32x4.add(one, f32x4.mul(share, f32x4.sub(between4(tables, at), one)));
    const imaginary = f32x4.mul(share, between4(tables + <usize>bytes, at));
    const lightness = f32x4.add(one, f32x4.mul(share, f32x4.sub(between4(tables + 2 * <usize>bytes, at), one)));
    storeOklab(
      planes, plane, o,
      f32x4.mul(L, lightness),
      f32x4.sub(f32x4.mul(A, real), f32x4.mul(B, imaginary)),
      f32x4.add(f32x4.mul(A, imaginary), f32x4.mul(B, real)),
    );
  }
}

@inline
function shaken(h: v128, by: i32, factor: i32): v128 {
  return i32x4.mul(v128.xor(h, i32x4.shr_u(h, by)), i32x4.splat(factor));
}

/** Noise of mean 0 and deviation 1, nearly normal (the sum of the four bytes of a hash), the same at the same place (x0 + x, y0 + y). */
export function noisePlane(out: usize, w: i32, h: i32, x0: i32, y0: i32, seed: i32): void {
  const low = i32x4.splat(255);
  // four bytes that are drawn evenly have the variance 4 · (256² − 1) / 12
  const deviation = f32x4.splat(<f32>147.80054127099805);
  for (let y = 0; y < h; y++) {
    const row = out + (<usize>(y * w) << 2);
    const own = i32x4.splat(((y0 + y) * 0x85ebca77) ^ ((seed + 1) * 0xc2b2ae3d));
    for (let x = 0; x < w; x += 4) {
      const at = i32x4.add(i32x4.splat(x0 + x), i32x4(0, 1, 2, 3));
      let hash = v128.xor(i32x4.mul(at, i32x4.splat(0x9e3779b1)), own);
      hash = shaken(shaken(hash, 15, 0x2c1b3c6d), 12, 0x297a2d39);
      hash = v128.xor(hash, i32x4.shr_u(hash, 15));
      const sum = i32x4.add(
        i32x4.add(v128.and(hash, low), v128.and(i32x4.shr_u(hash, 8), low)),
        i32x4.add(v128.and(i32x4.shr_u(hash, 16), low), i32x4.shr_u(hash, 24)),
      );
      v128.store(row + (<usize>x << 2), f32x4.div(f32x4.convert_i32x4_s(i32x4.sub(sum, i32x4.splat(510))), deviation));
    }
  }
}

/** Encodes a plane in place, odd and unbounded. */
export function encodeOpenPlane(plane: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    v128.store(p, encode4(v128.load(p)));
  }
}

/** Takes a change over only in part: `changed` becomes before + amount · mask · (changed − before); a mask at 0 counts as 1 everywhere. */
export function mixPlane(changed: usize, before: usize, mask: usize, n: i32, amount: f32): void {
  const a = f32x4.splat(amount);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const from = v128.load(before + o);
    const share = mask ? f32x4.mul(a, v128.load(mask + o)) : a;
    v128.store(changed + o, f32x4.add(from, f32x4.mul(share, f32x4.sub(v128.load(changed + o), from))));
  }
}

/**
 * Three planes of linear light, `plane` bytes apart, through a matrix (nine f32) and a table a channel, in place. A table holds light at even steps of
 * the root of light up to `top`, its last entry `last`, one more behind it; beyond it goes on in proportion, below 0 as it is.
 */
export function throughTables(planes: usize, plane: usize, n: i32, matrix: usize, tables: usize, tableBytes: i32, top: f32, last: i32): void {
  const green = planes + plane, blue = green + plane;
  const perRoot: f32 = <f32>last / sqrt<f32>(top);
  for (let i = 0; i < n; i++) {
    const o = <usize>i << 2;
    const r = load<f32>(planes + o), g = load<f32>(green + o), b = load<f32>(blue + o);
    for (let c = 0; c < 3; c++) {
      const m = matrix + <usize>(c * 12);
      const mix = load<f32>(m) * r + load<f32>(m, 4) * g + load<f32>(m, 8) * b;
      const table = tables + <usize>(c * tableBytes);
      let out: f32;
      if (mix <= 0) out = load<f32>(table) + mix;
      else if (mix >= top) out = load<f32>(table + (<usize>last << 2)) * (mix / top);
      else {
        const at = sqrt<f32>(mix) * perRoot;
        const k = <usize>at;
        const a = load<f32>(table + (k << 2));
        out = a + (at - <f32>k) * (load<f32>(table + (k << 2), 4) - a);
      }
      store<f32>(planes + <usize>c * plane + o, out);
    }
  }
}
