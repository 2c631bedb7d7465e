import { describe, expect, test } from '@jest/globals';
import { applyStroke, evaluateMask, strokeBox } from '@/core/mask/evaluateMask';
import { guidedFilter } from '@/core/mask/guidedFilter';
import { type MaskGrid, PLAIN_MASK } from '@/core/mask/mask';
import { type Stroke } from '@/core/mask/stroke';
import { packStroke } from '@/core/mask/packStroke';
import { strokeCoverage } from '@/core/mask/strokeCoverage';
import { halveImage } from '@/core/raster/encodedImage';
import { IDENTITY, translation } from '@/core/raster/matrix3';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { flat, largestDifference } from '@/tests/paint';
import { BLEND_MODES, isSeparable, NON_SEPARABLE, type Rgb, SEPARABLE } from './blendMode';
import { composite, type PlacedLayer } from './composite';

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

describe('masks', () => {
  test('reveal builds up and hide takes away', () => {
    const mask = (strokes: Stroke[], base: 'hidden' | 'shown' = 'hidden') =>
      at(evaluateMask({ ...PLAIN_MASK, base, strokes }, grid), 80, 60);
    const half = stroke({ flow: 0.5 });
    expect(mask([half])).toBeCloseTo(0.5, 6);
    expect(mask([half, half])).toBeCloseTo(0.75, 6);
    expect(mask([half, { ...half, action: 'hide' }])).toBeCloseTo(0.25, 6);
    expect(mask([{ ...half, action: 'hide' }], 'shown')).toBeCloseTo(0.5, 6);
    expect(mask([], 'shown')).toBe(1);
  });

  test('adding a stroke to a made mask is the same as making it anew', () => {
    const strokes = [
      stroke({ softness: 1 }),
      stroke({
        action: 'hide',
        points: [
          [0.4, 0.1, 1],
          [0.4, 0.5, 1],
        ],
      }),
    ];
    const plane = evaluateMask({ ...PLAIN_MASK, base: 'hidden', strokes: strokes.slice(0, 1) }, grid);
    applyStroke(plane, strokes[1], grid);
    expect(plane).toEqual(evaluateMask({ ...PLAIN_MASK, base: 'hidden', strokes }, grid));
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

describe('composite', () => {
  const area = { x: 0, y: 0, width: 40, height: 30 };
  const layer = (value: number, change: Partial<PlacedLayer> = {}): PlacedLayer => {
    const image = flat(40, 30, value, 65535);
    return {
      levels: [image, halveImage(image)],
      matrix: IDENTITY,
      opacity: 1,
      blend: 'normal',
      stops: 0,
      mask: { ...PLAIN_MASK, base: 'shown', strokes: [] },
      adjusts: [],
      ...change,
    };
  };
  const result = (layers: PlacedLayer[], i = 15 * 40 + 20) => composite(layers, 40, 0, area, 'lanczos')[1][i];

  // section 5.1: co = αs · [(1 − αb) · Cs + αb · B(Cb, Cs)] + (1 − αs) · αb · Cb
  test('follows the compositing formula for a half-opaque blend over an opaque backdrop', () => {
    expect(result([layer(0.4), layer(0.5, { blend: 'multiply', opacity: 0.5 })])).toBeCloseTo(
      0.5 * 0.2 + 0.5 * 0.4,
      4,
    );
    expect(result([layer(0.4), layer(0.5, { blend: 'screen', opacity: 0.25 })])).toBeCloseTo(
      0.25 * 0.7 + 0.75 * 0.4,
      4,
    );
  });

  test('follows it over a half-transparent backdrop too', () => {
    const found = result([layer(0.4, { opacity: 0.5 }), layer(0.5, { blend: 'multiply' })]);
    expect(found).toBeCloseTo((1 - 0.5) * 0.5 + 0.5 * 0.2, 4);
  });

  test('blends whole colours where the mode needs all three channels', () => {
    const found = [0, 1, 2].map(
      (c) => composite([layer(0.4), layer(0.7, { blend: 'luminosity' })], 40, 0, area, 'lanczos')[c][600],
    );
    found.forEach((v) => expect(v).toBeCloseTo(0.7, 4));
  });

  test('a layer brightened by a stop doubles its light', () => {
    const found = srgbToLinear(result([layer(linearToSrgb(0.2), { stops: 1 })]));
    expect(found).toBeCloseTo(0.4, 3);
  });

  test('where a source does not reach, what lies below stays', () => {
    const layers = [layer(0.4), layer(0.8, { matrix: translation(-10, 0) })];
    expect(result(layers, 15 * 40 + 4)).toBeCloseTo(0.4, 4);
    expect(result(layers, 15 * 40 + 20)).toBeCloseTo(0.8, 4);
  });

  test('a hidden mask leaves no trace, a stroke reveals its place only', () => {
    const hidden = layer(0.9, { mask: { ...PLAIN_MASK, base: 'hidden', strokes: [] } });
    expect(result([layer(0.4), hidden])).toBeCloseTo(0.4, 4);
    const painted = layer(0.9, {
      mask: { ...PLAIN_MASK, base: 'hidden', strokes: [stroke({ size: 0.3, points: [[0.5, 0.375, 1]] })] },
    });
    expect(result([layer(0.4), painted])).toBeCloseTo(0.9, 4);
    expect(result([layer(0.4), painted], 0)).toBeCloseTo(0.4, 4);
  });
});

describe('masks beyond strokes', () => {
  const whole = { ...PLAIN_MASK, base: 'shown', strokes: [] } as const;
  /** the left half two stops under middle grey, the right half one above */
  const tones = ({ x, width, height }: MaskGrid): Float32Array =>
    Float32Array.from({ length: width * height }, (_, i) => ((i % width) + x < 100 ? -2 : 1));

  test('keep to a range of tones with soft ends', () => {
    const dark = evaluateMask({ ...whole, range: { from: -3, to: -1, soft: 1 } }, grid, tones);
    expect([at(dark, 40, 60), at(dark, 160, 60)]).toEqual([1, 0]);
    // half-way down the soft end the smooth step is at one half
    const half = evaluateMask({ ...whole, range: { from: -1.5, to: 5, soft: 1 } }, grid, tones);
    expect(at(half, 40, 60)).toBeCloseTo(0.5, 6);
    // without a picture there are no tones to keep to
    expect(at(evaluateMask({ ...whole, range: { from: 4, to: 5, soft: 0 } }, grid), 40, 60)).toBe(1);
  });

  test('turn inside out', () => {
    const mask = { ...PLAIN_MASK, base: 'hidden', strokes: [stroke()], inverted: true } as const;
    const plane = evaluateMask(mask, grid);
    expect([at(plane, 80, 60), at(plane, 20, 20)]).toEqual([0, 1]);
  });

  test('feather spreads an edge over its radius and keeps the amount', () => {
    const hard = evaluateMask({ ...PLAIN_MASK, base: 'hidden', strokes: [stroke()] }, grid);
    const soft = evaluateMask({ ...PLAIN_MASK, base: 'hidden', strokes: [stroke()], feather: 0.02 }, grid);
    const sum = (p: Float32Array): number => p.reduce((s, v) => s + v, 0);
    expect(sum(soft) / sum(hard)).toBeCloseTo(1, 2);
    expect(at(hard, 80, 41)).toBe(1);
    expect(at(soft, 80, 41)).toBeLessThan(0.75);
    expect(at(soft, 80, 37)).toBeGreaterThan(0.1);
  });

  test('a part of a feathered mask is the same as the whole, cut', () => {
    const mask = { ...PLAIN_MASK, base: 'hidden', strokes: [stroke()], feather: 0.02, follow: 0.02 } as const;
    const full = evaluateMask(mask, grid, tones);
    const part = evaluateMask(mask, { ...grid, x: 60, y: 50, width: 30, height: 20 }, tones);
    for (let y = 0; y < 20; y++)
      for (let x = 0; x < 30; x++) expect(part[y * 30 + x]).toBeCloseTo(at(full, x + 60, y + 50), 4);
  });

  test('following edges keeps a soft stroke inside its object', () => {
    // a soft brush painted on the left spills over the edge at x = 100
    const spilled = {
      ...PLAIN_MASK,
      base: 'hidden',
      strokes: [
        stroke({
          softness: 1,
          size: 0.3,
          points: [
            [0.38, 0.1, 1],
            [0.38, 0.5, 1],
          ],
        }),
      ],
    } as const;
    const loose = evaluateMask(spilled, grid, tones);
    const kept = evaluateMask({ ...spilled, follow: 0.03 }, grid, tones);
    expect(at(loose, 101, 60)).toBeGreaterThan(0.02);
    const step = (p: Float32Array): number => at(p, 97, 60) - at(p, 102, 60);
    expect(step(kept)).toBeGreaterThan(1.5 * step(loose));
  });

  test('a guided filter leaves an even input as it is (He, Sun & Tang 2010)', () => {
    const even = new Float32Array(40 * 30).fill(0.7);
    const guide = Float32Array.from({ length: 1200 }, (_, i) => Math.sin(i));
    expect(largestDifference(guidedFilter(even, guide, 40, 30, 4, 0.01), even)).toBeLessThan(1e-5);
  });
});
