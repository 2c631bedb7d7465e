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

/** Multiplies the chroma of Oklab (Ottosson 2020) of three planes, `plane` bytes apart. */
export function scaleChroma(planes: usize, plane: usize, n: i32, factor: f32): void {
  const green = planes + plane, blue = green + plane;
  const sat = f32x4.splat(factor);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const r = v128.load(planes + o), g = v128.load(green + o), b = v128.load(blue + o);
    const l = root4(dot3(r, 0.4122214708, g, 0.5363325363, b, 0.0514459929));
    const m = root4(dot3(r, 0.2119034982, g, 0.6806995451, b, 0.1073969566));
    const s = root4(dot3(r, 0.0883024619, g, 0.2817188376, b, 0.6299787005));
    const L = dot3(l, 0.2104542553, m, 0.793617785, s, -0.0040720468);
    const A = f32x4.mul(sat, dot3(l, 1.9779984951, m, -2.428592205, s, 0.4505937099));
    const C = f32x4.mul(sat, dot3(l, 0.0259040371, m, 0.7827717662, s, -0.808675766));
    const l1 = dot3(L, 1, A, 0.3963377774, C, 0.2158037573);
    const m1 = dot3(L, 1, A, -0.1055613458, C, -0.0638541728);
    const s1 = dot3(L, 1, A, -0.0894841775, C, -1.291485548);
    const l3 = f32x4.mul(f32x4.mul(l1, l1), l1), m3 = f32x4.mul(f32x4.mul(m1, m1), m1), s3 = f32x4.mul(f32x4.mul(s1, s1), s1);
    v128.store(planes + o, dot3(l3, 4.0767416621, m3, -3.3077115913, s3, 0.2309699292));
    v128.store(green + o, dot3(l3, -1.2684380046, m3, 2.6097574011, s3, -0.3413193965));
    v128.store(blue + o, dot3(l3, -0.0041960863, m3, -0.7034186147, s3, 1.707614701));
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
