import { describe, expect, test } from '@jest/globals';
import { BLEND_MODES } from '@/core/layers/blendMode';
import { randomSource } from '@/core/raster/random';
import { type LightTile } from '../tile';
import { blended } from './blendLayers';

const N = 1003;

/** Colours at random, with the ends of the range and what lies beyond them among them. */
function tileOf(seed: number, alpha: boolean): LightTile & { readonly alpha: Float32Array } {
  const random = randomSource(seed);
  const ends = [0, 1, 0.5, 0.25, -0.1, 1.4];
  const plane = (): Float32Array =>
    Float32Array.from({ length: N }, () => (random() < 0.2 ? ends[Math.floor(random() * 6)] : random()));
  const opacity = Float32Array.from({ length: N }, () => (alpha ? Math.round(random() * 4) / 4 : 1));
  return { is: 'light', encoded: true, planes: [plane(), plane(), plane()], alpha: opacity };
}

/** Formulas of W3C Compositing and Blending Level 1, written out once more from its text, one pixel at a time in double precision. */
const LUM = (c: number[]): number => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
function clipColor(c: number[]): number[] {
  const [L, n, x] = [LUM(c), Math.min(...c), Math.max(...c)];
  let out = c;
  if (n < 0) out = out.map((v) => L + ((v - L) * L) / (L - n));
  if (x > 1) out = out.map((v) => L + ((v - L) * (1 - L)) / (x - L));
  return out;
}
const setLum = (c: number[], l: number): number[] => clipColor(c.map((v) => v + l - LUM(c)));
const sat = (c: number[]): number => Math.max(...c) - Math.min(...c);
function setSat(c: number[], s: number): number[] {
  const order = [0, 1, 2].sort((i, j) => c[i] - c[j]);
  const out = [0, 0, 0];
  const [low, mid, high] = order;
  if (c[high] > c[low]) {
    out[mid] = ((c[mid] - c[low]) * s) / (c[high] - c[low]);
    out[high] = s;
  }
  return out;
}
const hard = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1));
const FORMULAS: Record<string, (b: number[], s: number[]) => number[]> = {
  normal: (_, s) => s,
  multiply: (b, s) => b.map((v, i) => v * s[i]),
  screen: (b, s) => b.map((v, i) => v + s[i] - v * s[i]),
  overlay: (b, s) => b.map((v, i) => hard(s[i], v)),
  darken: (b, s) => b.map((v, i) => Math.min(v, s[i])),
  lighten: (b, s) => b.map((v, i) => Math.max(v, s[i])),
  'color-dodge': (b, s) => b.map((v, i) => (v === 0 ? 0 : s[i] === 1 ? 1 : Math.min(1, v / (1 - s[i])))),
  'color-burn': (b, s) => b.map((v, i) => (v === 1 ? 1 : s[i] === 0 ? 0 : 1 - Math.min(1, (1 - v) / s[i]))),
  'hard-light': (b, s) => b.map((v, i) => hard(v, s[i])),
  'soft-light': (b, s) =>
    b.map((v, i) => {
      if (s[i] <= 0.5) return v - (1 - 2 * s[i]) * v * (1 - v);
      const d = v <= 0.25 ? ((16 * v - 12) * v + 4) * v : Math.sqrt(v);
      return v + (2 * s[i] - 1) * (d - v);
    }),
  difference: (b, s) => b.map((v, i) => Math.abs(v - s[i])),
  exclusion: (b, s) => b.map((v, i) => v + s[i] - 2 * v * s[i]),
  hue: (b, s) => setLum(setSat(s, sat(b)), LUM(b)),
  saturation: (b, s) => setLum(setSat(b, sat(s)), LUM(b)),
  color: (b, s) => setLum(s, LUM(b)),
  luminosity: (b, s) => setLum(b, LUM(s)),
};

const clip = (v: number): number => Math.min(1, Math.max(0, v));

describe.each(BLEND_MODES)('%s', (mode) => {
  test.each([
    ['over an opaque backdrop', false],
    ['over one that is partly there', true],
  ])('is the published formula to 1/65535 %s', (_, partly) => {
    const over = tileOf(3, true);
    const whole = tileOf(7, partly);
    const under: LightTile = partly ? whole : { is: 'light', encoded: true, planes: whole.planes };
    for (const compiled of [undefined, null]) {
      const out = blended(under, over, mode, compiled);
      let worst = 0;
      for (let i = 0; i < N; i++) {
        const [as, ab] = [over.alpha[i], partly ? whole.alpha[i] : 1];
        const [b, s] = [under.planes, over.planes].map((planes) => planes.map((p) => p[i]));
        const both = mode === 'normal' ? s : FORMULAS[mode](b.map(clip), s.map(clip));
        const total = as + ab * (1 - as);
        // section 5.1, divided by the alpha of the result
        const want = b.map((v, c) =>
          total === 0 ? v : ((1 - as) * ab * v + as * ((1 - ab) * s[c] + ab * both[c])) / total,
        );
        want.forEach((v, c) => (worst = Math.max(worst, Math.abs(v - out.planes[c][i]))));
        if (partly) worst = Math.max(worst, Math.abs(total - (out.alpha?.[i] ?? NaN)));
      }
      expect(worst).toBeLessThan(1 / 65535);
    }
  });
});
