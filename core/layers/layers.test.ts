import { describe, expect, test } from '@jest/globals';
import { guidedFilter } from '@/core/mask/guidedFilter';
import { type MaskGrid } from '@/core/mask/maskGrid';
import { type Stroke, strokeBox } from '@/core/mask/stroke';
import { packStroke } from '@/core/mask/packStroke';
import { strokeCoverage } from '@/core/mask/strokeCoverage';
import { largestDifference } from '@/tests/paint';
import { BLEND_MODES, isSeparable, NON_SEPARABLE, type Rgb, SEPARABLE } from './blendMode';

const grid: MaskGrid = { longEdge: 200, level: 0, x: 0, y: 0, width: 200, height: 120 };
const stroke = (change: Partial<Stroke> = {}): Stroke => ({
  action: 'reveal',
  size: 0.2,
  softness: 0,
  flow: 1,
  points: [
    [0.25, 0.3, 1],
    [0.6, 0.3, 1],
  ],
  ...change,
});
const covered = (drawn: Stroke, where: MaskGrid): Float32Array => strokeCoverage(packStroke(drawn), where);
const at = (plane: Float32Array, x: number, y: number): number => plane[y * 200 + x];

describe('strokes', () => {
  test('a hard stroke covers its width fully and nothing beyond', () => {
    const plane = covered(stroke(), grid);
    expect(at(plane, 80, 60)).toBe(1);
    expect(at(plane, 80, 42)).toBe(1);
    expect(at(plane, 80, 38)).toBe(0);
    expect(at(plane, 20, 60)).toBe(0);
  });

  test('a soft stroke falls smoothly from the middle to nothing at its radius', () => {
    const plane = covered(stroke({ softness: 1 }), grid);
    const profile = Array.from({ length: 22 }, (_, d) => at(plane, 80, 60 - d));
    expect(profile[0]).toBeGreaterThan(0.99);
    expect(profile[10]).toBeCloseTo(0.5, 1);
    expect(profile[21]).toBe(0);
    profile.slice(1).forEach((v, i) => expect(v).toBeLessThanOrEqual(profile[i]));
  });

  test('flow and pen pressure scale it, pressure between two samples too', () => {
    const plane = covered(
      stroke({
        flow: 0.5,
        points: [
          [0.1, 0.3, 0],
          [0.9, 0.3, 1],
        ],
      }),
      grid,
    );
    expect(at(plane, 100, 60)).toBeCloseTo(0.25, 1);
    expect(at(plane, 150, 60)).toBeGreaterThan(at(plane, 60, 60));
  });

  test('a slow hand (many samples) paints no more than a quick one', () => {
    const slow = stroke({
      softness: 1,
      flow: 0.3,
      points: Array.from({ length: 80 }, (_, i) => [0.25 + (0.35 * i) / 79, 0.3, 1] as const),
    });
    const difference = largestDifference(
      covered(slow, grid),
      covered(stroke({ softness: 1, flow: 0.3 }), grid),
    );
    expect(difference).toBeLessThan(0.01);
  });

  test('is the same picture at half size', () => {
    const soft = stroke({ softness: 0.8 });
    const full = covered(soft, grid);
    const half = covered(soft, { longEdge: 200, level: 1, x: 0, y: 0, width: 100, height: 60 });
    for (let y = 2; y < 58; y += 5)
      for (let x = 2; x < 98; x += 5) {
        const mean =
          (at(full, 2 * x, 2 * y) +
            at(full, 2 * x + 1, 2 * y) +
            at(full, 2 * x, 2 * y + 1) +
            at(full, 2 * x + 1, 2 * y + 1)) /
          4;
        expect(Math.abs(half[y * 100 + x] - mean)).toBeLessThan(0.02);
      }
  });

  test('a part of the grid is the same as the whole, cut', () => {
    const full = covered(stroke({ softness: 1 }), grid);
    const part = covered(stroke({ softness: 1 }), { ...grid, x: 33, y: 40, width: 21, height: 17 });
    for (let y = 0; y < 17; y++)
      for (let x = 0; x < 21; x++) expect(part[y * 21 + x]).toBe(at(full, x + 33, y + 40));
  });

  test('one dab of a pen is a disc', () => {
    const plane = covered(stroke({ points: [[0.5, 0.3, 1]] }), grid);
    expect(plane.reduce((s, v) => s + v, 0)).toBeCloseTo(Math.PI * 20 * 20, -2);
    expect(strokeBox(stroke({ points: [[0.5, 0.3, 1]] }))).toEqual({
      x: 0.4,
      y: expect.closeTo(0.2, 9),
      width: expect.closeTo(0.2, 9),
      height: expect.closeTo(0.2, 9),
    });
  });
});

describe('blend modes (W3C Compositing and Blending Level 1, section 9)', () => {
  // worked by hand from the formulas of section 9.1
  test.each([
    ['normal', 0.4, 0.7, 0.7],
    ['multiply', 0.4, 0.5, 0.2],
    ['screen', 0.4, 0.5, 0.7],
    ['overlay', 0.3, 0.6, 0.36],
    ['overlay', 0.7, 0.6, 0.76],
    ['darken', 0.4, 0.3, 0.3],
    ['lighten', 0.4, 0.3, 0.4],
    ['color-dodge', 0.3, 0.5, 0.6],
    ['color-dodge', 0, 1, 0],
    ['color-dodge', 0.2, 1, 1],
    ['color-burn', 0.7, 0.5, 0.4],
    ['color-burn', 1, 0, 1],
    ['color-burn', 0.7, 0, 0],
    ['hard-light', 0.3, 0.4, 0.24],
    ['hard-light', 0.3, 0.6, 0.44],
    ['soft-light', 0.5, 0.25, 0.375],
    ['soft-light', 0.16, 0.75, 0.16 + 0.5 * (((16 * 0.16 - 12) * 0.16 + 4) * 0.16 - 0.16)],
    ['soft-light', 0.49, 1, 0.7],
    ['difference', 0.4, 0.7, 0.3],
    ['exclusion', 0.4, 0.5, 0.5],
  ] as const)('%s of %f and %f', (mode, backdrop, source, expected) =>
    expect(SEPARABLE[mode](backdrop, source)).toBeCloseTo(expected, 9),
  );

  const lum = ([r, g, b]: Rgb): number => 0.3 * r + 0.59 * g + 0.11 * b;
  const sat = (c: Rgb): number => Math.max(...c) - Math.min(...c);
  const [backdrop, source]: [Rgb, Rgb] = [
    [0.6, 0.4, 0.3],
    [0.2, 0.5, 0.7],
  ];

  test('color and hue keep the backdrop’s luminosity, luminosity takes the source’s (section 9.2)', () => {
    for (const mode of ['color', 'hue', 'saturation'] as const)
      expect(lum(NON_SEPARABLE[mode](backdrop, source))).toBeCloseTo(lum(backdrop), 9);
    expect(lum(NON_SEPARABLE.luminosity(backdrop, source))).toBeCloseTo(lum(source), 9);
  });

  test('saturation takes the source’s, hue keeps the backdrop’s, where nothing has to be clipped', () => {
    expect(sat(NON_SEPARABLE.saturation(backdrop, [0.5, 0.4, 0.35]))).toBeCloseTo(0.15, 9);
    expect(sat(NON_SEPARABLE.hue(backdrop, source))).toBeCloseTo(sat(backdrop), 9);
    // a grey has no hue to give
    expect(sat(NON_SEPARABLE.hue(backdrop, [0.5, 0.5, 0.5]))).toBeCloseTo(0, 9);
  });

  test('every mode stays within 0…1 and is on offer once', () => {
    expect(new Set(BLEND_MODES).size).toBe(16);
    for (const mode of BLEND_MODES)
      for (const b of [0, 0.2, 0.5, 1])
        for (const s of [0, 0.3, 0.5, 0.9, 1]) {
          const values = isSeparable(mode)
            ? [SEPARABLE[mode](b, s)]
            : NON_SEPARABLE[mode]([b, 0.4, 0.1], [s, 0.9, 0.6]);
          for (const v of values) {
            expect(v).toBeGreaterThanOrEqual(-1e-9);
            expect(v).toBeLessThanOrEqual(1 + 1e-9);
          }
        }
  });
});

describe('a mask that is led to edges', () => {
  test('a guided filter leaves an even input as it is (He, Sun & Tang 2010)', () => {
    const even = new Float32Array(40 * 30).fill(0.7);
    const guide = Float32Array.from({ length: 1200 }, (_, i) => Math.sin(i));
    expect(largestDifference(guidedFilter(even, guide, 40, 30, 4, 0.01), even)).toBeLessThan(1e-5);
  });
});
