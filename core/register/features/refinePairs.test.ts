import { describe, expect, test } from '@jest/globals';
import { type Matrix3, translation } from '../../raster/matrix3';
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

  test.each([
    [14, 1],
    [-25, 1.12],
    [40, 0.9],
  ])('pictures that are turned by %i° and %f times as large lie as exactly', (degrees, scale) => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const [mx, my] = [W / 2, H / 2];
    const turn = (x: number, y: number): [number, number] => [
      mx + scale * (c * (x - mx) - s * (y - my)),
      my + scale * (s * (x - mx) + c * (y - my)),
    ];
    const grey = Float32Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [(i % W) - mx, Math.floor(i / W) - my];
      return waves(mx + (c * x + s * y) / scale, my + (c * y - s * x) / scale);
    });
    // the map knows the turn and is a pixel off
    const [u0, v0] = turn(0, 0);
    const rough: Matrix3 = [scale * c, -scale * s, u0 + 0.9, scale * s, scale * c, v0 - 0.6, 0, 0, 1];
    const pairs = beside(0)
      .filter(({ x, y }) => Math.hypot(x - mx, y - my) < 70)
      .map((p): PointPair => {
        const [u, v] = turn(p.x, p.y);
        return { ...p, u: u + 0.7, v: v - 0.5 };
      });
    const laid = refinePairs(picture(0, 0), { width: W, height: H, grey }, rough, pairs);
    expect(laid.length).toBe(pairs.length);
    const off = laid.map((p) => Math.hypot(p.u - turn(p.x, p.y)[0], p.v - turn(p.x, p.y)[1]));
    // two cubics see the finest waves a little differently
    expect(Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / off.length)).toBeLessThan(0.03);
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
