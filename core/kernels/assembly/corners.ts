// The structure tensor of a picture, of which corners are found.

/** Half the differences of the neighbours on both sides; 0 along the border. */
export function slopePlanes(src: usize, w: i32, h: i32, gx: usize, gy: usize): void {
  const stride = <usize>w << 2;
  const bytes = <usize>(w * h) << 2;
  memory.fill(gx, 0, bytes);
  memory.fill(gy, 0, bytes);
  const half = f32x4.splat(0.5);
  for (let y = 1; y + 1 < h; y++) {
    const row = <usize>y * stride;
    let x = 1;
    for (; x + 5 <= w; x += 4) {
      const o = row + (<usize>x << 2);
      v128.store(gx + o, f32x4.mul(half, f32x4.sub(v128.load(src + o, 4), v128.load(src + o - 4))));
      v128.store(gy + o, f32x4.mul(half, f32x4.sub(v128.load(src + o + stride), v128.load(src + o - stride))));
    }
    for (; x + 1 < w; x++) {
      const o = row + (<usize>x << 2);
      store<f32>(gx + o, 0.5 * (load<f32>(src + o, 4) - load<f32>(src + o - 4)));
      store<f32>(gy + o, 0.5 * (load<f32>(src + o + stride) - load<f32>(src + o - stride)));
    }
  }
}

/** The product of two planes. */
export function multiplyPlanes(a: usize, b: usize, n: i32, out: usize): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    v128.store(out + o, f32x4.mul(v128.load(a + o), v128.load(b + o)));
  }
}

/** Harmonic mean of the tensor's eigenvalues: determinant over trace; 0 where there is no slope. */
export function cornerStrength(xx: usize, xy: usize, yy: usize, n: i32, out: usize): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const a = v128.load(xx + o), b = v128.load(xy + o), c = v128.load(yy + o);
    const trace = f32x4.add(a, c);
    const determinant = f32x4.sub(f32x4.mul(a, c), f32x4.mul(b, b));
    v128.store(out + o, v128.and(f32x4.gt(trace, f32x4.splat(1e-12)), f32x4.div(determinant, trace)));
  }
}
