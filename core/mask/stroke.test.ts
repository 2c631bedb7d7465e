import { describe, expect, test } from '@jest/globals';
import { largestDifference } from '@/tests/paint';
import { randomSource } from '../raster/random';
import { type MaskGrid } from './maskGrid';
import { simplifyStroke } from './simplifyStroke';
import { type Stroke, type StrokePoint } from './stroke';
import { packStroke } from './packStroke';
import { strokeCoverage } from './strokeCoverage';

const covered = (stroke: Stroke, on: MaskGrid): Float32Array => strokeCoverage(packStroke(stroke), on);

const strokeOf = (points: readonly StrokePoint[], change: Partial<Stroke> = {}): Stroke => ({
  ...{ action: 'reveal', size: 0.1, softness: 0.7, flow: 0.8, points },
  ...change,
});

const scribble = (seed: number, n: number): StrokePoint[] => {
  const random = randomSource(seed);
  return Array.from({ length: n }, () => [random(), random() * 0.7, random()]);
};

/** The definition: the largest over all segments, each looked at from each pixel. */
function byDefinition(stroke: Stroke, grid: MaskGrid): Float32Array {
  const out = new Float32Array(grid.width * grid.height);
  const scale = 2 ** grid.level;
  const radius = (stroke.size * grid.longEdge) / scale / 2;
  const fade = Math.max(1, radius * stroke.softness);
  const outer = Math.max(radius, 0.5) + (fade === 1 ? 0.5 : 0);
  const at = stroke.points.map(([x, y, p]) => [
    (x * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.x,
    (y * grid.longEdge - 0.5 - (scale - 1) / 2) / scale - grid.y,
    p,
  ]);
  for (let y = 0, i = 0; y < grid.height; y++)
    for (let x = 0; x < grid.width; x++, i++)
      for (let k = 0; k < Math.max(1, at.length - 1); k++) {
        const [ax, ay, ap] = at[k];
        const [bx, by, bp] = at[Math.min(at.length - 1, k + 1)];
        const length2 = (bx - ax) ** 2 + (by - ay) ** 2;
        const along = length2 > 0 ? ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length2 : 0;
        const t = Math.min(1, Math.max(0, along));
        const d = Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
        if (d >= outer) continue;
        const s = Math.min(1, (outer - d) / fade);
        out[i] = Math.max(out[i], s * s * (3 - 2 * s) * stroke.flow * (ap + t * (bp - ap)));
      }
  return out;
}

describe('what a stroke covers', () => {
  test.each<[string, Partial<Stroke>, number]>([
    ['one dab', {}, 1],
    ['a line', { softness: 0 }, 2],
    ['a scribble of a soft brush', { softness: 1 }, 60],
    ['a scribble of a large brush', { size: 0.6 }, 40],
    ['a scribble of a hair', { size: 0.004, softness: 0 }, 60],
  ])('%s: what looking at every segment from every pixel gives', (_, change, n) => {
    const stroke = strokeOf(scribble(n, n), change);
    for (const grid of [
      { longEdge: 160, level: 0, x: 0, y: 0, width: 160, height: 107 },
      { longEdge: 640, level: 2, x: 31, y: -9, width: 140, height: 90 },
    ])
      expect(largestDifference(covered(stroke, grid), byDefinition(stroke, grid))).toBeLessThan(1e-6);
  });
});

describe('a stroke without the points that nobody sees', () => {
  test('a slow hand leaves many points, and few of them are needed', () => {
    const slow = Array.from({ length: 4000 }, (_, i): StrokePoint => {
      const t = i / 4000;
      return [0.2 + 0.6 * t, 0.3 + 0.1 * Math.sin(6 * t), 0.5 + 0.4 * Math.sin(3 * t)];
    });
    const simple = simplifyStroke(strokeOf(slow), 6000);
    expect(simple.points.length).toBeLessThan(600);
    expect(simple.points[0]).toEqual(slow[0]);
    expect(simple.points[simple.points.length - 1]).toEqual(slow[slow.length - 1]);
    const grid = { longEdge: 6000, level: 4, x: 0, y: 0, width: 375, height: 250 };
    const difference = largestDifference(covered(simple, grid), covered(strokeOf(slow), grid));
    expect(difference).toBeLessThan(1 / 170);
  });

  test('no point is further than a tenth of a pixel from the line that is left', () => {
    let [x, y, heading] = [0.5, 0.4, 0];
    const points = scribble(9, 900).map(([turn]): StrokePoint => {
      heading += turn - 0.5;
      [x, y] = [x + 0.002 * Math.cos(heading), y + 0.002 * Math.sin(heading)];
      return [x, y, 1];
    });
    const { points: left } = simplifyStroke(strokeOf(points), 40);
    expect(left.length).toBeLessThan(points.length);
    let k = 0;
    for (const p of points) {
      if (left[k + 1] && p === left[k + 1]) k++;
      const [a, b] = [left[k], left[Math.min(left.length - 1, k + 1)]];
      const d = [0, 1].map((i) => (b[i] - a[i]) * 40);
      const q = [0, 1].map((i) => (p[i] - a[i]) * 40);
      const length2 = d[0] ** 2 + d[1] ** 2;
      const t = length2 > 0 ? Math.min(1, Math.max(0, (q[0] * d[0] + q[1] * d[1]) / length2)) : 0;
      expect(Math.hypot(q[0] - t * d[0], q[1] - t * d[1])).toBeLessThanOrEqual(0.1001);
    }
  });

  test('straight strokes keep their ends, short ones everything', () => {
    const straight = Array.from({ length: 200 }, (_, i): StrokePoint => [i / 200, i / 400, 1]);
    expect(simplifyStroke(strokeOf(straight), 3000).points).toHaveLength(2);
    const two = strokeOf(straight.slice(0, 2));
    expect(simplifyStroke(two, 3000)).toBe(two);
  });
});
