// The sRGB transfer function (IEC 61966-2-1) on four floats at once, odd and unbounded.
import { exp4, log4 } from './maths';

/** Positive numbers to a power. */
@inline
export function power(x: v128, exponent: f32): v128 {
  return exp4(f32x4.mul(log4(x), f32x4.splat(exponent)));
}

export const SIGN: i32 = 0x80000000;

/** Cube root of floats from 1e-30 on: a third of the exponent, then twice Halley's step. */
@inline
export function cubeRoot4(x: v128): v128 {
  const third = f32x4.mul(f32x4.convert_i32x4_s(x), f32x4.splat(1 / 3));
  return halley(halley(i32x4.add(i32x4.trunc_sat_f32x4_s(third), i32x4.splat(709921077)), x), x);
}

@inline
function halley(y: v128, x: v128): v128 {
  const y3 = f32x4.mul(f32x4.mul(y, y), y);
  return f32x4.mul(y, f32x4.div(f32x4.add(y3, f32x4.add(x, x)), f32x4.add(f32x4.add(y3, y3), x)));
}

/** sRGB decoding (IEC 61966-2-1), odd and unbounded: ((v + 0.055) / 1.055)^2.4 as c² · (√c)^0.8, which needs no logarithm up to 1.3. */
@inline
export function decode4(v: v128): v128 {
  const a = f32x4.abs(v), knee = f32x4.splat(0.04045);
  const c = f32x4.mul(f32x4.add(f32x4.pmax(a, knee), f32x4.splat(0.055)), f32x4.splat(1 / 1.055));
  const curve = v128.any_true(f32x4.gt(a, f32x4.splat(1.3)))
    ? power(c, 2.4)
    : f32x4.mul(f32x4.mul(c, c), fourFifths(f32x4.sqrt(c)));
  const light = v128.bitselect(curve, f32x4.mul(a, f32x4.splat(1 / 12.92)), f32x4.gt(a, knee));
  return v128.or(light, v128.and(v, i32x4.splat(SIGN)));
}

/** sRGB encoding, odd and unbounded: v^(1 / 2.4) is the cube root times the fourth root of it. */
@inline
export function encode4(v: v128): v128 {
  const a = f32x4.abs(v), knee = f32x4.splat(0.0031308);
  const root = cubeRoot4(f32x4.pmax(a, knee));
  const curve = f32x4.mul(f32x4.mul(root, f32x4.sqrt(f32x4.sqrt(root))), f32x4.splat(1.055));
  const code = v128.bitselect(
    f32x4.sub(curve, f32x4.splat(0.055)),
    f32x4.mul(a, f32x4.splat(12.92)),
    f32x4.gt(a, knee),
  );
  return v128.or(code, v128.and(v, i32x4.splat(SIGN)));
}

/** t^0.8 for 0.2995 ≤ t ≤ 1.14: a polynomial fitted for the least relative error, which is 3.2e-7. */
@inline
function fourFifths(t: v128): v128 {
  const t2 = f32x4.mul(t, t);
  const t4 = f32x4.mul(t2, t2);
  const low = f32x4.add(
    line(0.02615133859217167, 1.457413673400879, t),
    f32x4.mul(line(-1.4387632608413696, 2.581563711166382, t), t2),
  );
  const high = f32x4.add(
    line(-3.548180341720581, 3.3660919666290283, t),
    f32x4.mul(line(-2.0611987113952637, 0.7305005192756653, t), t2),
  );
  return f32x4.add(low, f32x4.mul(t4, f32x4.add(high, f32x4.mul(t4, f32x4.splat(-0.11357928812503815)))));
}

@inline
function line(from: f32, slope: f32, t: v128): v128 {
  return f32x4.add(f32x4.splat(from), f32x4.mul(f32x4.splat(slope), t));
}

/** Decodes a plane in place and multiplies it by `gain`. */
export function decodePlane(plane: usize, n: i32, gain: f32): void {
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    v128.store(p, f32x4.mul(decode4(v128.load(p)), f32x4.splat(gain)));
  }
}

/** Encodes a plane in place, clipped to 0…1. */
export function encodePlane(plane: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const p = plane + (<usize>i << 2);
    v128.store(p, encode4(f32x4.pmax(f32x4.pmin(v128.load(p), f32x4.splat(1)), f32x4.splat(0))));
  }
}
