import { describe, expect, test } from '@jest/globals';
import { transform } from '@/core/raster/matrix3';
import { paint, waves } from '@/tests/paint';
import { fitFindings } from './fitFindings';
import { radialBend } from './radialBend';
import { registerPair } from './registerPair';
import { referenceRegistration } from './registration';
import { type TileResidual } from './tileResidual';

const [W, H] = [640, 440];
const [back, front] = [waves(91, 50), waves(92, 50)];

/** A figure on the right half before a background; both move, each by its own shift. */
const shot = (figure: number, background: number) =>
  paint(W, H, (x, y) => {
    const inside = x > 360 && x < 600 && y > 60 && y < 400;
    const v = 0.2 + 0.6 * (inside ? front(x - figure, y) : back(x - background, y));
    return [v, v * 0.95, v * 0.9];
  });

describe('a fit held on a region', () => {
  const reference = shot(0, 0);
  const frame = shot(4, -5);

  test('follows that region, not the rest', () => {
    const held = registerPair(reference, frame, {
      stops: 0,
      motion: 'shift',
      region: { x: 380, y: 80, width: 200, height: 300 },
    });
    expect(held.why).toBe('');
    const [x, y] = transform(held.matrix, 480, 230);
    expect(Math.hypot(x - 484, y - 230)).toBeLessThan(0.1);
    const other = registerPair(reference, frame, {
      stops: 0,
      motion: 'shift',
      region: { x: 20, y: 20, width: 300, height: 400 },
    });
    const [u] = transform(other.matrix, 100, 100);
    expect(Math.abs(u - 95)).toBeLessThan(0.1);
  });

  test('a region that shows nothing leaves the frame out with a reason', () => {
    const bare = paint(W, H, (x) => (x < 320 ? [0.5, 0.5, 0.5] : [0.2 + 0.6 * front(x, 9), 0.4, 0.4]));
    const fit = registerPair(bare, bare, {
      stops: 0,
      motion: 'auto',
      region: { x: 20, y: 20, width: 200, height: 200 },
    });
    expect(fit.fitted).toBe(false);
    expect(fit.why.length).toBeGreaterThan(10);
  });
});

describe('lens correction on some frames only', () => {
  const tiles = (bend: number, noise: number): TileResidual[] =>
    Array.from({ length: 96 }, (_, i) => {
      const [x, y] = [(i % 12) * 50, Math.floor(i / 12) * 50];
      const [px, py] = [x - 275, y - 175];
      const far = Math.hypot(275, 175);
      const r = Math.hypot(px, py) / far;
      const k = r > 0 ? (bend * (r ** 3 - 0.6 * r)) / (r * far) : 0;
      const jitter = noise * Math.sin(i * 7.3);
      return { x, y, dx: k * px + jitter, dy: k * py - jitter, error: 0.1 };
    });

  test('a planted bend is measured, a shake is not one', () => {
    for (const bend of [-3, -1, 0.8, 2.5]) expect(radialBend(tiles(bend, 0.1))).toBeCloseTo(bend, 0);
    expect(radialBend(tiles(0, 0.4))).toBe(0);
    expect(radialBend([])).toBe(0);
  });

  test('the frame is named; when all others bend, it is the reference', () => {
    const frame = (name: string, bend: number) => ({
      name,
      isReference: false,
      registration: { ...referenceRegistration(), tiles: tiles(bend, 0.05) },
    });
    const lens = (...frames: ReturnType<typeof frame>[]) =>
      fitFindings(frames, 1).find((f) => f.id === 'fit.lens');
    expect(lens(frame('a', 0), frame('b', 1.5), frame('c', 0))).toMatchObject({ verdict: 'watch' });
    expect(lens(frame('a', 0), frame('b', 1.5), frame('c', 0))?.why).toContain('b bends against the others');
    expect(lens(frame('a', 1.4), frame('b', 1.5), frame('c', 1.5))?.why).toContain('The reference bends');
    expect(lens(frame('a', 0), frame('b', 0))?.verdict).toBe('pass');
  });
});
