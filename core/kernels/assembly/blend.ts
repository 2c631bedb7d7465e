// Blend modes of W3C Compositing and Blending Level 1, sections 9.1 and 9.2, with simple alpha compositing (section 5.1) on straight colours.

@inline
function one(): v128 {
  return f32x4.splat(1);
}

@inline
function clip(v: v128): v128 {
  return f32x4.pmax(f32x4.pmin(v, one()), f32x4.splat(0));
}

@inline
function hardLight(b: v128, s: v128): v128 {
  const twice = f32x4.add(s, s), over = f32x4.sub(twice, one());
  const light = f32x4.sub(f32x4.add(b, over), f32x4.mul(b, over));
  return v128.bitselect(f32x4.mul(b, twice), light, f32x4.le(s, f32x4.splat(0.5)));
}

/** B(backdrop, source) by the number of the mode, in the order of core/layers/blendMode.ts. */
@inline
function separable(mode: i32, b: v128, s: v128): v128 {
  const zero = f32x4.splat(0);
  if (mode == 1) return f32x4.mul(b, s);
  if (mode == 2) return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s));
  if (mode == 3) return hardLight(s, b);
  if (mode == 4) return f32x4.pmin(b, s);
  if (mode == 5) return f32x4.pmax(b, s);
  if (mode == 6) {
    const quotient = f32x4.pmin(f32x4.div(b, f32x4.pmax(f32x4.sub(one(), s), f32x4.splat(1e-30))), one());
    return v128.bitselect(zero, v128.bitselect(one(), quotient, f32x4.ge(s, one())), f32x4.eq(b, zero));
  }
  if (mode == 7) {
    const quotient = f32x4.sub(one(), f32x4.pmin(f32x4.div(f32x4.sub(one(), b), f32x4.pmax(s, f32x4.splat(1e-30))), one()));
    return v128.bitselect(one(), v128.bitselect(zero, quotient, f32x4.le(s, zero)), f32x4.ge(b, one()));
  }
  if (mode == 8) return hardLight(b, s);
  if (mode == 9) {
    const over = f32x4.sub(f32x4.add(s, s), one());
    const dark = f32x4.add(b, f32x4.mul(over, f32x4.mul(b, f32x4.sub(one(), b))));
    const low = f32x4.mul(f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12)), b), f32x4.splat(4)), b);
    const d = v128.bitselect(low, f32x4.sqrt(b), f32x4.le(b, f32x4.splat(0.25)));
    return v128.bitselect(dark, f32x4.add(b, f32x4.mul(over, f32x4.sub(d, b))), f32x4.le(s, f32x4.splat(0.5)));
  }
  if (mode == 10) return f32x4.abs(f32x4.sub(b, s));
  const product = f32x4.mul(b, s);
  return f32x4.sub(f32x4.add(b, s), f32x4.add(product, product));
}

/** The share of the backdrop's own colour, of the source's and of both blended, for the alphas of a place; and what divides them. */
@inline
function laid(back: v128, source: v128, blended: v128, as_: v128, ab: v128): v128 {
  const kept = f32x4.mul(f32x4.sub(one(), as_), ab);
  const alone = f32x4.mul(as_, f32x4.sub(one(), ab));
  const both = f32x4.mul(as_, ab);
  const sum = f32x4.add(f32x4.mul(kept, back), f32x4.add(f32x4.mul(alone, source), f32x4.mul(both, blended)));
  const total = f32x4.add(as_, kept);
  // where nothing is, the backdrop's colour goes on: what looks around itself must not meet black there
  return v128.bitselect(f32x4.div(sum, f32x4.pmax(total, f32x4.splat(1e-30))), back, f32x4.gt(total, f32x4.splat(0)));
}

@inline
function layPlane(mode: i32, back: usize, source: usize, alpha: usize, under: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const b = v128.load(back + o), s = v128.load(source + o), a = v128.load(alpha + o);
    const blended = mode == 0 ? s : separable(mode, clip(b), clip(s));
    // over an opaque backdrop nothing need be divided
    if (!under) v128.store(back + o, f32x4.add(b, f32x4.mul(a, f32x4.sub(blended, b))));
    else v128.store(back + o, laid(b, s, blended, a, v128.load(under + o)));
  }
}

/**
 * Lays a plane over another, in place, by a mode that looks at one channel at a time.
 * @param alpha of the source; `under` that of the backdrop, 0 where it is opaque
 */
export function blendPlane(mode: i32, back: usize, source: usize, alpha: usize, under: usize, n: i32): void {
  switch (mode) {
    case 0: layPlane(0, back, source, alpha, under, n); break;
    case 1: layPlane(1, back, source, alpha, under, n); break;
    case 2: layPlane(2, back, source, alpha, under, n); break;
    case 3: layPlane(3, back, source, alpha, under, n); break;
    case 4: layPlane(4, back, source, alpha, under, n); break;
    case 5: layPlane(5, back, source, alpha, under, n); break;
    case 6: layPlane(6, back, source, alpha, under, n); break;
    case 7: layPlane(7, back, source, alpha, under, n); break;
    case 8: layPlane(8, back, source, alpha, under, n); break;
    case 9: layPlane(9, back, source, alpha, under, n); break;
    case 10: layPlane(10, back, source, alpha, under, n); break;
    default: layPlane(11, back, source, alpha, under, n);
  }
}

/** Adds the alpha of what was laid over it to a backdrop's: union of both. */
export function coverPlane(under: usize, alpha: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const a = v128.load(alpha + o), u = v128.load(under + o);
    v128.store(under + o, f32x4.add(a, f32x4.mul(u, f32x4.sub(one(), a))));
  }
}

@inline
function luminosity(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(f32x4.mul(r, f32x4.splat(0.3)), f32x4.add(f32x4.mul(g, f32x4.splat(0.59)), f32x4.mul(b, f32x4.splat(0.11))));
}

@inline
function least(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmin(r, f32x4.pmin(g, b));
}

@inline
function most(r: v128, g: v128, b: v128): v128 {
  return f32x4.pmax(r, f32x4.pmax(g, b));
}

/** A channel led towards the luminosity until the least comes to 0 and the most to 1. */
@inline
function clipChannel(v: v128, l: v128, n: v128, x: v128): v128 {
  const tiny = f32x4.splat(1e-30);
  const low = f32x4.add(l, f32x4.div(f32x4.mul(f32x4.sub(v, l), l), f32x4.pmax(f32x4.sub(l, n), tiny)));
  const risen = v128.bitselect(low, v, f32x4.lt(n, f32x4.splat(0)));
  const high = f32x4.add(l, f32x4.div(f32x4.mul(f32x4.sub(risen, l), f32x4.sub(one(), l)), f32x4.pmax(f32x4.sub(x, l), tiny)));
  return v128.bitselect(high, risen, f32x4.gt(x, one()));
}

/** Lays three planes, `plane` bytes apart, over others by a mode that looks at the whole colour: 0 hue, 1 saturation, 2 colour, 3 luminosity. */
export function blendColours(mode: i32, back: usize, source: usize, plane: usize, alpha: usize, under: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const R = v128.load(back + o), G = v128.load(back + plane + o), B = v128.load(back + 2 * plane + o);
    const U = v128.load(source + o), V = v128.load(source + plane + o), W = v128.load(source + 2 * plane + o);
    const rb = clip(R), gb = clip(G), bb = clip(B), rs = clip(U), gs = clip(V), bs = clip(W);
    let r: v128, g: v128, b: v128, light: v128;
    if (mode < 2) {
      // the one colour with the other's saturation: the most becomes it, the least 0
      const ofSource = mode == 0;
      const cr = ofSource ? rs : rb, cg = ofSource ? gs : gb, cb = ofSource ? bs : bb;
      const or = ofSource ? rb : rs, og = ofSource ? gb : gs, ob = ofSource ? bb : bs;
      const n0 = least(cr, cg, cb), range = f32x4.sub(most(cr, cg, cb), n0);
      const wanted = f32x4.sub(most(or, og, ob), least(or, og, ob));
      const some = f32x4.gt(range, f32x4.splat(0));
      const k = v128.and(some, f32x4.div(wanted, f32x4.pmax(range, f32x4.splat(1e-30))));
      r = f32x4.mul(f32x4.sub(cr, n0), k);
      g = f32x4.mul(f32x4.sub(cg, n0), k);
      b = f32x4.mul(f32x4.sub(cb, n0), k);
      light = luminosity(rb, gb, bb);
    } else if (mode == 2) {
      r = rs;
      g = gs;
      b = bs;
      light = luminosity(rb, gb, bb);
    } else {
      r = rb;
      g = gb;
      b = bb;
      light = luminosity(rs, gs, bs);
    }
    const d = f32x4.sub(light, luminosity(r, g, b));
    r = f32x4.add(r, d);
    g = f32x4.add(g, d);
    b = f32x4.add(b, d);
    const l = luminosity(r, g, b), low = least(r, g, b), high = most(r, g, b);
    const a = v128.load(alpha + o);
    const u = under ? v128.load(under + o) : one();
    v128.store(back + o, laid(R, U, clipChannel(r, l, low, high), a, u));
    v128.store(back + plane + o, laid(G, V, clipChannel(g, l, low, high), a, u));
    v128.store(back + 2 * plane + o, laid(B, W, clipChannel(b, l, low, high), a, u));
  }
}
