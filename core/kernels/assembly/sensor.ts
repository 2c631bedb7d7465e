// What a pixel of the stand-in camera's sensor hands over: shot and read noise, clipping, white balance, code.
import { exp4 } from './maths';

/** Random bits of four draws in a row (mulberry32, as core/raster/random.ts has it). */
@inline
function bitsAt(states: v128): v128 {
  let t = i32x4.mul(v128.xor(states, i32x4.shr_u(states, 15)), v128.or(states, i32x4.splat(1)));
  t = v128.xor(
    t,
    i32x4.add(t, i32x4.mul(v128.xor(t, i32x4.shr_u(t, 7)), v128.or(t, i32x4.splat(61)))),
  );
  return v128.xor(t, i32x4.shr_u(t, 14));
}

/** How many electrons come where `mean` are expected: the distribution of Poisson turned round at a uniform number. */
@inline
function poisson(mean: f32, uniform: f64): f32 {
  let p = <f64>f32x4.extract_lane(exp4(f32x4.splat(-mean)), 0);
  let sum = p;
  let k: i32 = 0;
  while (uniform > sum && k < 120) {
    k++;
    p *= <f64>mean / <f64>k;
    sum += p;
  }
  return <f32>k;
}

/** Four entries of a table of 65 536 floats. */
@inline
function entries(table: usize, places: v128): v128 {
  const a = load<f32>(table + (<usize>i32x4.extract_lane(places, 0) << 2));
  const b = load<f32>(table + (<usize>i32x4.extract_lane(places, 1) << 2));
  const c = load<f32>(table + (<usize>i32x4.extract_lane(places, 2) << 2));
  const d = load<f32>(table + (<usize>i32x4.extract_lane(places, 3) << 2));
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(a), 1, b), 2, c), 3, d);
}

const STEP: i32 = 0x6d2b79f5;

/**
 * Reads `n` pixels of one colour. `light` and `reaches` are multiplied for light in full wells; `first` is the number of the first draw;
 * `normals` are standard normal numbers in 65 536 even steps of their distribution, one drawn for shot noise and one for read noise.
 * `signal` gets the signal times `gain`, `clipped` a 1 where it reached `full`, `codes` every third byte from the table's 65 536.
 */
export function readPixels(light: usize, reaches: usize, n: i32, fullWell: f32, readNoise: f32, few: f32, seed: i32, other: i32, first: i32, gain: f32, full: f32, normals: usize, signal: usize, clipped: usize, table: usize, codes: usize): void {
  const well = f32x4.splat(fullWell), noise = f32x4.splat(readNoise), inverse = f32x4.splat(1 / fullWell), zero = f32x4.splat(0);
  const lanes = i32x4.mul(i32x4(1, 2, 3, 4), i32x4.splat(STEP));
  const sixteen = i32x4.splat(0xffff);
  for (let i = 0; i < n; i += 4) {
    const at = <usize>i << 2;
    const mean = f32x4.pmax(zero, f32x4.mul(f32x4.mul(v128.load(light + at), v128.load(reaches + at)), well));
    const states = i32x4.add(lanes, i32x4.splat((first + i) * STEP));
    const bits = bitsAt(i32x4.add(states, i32x4.splat(seed)));
    let shot = f32x4.add(mean, f32x4.mul(f32x4.sqrt(mean), entries(normals, v128.and(bits, sixteen))));
    const rare = f32x4.le(mean, f32x4.splat(few));
    if (v128.any_true(rare)) {
      const uniform = bitsAt(i32x4.add(states, i32x4.splat(other)));
      if (i32x4.extract_lane(rare, 0)) shot = f32x4.replace_lane(shot, 0, poisson(f32x4.extract_lane(mean, 0), <f64><u32>i32x4.extract_lane(uniform, 0) / 4294967296));
      if (i32x4.extract_lane(rare, 1)) shot = f32x4.replace_lane(shot, 1, poisson(f32x4.extract_lane(mean, 1), <f64><u32>i32x4.extract_lane(uniform, 1) / 4294967296));
      if (i32x4.extract_lane(rare, 2)) shot = f32x4.replace_lane(shot, 2, poisson(f32x4.extract_lane(mean, 2), <f64><u32>i32x4.extract_lane(uniform, 2) / 4294967296));
      if (i32x4.extract_lane(rare, 3)) shot = f32x4.replace_lane(shot, 3, poisson(f32x4.extract_lane(mean, 3), <f64><u32>i32x4.extract_lane(uniform, 3) / 4294967296));
    }
    const read = entries(normals, i32x4.shr_u(bits, 16));
    const v = f32x4.mul(f32x4.add(f32x4.pmin(well, shot), f32x4.mul(noise, read)), inverse);
    const whole = f32x4.ge(v, f32x4.splat(full));
    const balanced = f32x4.mul(v, f32x4.splat(gain));
    v128.store(signal + at, balanced);
    const step = i32x4.trunc_sat_f32x4_s(
      f32x4.add(f32x4.mul(f32x4.pmax(zero, f32x4.pmin(f32x4.splat(1), balanced)), f32x4.splat(65535)), f32x4.splat(0.5)),
    );
    const to = codes + 3 * <usize>i;
    store<u8>(to, load<u8>(table + <usize>i32x4.extract_lane(step, 0)));
    store<u8>(to, load<u8>(table + <usize>i32x4.extract_lane(step, 1)), 3);
    store<u8>(to, load<u8>(table + <usize>i32x4.extract_lane(step, 2)), 6);
    store<u8>(to, load<u8>(table + <usize>i32x4.extract_lane(step, 3)), 9);
    if (v128.any_true(whole)) {
      if (i32x4.extract_lane(whole, 0)) store<u8>(clipped + <usize>i, 1);
      if (i32x4.extract_lane(whole, 1)) store<u8>(clipped + <usize>i, 1, 1);
      if (i32x4.extract_lane(whole, 2)) store<u8>(clipped + <usize>i, 1, 2);
      if (i32x4.extract_lane(whole, 3)) store<u8>(clipped + <usize>i, 1, 3);
    }
  }
}
