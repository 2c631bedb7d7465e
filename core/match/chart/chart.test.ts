import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import { chartPicture, THREE_LIGHTS } from '@/tests/chartPicture';
import { CHART, CHART_LAB, CHART_LIGHT } from './chartPatches';
import { chartColours, type ChartCorners } from './chartColours';
import { chartProfile } from './chartProfile';
import { findChart } from './findChart';

const UPRIGHT: ChartCorners = [
  [120, 90],
  [360, 96],
  [356, 256],
  [118, 250],
];
/** turned away by about 45° and on its side */
const OBLIQUE: ChartCorners = [
  [330, 60],
  [352, 300],
  [196, 262],
  [190, 108],
];
const UPSIDE_DOWN: ChartCorners = [
  [372, 270],
  [130, 280],
  [110, 120],
  [360, 100],
];

describe('the chart as published', () => {
  test('has the sRGB codes that are common knowledge for it', () => {
    // codes of the middle of rounding tables in use, from memory; the cyan lies outside sRGB
    const known: Readonly<Record<string, readonly number[]>> = {
      'dark skin': [115, 82, 68],
      foliage: [87, 108, 67],
      orange: [214, 126, 44],
      'purplish blue': [80, 91, 166],
      yellow: [231, 199, 31],
      white: [243, 243, 242],
      'middle grey': [122, 122, 121],
      black: [52, 52, 52],
    };
    const toRgb = converter('rgb');
    for (const [name, codes] of Object.entries(known)) {
      const [r, g, b] = CHART_LIGHT[CHART.findIndex((p) => p.name === name)];
      const rgb = toRgb({ mode: 'lrgb', r, g, b });
      [rgb.r, rgb.g, rgb.b].forEach((v, c) => expect(Math.abs(255 * v - codes[c])).toBeLessThan(12));
    }
  });

  test('greys are neutral, and L* is that of their reflectance', () => {
    CHART_LAB.slice(18).forEach(([L, a, b], i) => {
      expect(Math.hypot(a, b)).toBeLessThan(0.2);
      const Y = CHART[18 + i].Y / 100;
      expect(L).toBeCloseTo(Y > 216 / 24389 ? 116 * Math.cbrt(Y) - 16 : (Y * 24389) / 27, 1);
    });
  });
});

describe('a chart in a picture', () => {
  test.each([
    ['upright', UPRIGHT],
    ['seen obliquely, on its side', OBLIQUE],
    ['upside down', UPSIDE_DOWN],
  ])('is found %s, the right way round', (_, corners) => {
    const found = findChart(chartPicture({ corners, recording: THREE_LIGHTS.lamp }));
    expect(found).toBeDefined();
    found?.corners.forEach(([x, y], i) =>
      // a tenth of a patch
      expect(Math.hypot(x - corners[i][0], y - corners[i][1])).toBeLessThan(4),
    );
  });

  test('is not found where there is none, nor where a grid is another card', () => {
    const corners: ChartCorners = UPRIGHT;
    const picture = chartPicture({ corners, recording: THREE_LIGHTS.noon });
    const grey = { ...picture, data: picture.data.map((v, i, all) => (i % 3 === 0 ? v : all[i - (i % 3)])) };
    expect(findChart(grey)).toBeUndefined();
    const far = chartPicture({
      corners: corners.map(([x, y]) => [x / 9, y / 9]),
      recording: THREE_LIGHTS.noon,
    });
    expect(findChart(far)).toBeUndefined();
  });

  test('a corner outside the picture says so', () => {
    const picture = chartPicture({ corners: UPRIGHT, recording: THREE_LIGHTS.noon });
    expect(chartColours(picture, UPRIGHT.with(1, [900, 96]))).toBeUndefined();
    expect(chartColours(picture, UPRIGHT.with(1, UPRIGHT[0]))).toBeUndefined();
  });
});

describe('a profile from a chart', () => {
  test.each(Object.keys(THREE_LIGHTS) as (keyof typeof THREE_LIGHTS)[])(
    'under the %s brings its patches within 1.5 ΔE2000 in the mean',
    (light) => {
      const picture = chartPicture({ corners: UPRIGHT, recording: THREE_LIGHTS[light], gain: 0.6 });
      const colours = chartColours(picture, UPRIGHT);
      const profile = colours && chartProfile(colours);
      expect(profile?.differences.after).toBeLessThan(1.5);
      expect(profile?.differences.before).toBeGreaterThan(3.5);
    },
  );

  test('keeps how bright the greys are', () => {
    const picture = chartPicture({ corners: UPRIGHT, recording: THREE_LIGHTS.lamp, gain: 0.4 });
    const colours = chartColours(picture, UPRIGHT) ?? [];
    const m = chartProfile(colours)?.matrix ?? [];
    const luminance = (l: readonly number[]): number => 0.2126 * l[0] + 0.7152 * l[1] + 0.0722 * l[2];
    for (const { light } of colours.slice(19, 22)) {
      const after = [0, 1, 2].map(
        (c) => m[3 * c] * light[0] + m[3 * c + 1] * light[1] + m[3 * c + 2] * light[2],
      );
      expect(luminance(after) / luminance(light)).toBeCloseTo(1, 1);
      expect(Math.max(...after) / Math.min(...after)).toBeLessThan(1.03);
    }
  });

  test('burnt patches say nothing, and with too few left there is none', () => {
    const lit = (gain: number) =>
      chartColours(chartPicture({ corners: UPRIGHT, recording: THREE_LIGHTS.noon, gain }), UPRIGHT) ?? [];
    const bright = chartProfile(lit(1.3));
    expect(bright?.differences.patches[18]).toBeUndefined();
    expect(bright?.differences.after).toBeLessThan(1.5);
    expect(chartProfile(lit(9))).toBeUndefined();
  });
});
