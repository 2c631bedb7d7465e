import { describe, expect, test } from '@jest/globals';
import { translation } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { type PointPair } from './matchFeatures';
import { type Grey, refinePairs } from './refinePairs';

const [W, H] = [260, 200];
const [DX, DY] = [3.37, -1.81];

/** Waves of many directions that hold detail of six pixels and more everywhere. */
const waves = (() => {
  const random = randomSource(12);
  const list = Array.from({ length: 24 }, () => {
    const [turn, length] = [Math.PI * random(), 6 + 20 * random()];
    const k = (2 * Math.PI) / length;
    return { kx: k * Math.cos(turn), ky: k * Math.sin(turn), phase: 6.3 * random() };
  });
  return (x: number, y: number): number =>
    0.5 + list.reduce((s, w) => s + Math.sin(w.kx * x + w.ky * y + w.phase), 0) / 60;
})();

/** A picture that shows at (x, y) what the waves are at (x − dx, y − dy). */
function picture(dx: number, dy: number, noise = 0, gain = 1, offset = 0): Grey {
  const normal = normalSource(randomSource(3));
  const grey = Float32Array.from(
    { length: W * H },
    (_, i) => offset + gain * waves((i % W) - dx, Math.floor(i / W) - dy) + noise * normal(),
  );
  return { width: W, height: H, grey };
}

/** Points on a grid, each matched a little beside where it belongs. */
function beside(most: number): PointPair[] {
  const random = randomSource(6);
  const pairs: PointPair[] = [];
  for (let y = 30; y < H - 30; y += 20)
    for (let x = 30; x < W - 30; x += 20)
      pairs.push({
        x,
        y,
        u: x + DX + most * (2 * random() - 1),
        v: y + DY + most * (2 * random() - 1),
        spread: 1,
      });
  return pairs;
}

/** Root mean square distance of refined pairs from the truth, pixels. */
const offOf = (pairs: readonly PointPair[]): number =>
  Math.sqrt(pairs.reduce((s, p) => s + (p.u - p.x - DX) ** 2 + (p.v - p.y - DY) ** 2, 0) / pairs.length);

describe('matched points are laid exactly over each other', () => {
  const map = translation(3, -2);

  test('to a hundredth of a pixel where the pictures are the same', () => {
    const pairs = refinePairs(picture(0, 0), picture(DX, DY), map, beside(1.2));
    expect(pairs).toHaveLength(beside(1).length);
    expect(offOf(pairs)).toBeLessThan(0.02);
  });

  test('whatever their exposure', () => {
    const pairs = refinePairs(picture(0, 0), picture(DX, DY, 0, 0.6, 0.2), map, beside(1.2));
    expect(offOf(pairs)).toBeLessThan(0.02);
  });

  test('noise costs at most twice what it must (Cramér & Rao: two noisy patches of 17 × 17 pixels)', () => {
    const noise = 0.01;
    const clean = picture(0, 0).grey;
    const least = beside(1).map(({ x, y }) => {
      let [xx, xy, yy] = [0, 0, 0];
      for (let j = -8; j <= 8; j++)
        for (let i = -8; i <= 8; i++) {
          const o = (y + j) * W + x + i;
          const [gx, gy] = [(clean[o + 1] - clean[o - 1]) / 2, (clean[o + W] - clean[o - W]) / 2];
          xx += gx * gx;
          xy += gx * gy;
          yy += gy * gy;
        }
      return (2 * noise * noise * (xx + yy)) / (xx * yy - xy * xy);
    });
    const bound = Math.sqrt(least.reduce((sum, v) => sum + v / least.length, 0));
    const off = offOf(refinePairs(picture(0, 0, noise), picture(DX, DY, noise), map, beside(1)));
    expect(off).toBeGreaterThan(0.7 * bound);
    expect(off).toBeLessThan(2 * bound);
  });

  test('what shows something else, or lies at the border, is left out', () => {
    const other = picture(DX, DY);
    // a block of the second picture shows other waves
    for (let y = 80; y < 130; y++) for (let x = 90; x < 160; x++) other.grey[y * W + x] = waves(3 * x, 2 * y);
    const border = { x: 4, y: 100, u: 4 + DX, v: 100 + DY, spread: 1 };
    const pairs = refinePairs(picture(0, 0), other, map, [...beside(0.5), border]);
    expect(pairs.some((p) => p.x === 4)).toBe(false);
    const inside = pairs.filter((p) => p.u > 100 && p.u < 150 && p.v > 90 && p.v < 120);
    expect(inside).toHaveLength(0);
    expect(offOf(pairs)).toBeLessThan(0.1);
    expect(pairs.length).toBeGreaterThan(0.6 * beside(1).length);
  });

  test('nothing is made of an even picture', () => {
    const even = { width: W, height: H, grey: new Float32Array(W * H).fill(0.5) };
    expect(refinePairs(even, even, map, beside(1))).toEqual([]);
  });
});
