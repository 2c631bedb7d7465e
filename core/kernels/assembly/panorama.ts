// Blending the frames of a panorama: whose a pixel is, and what stands in for a frame where it does not reach.

@inline
function listed(list: usize, k: i32): usize {
  return <usize>load<u32>(list + (<usize>k << 2));
}

/** Shares of cells as a soft outline: it runs where the share is a half, and is nothing where the frame does not reach. */
export function outlineWeights(weight: usize, inside: usize, n: i32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1), half = f32x4.splat(0.5), two = f32x4.splat(2);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const w = f32x4.add(f32x4.mul(f32x4.sub(v128.load(weight + o), half), two), half);
    const soft = f32x4.pmax(zero, f32x4.pmin(one, w));
    v128.store(weight + o, v128.and(soft, f32x4.ge(v128.load(inside + o), zero)));
  }
}

/**
 * Makes the weights sum to 1; a pixel that no outline holds goes to the frame that reaches farthest past it.
 * @param weights, insides addresses of the frames' planes @param covered becomes 1 where a frame reaches, else 0: floats
 * @param most [frame] becomes its largest weight: floats
 */
export function settleWeights(weights: usize, insides: usize, frames: i32, n: i32, covered: usize, most: usize): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  for (let f = 0; f < frames; f++) store<f32>(most + (<usize>f << 2), 0);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    let sum = zero, deepest = v128.load(listed(insides, 0) + o), best = i32x4.splat(0);
    for (let f = 0; f < frames; f++) {
      sum = f32x4.add(sum, v128.load(listed(weights, f) + o));
      const own = v128.load(listed(insides, f) + o);
      const deeper = f32x4.gt(own, deepest);
      deepest = v128.bitselect(own, deepest, deeper);
      best = v128.bitselect(i32x4.splat(f), best, deeper);
    }
    v128.store(covered + o, v128.and(one, f32x4.ge(deepest, zero)));
    const held = f32x4.gt(sum, f32x4.splat(1e-3));
    const scale = f32x4.div(one, sum);
    for (let f = 0; f < frames; f++) {
      const p = listed(weights, f) + o;
      const alone = v128.and(one, i32x4.eq(best, i32x4.splat(f)));
      const w = v128.bitselect(f32x4.mul(v128.load(p), scale), alone, held);
      v128.store(p, w);
      if (v128.any_true(f32x4.gt(w, v128.load32_splat(most + (<usize>f << 2))))) {
        const top = max<f32>(
          max<f32>(f32x4.extract_lane(w, 0), i + 1 < n ? f32x4.extract_lane(w, 1) : 0),
          max<f32>(i + 2 < n ? f32x4.extract_lane(w, 2) : 0, i + 3 < n ? f32x4.extract_lane(w, 3) : 0),
        );
        store<f32>(most + (<usize>f << 2), max<f32>(top, load<f32>(most + (<usize>f << 2))));
      }
    }
  }
}

/**
 * Where a frame neither reaches nor counts, the others stand in for it, so that its border is no edge in its bands.
 * @param pictures addresses of the frames' red planes; green and blue follow `plane` bytes apart
 */
export function fillOutside(pictures: usize, plane: usize, weights: usize, insides: usize, frames: i32, n: i32): void {
  const zero = f32x4.splat(0);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    let out = i32x4.splat(0);
    for (let f = 0; f < frames; f++) out = v128.or(out, f32x4.lt(v128.load(listed(insides, f) + o), zero));
    if (!v128.any_true(out)) continue;
    let sum = zero, r = zero, g = zero, b = zero;
    for (let f = 0; f < frames; f++) {
      const w = f32x4.pmax(zero, v128.load(listed(weights, f) + o));
      const p = listed(pictures, f) + o;
      sum = f32x4.add(sum, w);
      r = f32x4.add(r, f32x4.mul(w, v128.load(p)));
      g = f32x4.add(g, f32x4.mul(w, v128.load(p + plane)));
      b = f32x4.add(b, f32x4.mul(w, v128.load(p + 2 * plane)));
    }
    const scale = f32x4.div(f32x4.splat(1), sum);
    for (let f = 0; f < frames; f++) {
      const p = listed(pictures, f) + o;
      const lent = v128.and(f32x4.lt(v128.load(listed(insides, f) + o), zero), f32x4.le(v128.load(listed(weights, f) + o), zero));
      v128.store(p, v128.bitselect(f32x4.mul(r, scale), v128.load(p), lent));
      v128.store(p + plane, v128.bitselect(f32x4.mul(g, scale), v128.load(p + plane), lent));
      v128.store(p + 2 * plane, v128.bitselect(f32x4.mul(b, scale), v128.load(p + 2 * plane), lent));
    }
  }
}

/** Multiplies three planes, `plane` bytes apart, by what is covered. */
export function clearUncovered(picture: usize, plane: usize, covered: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const seen = v128.load(covered + o);
    for (let c = 0; c < 3; c++) {
      const p = picture + <usize>c * plane + o;
      v128.store(p, f32x4.mul(seen, v128.load(p)));
    }
  }
}
