import { describe, expect, test } from '@jest/globals';
import { randomSource } from '@/core/raster/random';
import { regionOf, regionPlane } from '@/tests/regionPlane';
import { idleStrokes } from './idleStrokes';
import { packStroke } from './packStroke';
import { type Stroke } from './stroke';

const SIZE = { width: 300, height: 200 };

const stroke = (
  action: Stroke['action'],
  x: number,
  y: number,
  size: number,
  change: Partial<Stroke> = {},
): Stroke => ({
  ...{ action, size, softness: 0.4, flow: 1 },
  points: [
    [x, y, 1],
    [x + 0.1, y, 1],
  ],
  ...change,
});

const idle = (strokes: readonly Stroke[]) => idleStrokes(strokes.map(packStroke), SIZE);

describe('strokes that do nothing', () => {
  test('are those that were painted over, that show what is shown, or that lie beside the picture', () => {
    const wide = { softness: 0 };
    expect(idle([stroke('reveal', 0.3, 0.3, 0.1), stroke('hide', 0.3, 0.3, 0.3, wide)])).toEqual([0]);
    expect(idle([stroke('reveal', 0.3, 0.3, 0.3, wide), stroke('reveal', 0.35, 0.3, 0.1)])).toEqual([1]);
    expect(idle([stroke('hide', 0.3, 0.3, 0.1)])).toEqual([0]);
    expect(idle([stroke('reveal', 3, 3, 0.1)])).toEqual([0]);
    expect(idle([stroke('reveal', 0.3, 0.3, 0.1), stroke('hide', 0.3, 0.3, 0.3, { flow: 0.5 })])).toEqual([]);
  });

  test('of very many the latest are judged, upon what those before them painted', () => {
    const many = Array.from({ length: 140 }, (_, k) =>
      stroke('reveal', 0.05 + 0.004 * k, 0.3, 0.05, { flow: 0.2 }),
    );
    // all of it is shown by one in the middle: what shows more there afterwards does nothing
    const strokes = [...many.slice(0, 20), stroke('reveal', 0.4, 0.3, 3, { softness: 0 }), ...many.slice(20)];
    const found = idle(strokes);
    expect(found[0]).toBe(strokes.length - 100);
    expect(found).toHaveLength(100);
  });

  test('one that stays on what it started on depends on the picture: it is named by none, and hides none', () => {
    const inside = { inside: true, softness: 0 };
    expect(idle([stroke('reveal', 0.3, 0.3, 0.1), stroke('hide', 0.3, 0.3, 0.3, inside)])).toEqual([]);
  });

  test.each([1, 2, 3, 4])('are just those without which the mask is the same (seed %i)', (seed) => {
    const random = randomSource(seed);
    const strokes = Array.from({ length: 9 }, () =>
      stroke(random() < 0.6 ? 'reveal' : 'hide', random() * 0.9, random() * 0.6, 0.05 + 0.5 * random() ** 2, {
        softness: random() < 0.5 ? 0 : random(),
        flow: random() < 0.6 ? 1 : random(),
      }),
    );
    const maskOf = (some: readonly Stroke[]) =>
      regionPlane(regionOf({ kind: 'strokes', settings: { strokes: some } }), SIZE.width, SIZE.height);
    const whole = maskOf(strokes);
    const found = idle(strokes);
    strokes.forEach((_, k) => {
      const without = maskOf(strokes.filter((_s, i) => i !== k));
      const most = whole.reduce((worst, v, i) => Math.max(worst, Math.abs(v - without[i])), 0);
      // between half a code and two the size at which it is looked at may decide
      if (most < 0.5 / 255) expect(found).toContain(k);
      if (most > 2 / 255) expect(found).not.toContain(k);
    });
  });
});
