import { describe, expect, test } from '@jest/globals';
import { normalSource, randomSource } from '@/core/raster/random';
import { invert, transform } from '@/core/raster/matrix3';
import { denoisePlanes } from './denoise';
import { edgeMask, sharpenPlanes } from './sharpen';
import { type Line, straighteningOf, tiltOf } from './straighten';

const size = { width: 1200, height: 800 };
const degrees = (radians: number): number => (radians * 180) / Math.PI;

describe('straightening', () => {
  test('a line drawn along a leaning horizon is level afterwards', () => {
    const line: Line = [100, 400, 1100, 452];
    const map = straighteningOf({ level: line }, size);
    const back = invert(map);
    const [a, b] = [transform(back, line[0], line[1]), transform(back, line[2], line[3])];
    expect(Math.abs(a[1] - b[1])).toBeLessThan(1e-6);
    expect(degrees(tiltOf(line))).toBeCloseTo(2.977, 2);
    // the middle stays where it is
    expect(transform(map, 599.5, 399.5)).toEqual([expect.closeTo(599.5, 6), expect.closeTo(399.5, 6)]);
  });

  test('a steep line is taken for an upright', () => {
    const line: Line = [500, 100, 520, 700];
    const back = invert(straighteningOf({ level: line }, size));
    const [a, b] = [transform(back, line[0], line[1]), transform(back, line[2], line[3])];
    expect(Math.abs(a[0] - b[0])).toBeLessThan(1e-6);
  });

  test.each([
    ['leaning together', [300, 700, 360, 100], [900, 700, 850, 100]],
    ['leaning apart', [300, 700, 260, 100], [900, 700, 930, 100]],
    ['leaning one way', [300, 700, 340, 100], [900, 700, 945, 100]],
  ] as const)('two lines %s stand afterwards; the middle and its scale stay', (_, p, q) => {
    const map = straighteningOf({ uprights: [p, q] }, size);
    const back = invert(map);
    for (const [x0, y0, x1, y1] of [p, q]) {
      const [a, b] = [transform(back, x0, y0), transform(back, x1, y1)];
      expect(degrees(Math.atan2(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1])))).toBeLessThan(0.01);
    }
    const [cx, cy] = transform(map, 599.5, 399.5);
    expect(Math.hypot(cx - 599.5, cy - 399.5)).toBeLessThan(1e-6);
    const [x1, y1] = transform(map, 600, 400);
    expect(Math.hypot(x1 - cx, y1 - cy) / Math.hypot(0.5, 0.5)).toBeCloseTo(1, 2);
  });

  test('a camera that was tilted by a known angle is set upright again (Hartley & Zisserman, K R K⁻¹)', () => {
    // world verticals seen by a camera that looks up by 8°: u = f X/Z', with Y along the tilted axis
    const [f, c, s] = [1440, Math.cos(0.14), Math.sin(0.14)];
    const seen = (X: number, Y: number, Z: number): [number, number] => [
      (f * X) / (c * Z - s * Y) + 599.5,
      (f * (s * Z + c * Y)) / (c * Z - s * Y) + 399.5,
    ];
    const upright = (X: number): Line => [...seen(X, -2, 10), ...seen(X, 1, 10)];
    const map = straighteningOf({ uprights: [upright(-3), upright(3)] }, size, f);
    const back = invert(map);
    // a third upright, which was not drawn, stands too
    const [x0, y0, x1, y1] = upright(1.2);
    const [a, b] = [transform(back, x0, y0), transform(back, x1, y1)];
    expect(Math.abs(a[0] - b[0])).toBeLessThan(0.01);
  });

  test('lines that say nothing change nothing', () =>
    expect(straighteningOf({}, size)).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]));
});

const [W, H] = [96, 64];
/** An even, slightly grainy sky on the left and a hard edge on the right. */
function scene(grain: number): Float32Array[] {
  const normal = normalSource(randomSource(4));
  const plane = Float32Array.from(
    { length: W * H },
    (_, i) => (i % W < 64 ? 0.6 : i % W < 80 ? 0.2 : 0.6) + grain * normal(),
  );
  return [plane, plane.slice(), plane.slice()];
}
const spread = (plane: Float32Array, x0: number, x1: number): number => {
  let [sum, square, n] = [0, 0, 0];
  for (let y = 8; y < H - 8; y++)
    for (let x = x0; x < x1; x++, n++) {
      sum += plane[y * W + x];
      square += plane[y * W + x] ** 2;
    }
  return Math.sqrt(Math.max(0, square / n - (sum / n) ** 2));
};

describe('sharpening', () => {
  const wish = { radius: 1.7, amount: 1, edge: 0.25 };

  test('edges gain contrast, the sky keeps its grain as it is', () => {
    const before = scene(0.004);
    const after = scene(0.004);
    sharpenPlanes(after, W, H, wish);
    expect(spread(after[0], 8, 52) / spread(before[0], 8, 52)).toBeLessThan(1.02);
    const row = 30 * W;
    const step = (p: Float32Array): number => p[row + 63] - p[row + 64];
    expect(step(after[1])).toBeGreaterThan(step(before[1]) * 1.1);
  });

  test('without an edge mask everything is sharpened', () => {
    const after = scene(0.004);
    sharpenPlanes(after, W, H, { ...wish, edge: 0 });
    expect(spread(after[0], 8, 52) / spread(scene(0.004)[0], 8, 52)).toBeGreaterThan(1.2);
  });

  test('overshoot is bounded, and grey stays grey', () => {
    const after = scene(0);
    sharpenPlanes(after, W, H, { ...wish, amount: 5 });
    expect(Math.max(...after[0])).toBeLessThanOrEqual(0.6 + 0.35 * 0.4 + 1e-6);
    expect(Math.min(...after[0])).toBeGreaterThanOrEqual(0.2 - 0.35 * 0.4 - 1e-6);
    expect(after[0]).toEqual(after[2]);
  });

  test('the mask is 1 at the edge and 0 in the sky', () => {
    const mask = edgeMask(scene(0.004)[0], W, H, wish);
    expect(mask[30 * W + 64]).toBe(1);
    expect(mask[30 * W + 30]).toBeLessThan(0.02);
  });
});

describe('noise reduction', () => {
  test('half takes about half, all takes nearly all, and edges stay', () => {
    const sigma = 0.02;
    const noisy = (): Float32Array[] => {
      const normal = normalSource(randomSource(9));
      return [0, 1, 2].map(() =>
        Float32Array.from({ length: W * H }, (_, i) => (i % W < 64 ? 0.6 : 0.2) + sigma * normal()),
      );
    };
    const [whole, half] = [noisy(), noisy()];
    denoisePlanes(whole, W, H, 1, sigma);
    denoisePlanes(half, W, H, 0.5, sigma);
    const left = (p: Float32Array[]): number => spread(p[1], 8, 52) / sigma;
    expect(left(whole)).toBeLessThan(0.45);
    expect(left(half)).toBeGreaterThan(0.5);
    expect(left(half)).toBeLessThan(0.75);
    const row = 30 * W;
    expect(whole[1][row + 58] - whole[1][row + 70]).toBeGreaterThan(0.36);
  });

  test('nothing asked changes nothing', () => {
    const planes = scene(0.01);
    denoisePlanes(planes, W, H, 0, 0.01);
    expect(planes).toEqual(scene(0.01));
  });
});
