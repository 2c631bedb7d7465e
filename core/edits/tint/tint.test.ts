import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import { linearToSrgb } from '@/core/raster/srgb';
import { randomSource } from '@/core/raster/random';
import { hueStep } from '../hues/hueMove';
import { solveTint } from './solveTint';
import { tint } from './tint';
import { tintLine, type TintPoint } from './tintLine';

const toRgb = converter('lrgb');
const toLab = converter('oklab');

/** Linear light with a tint. */
function tinted(points: readonly TintPoint[], light: readonly number[][]): number[][] {
  const planes = [0, 1, 2].map((c) => Float32Array.from(light, (l) => l[c]));
  const at = { level: 0, area: { x: 0, y: 0, width: light.length, height: 1 }, kernel: 'lanczos' } as const;
  const out = tint.operators[0].run?.([{ is: 'light', encoded: false, planes }], { points }, at);
  if (out?.is !== 'light') throw new Error('no light');
  return light.map((_, i) => out.planes.map((p) => p[i]));
}

const SPLIT: readonly TintPoint[] = [
  { at: -4, hue: 250, strength: 0.02 },
  { at: 1, hue: 50, strength: 0.03 },
];

describe('a tint line', () => {
  test('adds its points’ colours at their tones, and keeps lightness', () => {
    for (const { at, hue, strength } of SPLIT) {
      const grey = 0.18 * 2 ** at;
      const [[r, g, b]] = tinted(SPLIT, [[grey, grey, grey]]);
      const lab = toLab({ mode: 'lrgb', r, g, b });
      expect(lab.l).toBeCloseTo(Math.cbrt(grey), 4);
      expect(Math.hypot(lab.a, lab.b)).toBeCloseTo(strength, 3);
      expect(Math.abs(hueStep((Math.atan2(lab.b, lab.a) * 180) / Math.PI, hue))).toBeLessThan(1);
    }
  });

  test('black stays black, and no tone turns over in any channel', () => {
    const ramp = Array.from({ length: 4096 }, (_, i) => [i, i, i].map((v) => (v / 4095) ** 2.2));
    const out = tinted(SPLIT, ramp);
    expect(out[0].map(Math.abs)).toEqual([0, 1, 2].map(() => expect.closeTo(0, 7)));
    for (let c = 0; c < 3; c++) {
      const code = out.map((l) => linearToSrgb(Math.max(0, l[c])));
      const least = code.slice(1).reduce((low, v, i) => Math.min(low, v - code[i]), Infinity);
      expect(least).toBeGreaterThan(-1e-6);
    }
  });

  test('is the same beyond its ends, and nothing without points', () => {
    expect(tintLine(SPLIT)(-9)).toEqual(tintLine(SPLIT)(-4));
    expect(tintLine(SPLIT)(3)).toEqual(tintLine(SPLIT)(1));
    expect(tintLine([])(0)).toEqual([0, 0]);
  });
});

describe('a tint taken from a reference', () => {
  const random = randomSource(5);
  /** light of muted colours of all tones */
  const scene = Array.from({ length: 6000 }, () => {
    const { r, g, b } = toRgb({
      ...{ mode: 'oklab' as const, l: 0.25 + 0.7 * random() },
      ...{ a: 0.04 * (random() - 0.5), b: 0.04 * (random() - 0.5) },
    });
    return [r, g, b];
  });
  const samples = (light: readonly number[][]): Float64Array =>
    Float64Array.from(light.flat(), (v) => linearToSrgb(Math.min(1, Math.max(0, v))));
  /** how far two tint lines lie apart at tones from −4.5 to 1.5 stops, chroma */
  const apart = (own: readonly TintPoint[], points: readonly TintPoint[]): number[] =>
    Array.from({ length: 25 }, (_, i) => {
      const [p, q] = [tintLine(own), tintLine(points)].map((line) => line(-4.5 + i / 4));
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    });

  test('of the same picture is the tint that it was given', () => {
    const solved = solveTint({
      target: samples(scene),
      reference: samples(tinted(SPLIT, scene)),
      paired: true,
    });
    expect(solved.length).toBeGreaterThanOrEqual(3);
    const off = apart(solved, SPLIT);
    // the tint itself is 0.02 to 0.03; its points lie at other tones
    expect(off.reduce((a, b) => a + b) / off.length).toBeLessThan(0.002);
    expect(Math.max(...off)).toBeLessThan(0.005);
  });

  test('of another picture is the part of it that is likely grade', () => {
    const [own, other] = [scene.filter((_, i) => i % 2 === 0), scene.filter((_, i) => i % 2 === 1)];
    const solved = solveTint({
      target: samples(own),
      reference: samples(tinted(SPLIT, other)),
      paired: false,
    });
    for (const { at, hue, strength } of solved.filter((p) => p.at === -4 || p.at >= 0)) {
      const [a, b] = tintLine(SPLIT)(at);
      const angle = (hue * Math.PI) / 180;
      expect(strength * Math.cos(angle)).toBeCloseTo(0.57 * a, 2);
      expect(strength * Math.sin(angle)).toBeCloseTo(0.28 * b, 2);
      expect(strength).toBeGreaterThan(0.002);
    }
  });

  test('tones that one of them lacks say nothing', () => {
    const bright = scene.filter(([, g]) => g > 0.3);
    const solved = solveTint({ target: samples(bright), reference: samples(scene), paired: false });
    expect(Math.min(...solved.map((p) => p.at))).toBeGreaterThanOrEqual(0);
  });
});
