import { describe, expect, test } from '@jest/globals';
import { randomSource } from '../../raster/random';
import { type GridFrame } from '../frameOnGrid';
import { likelyPart, swapWeights } from '../swap/swapWeights';
import { chooseMoments, EVENING, type Moments } from './chooseMoments';
import { momentScores } from './momentScores';
import { MOMENT_TASTES, type MomentTaste } from './momentTastes';

const W = 120;
const H = 80;
const GRID = { width: W, height: H, level: 2 };

/** A wall with texture; `paint` changes cells. */
function view(
  seed: number,
  paint: (x: number, y: number, v: number) => number = (_x, _y, v) => v,
): GridFrame {
  const random = randomSource(7);
  const fresh = randomSource(seed);
  const planes = [0, 1, 2].map(() => new Float32Array(W * H));
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++, i++) {
      const wall = 0.42 + 0.12 * random();
      const v = paint(x, y, wall) + 0.004 * (fresh() - 0.5);
      planes.forEach((p, c) => (p[i] = v * [1, 0.92, 0.84][c]));
    }
  return { planes, seen: new Float32Array(W * H).fill(1) };
}

const chosen = (frames: GridFrame[], taste: MomentTaste, reference: number): Moments =>
  chooseMoments(frames, momentScores(frames, W, H), MOMENT_TASTES[taste], reference, GRID);

const madeBy = (m: Moments, x: number, y: number): number =>
  m.planes.reduce((best, p, f) => (p[y * W + x] > m.planes[best][y * W + x] ? f : best), 0);

describe('moments', () => {
  test('a passer-by in the reference is replaced by a moment without one', () => {
    const passing = view(1, (x, y, v) => (x > 30 && x < 46 && y > 20 ? 0.9 : v));
    const m = chosen([passing, view(2), view(3)], 'calm', 0);
    expect(madeBy(m, 38, 50)).not.toBe(0);
    expect(madeBy(m, 100, 20)).toBe(0);
  });

  test('a burnt sky comes from a moment that holds it', () => {
    const burnt = view(1, (_x, y, v) => (y < 30 ? 1 : v));
    const held = view(2, (_x, y, v) => (y < 30 ? v * 0.9 : v * 0.5));
    const m = chooseMoments([burnt, held], momentScores([burnt, held], W, H), EVENING, 0, GRID);
    expect(madeBy(m, 60, 10)).toBe(1);
    expect(madeBy(m, 60, 60)).toBe(0);
    const sky = m.regions.find((r) => r.frame === 1);
    expect(sky?.better).toContain('unclipped');
    expect(sky?.area).toBeGreaterThan(0.2);
  });

  test('smooth or lively water, as wished', () => {
    const rough = view(1, (x, y, v) => (y > 50 ? 0.5 + 0.3 * ((x + y) % 2) : v));
    const smooth = view(2, (_x, y, v) => (y > 50 ? 0.62 : v));
    expect(madeBy(chosen([rough, smooth], 'smooth', 0), 60, 68)).toBe(1);
    expect(madeBy(chosen([smooth, rough], 'lively', 0), 60, 68)).toBe(1);
  });

  test('equal moments leave the reference as it is', () => {
    const m = chosen([view(1), view(2), view(3)], 'evening', 1);
    const mean = m.planes[1].reduce((a, b) => a + b, 0) / (W * H);
    expect(mean).toBeGreaterThan(0.97);
  });
});

describe('a swap', () => {
  const before = view(1, (x, y, v) => (x > 50 && x < 62 && y > 30 && y < 50 ? 0.85 : v));
  const after = view(2, (x, y, v) => (x > 56 && x < 68 && y > 26 && y < 46 ? 0.1 : v));

  test('finds the part by itself: both hands lie in it', () => {
    const part = likelyPart([before, after], 0, 1, GRID);
    if (!part) throw new Error('no part');
    expect(part.x).toBeLessThan(51 * 4);
    expect(part.x + part.width).toBeGreaterThan(67 * 4);
    expect(part.y).toBeLessThan(27 * 4);
    expect(part.y + part.height).toBeGreaterThan(49 * 4);
  });

  test('joins where both agree, so that no half hand is left', () => {
    const part = likelyPart([before, after], 0, 1, GRID);
    if (!part) throw new Error('no part');
    const swap = swapWeights([before, after], 0, 1, part, GRID);
    expect(swap.seam).toBeLessThan(0.02);
    for (let y = 27; y < 50; y++)
      for (let x = 51; x < 68; x++) {
        const i = y * W + x;
        const differs = Math.abs(before.planes[1][i] - after.planes[1][i]) > 0.1;
        if (differs) expect(swap.planes[1][i]).toBe(1);
      }
    expect(swap.planes[0][5]).toBe(1);
  });

  test('a lantern that was here and is there leaves no second one, and a speck far away stays out', () => {
    const lamp = (cx: number, cy: number) => (x: number, y: number, v: number) =>
      Math.abs(x - cx) < 5 && Math.abs(y - cy) < 5 ? 0.9 : v;
    const gull = (x: number, y: number, v: number) =>
      Math.abs(x - 112) < 3 && Math.abs(y - 6) < 3 ? 0.9 : v;
    const low = view(1, lamp(30, 52));
    const high = view(2, (x, y, v) => gull(x, y, lamp(42, 36)(x, y, v)));
    const part = likelyPart([low, high], 0, 1, GRID);
    if (!part) throw new Error('no part');
    expect(part.x + part.width).toBeLessThan(100 * 4);
    const { planes } = swapWeights([low, high], 0, 1, part, GRID);
    for (const [cx, cy] of [
      [30, 52],
      [42, 36],
    ])
      for (let y = cy - 4; y <= cy + 4; y++)
        for (let x = cx - 4; x <= cx + 4; x++) expect(planes[1][y * W + x]).toBe(1);
  });

  test('two frames that hardly differ offer no part', () =>
    expect(likelyPart([view(1), view(2)], 0, 1, GRID)).toBeUndefined());
});
