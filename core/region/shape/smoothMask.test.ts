import { describe, expect, test } from '@jest/globals';
import { regionOf, regionPlane } from '@/tests/regionPlane';
import { randomSource } from '@/core/raster/random';
import { EVERYWHERE, type Region } from '../region';
import { medianOf } from './smoothMask';

const [W, H] = [160, 120];

/** A square with a hole, and crumbs beside it, corners in pixels. */
const boxes = (smooth: number): Region => {
  const box = (x0: number, y0: number, x1: number, y1: number) => ({
    kind: 'polygon' as const,
    settings: {
      corners: [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ].map(([x, y]) => [x / W, y / W] as const),
    },
  });
  const parts = [
    { how: 'add', part: box(30, 20, 110, 90) },
    { how: 'remove', part: box(60, 50, 64, 54) },
    { how: 'add', part: box(130, 40, 133, 43) },
    { how: 'add', part: box(140, 100, 142, 102) },
  ] as const;
  return {
    ...{ ...EVERYWHERE, id: 'r', name: 'r', smooth: smooth / W },
    parts: parts.map((p) => ({ ...p, turned: false, on: true })),
  };
};
const at = (plane: Float32Array, x: number, y: number): number => plane[y * W + x];

describe('a region made smooth', () => {
  test('the middle of a window is what sorting it gives, to a 64th', () => {
    const random = randomSource(2);
    const [w, h] = [23, 17];
    const plane = Float32Array.from({ length: w * h }, () => random());
    for (const half of [1, 2, 4]) {
      const got = medianOf(plane, w, h, half);
      for (let y = 0; y < h; y++)
        for (let x = 0; x < w; x++) {
          const window: number[] = [];
          for (let dy = -half; dy <= half; dy++)
            for (let dx = -half; dx <= half; dx++)
              window.push(
                plane[Math.min(h - 1, Math.max(0, y + dy)) * w + Math.min(w - 1, Math.max(0, x + dx))],
              );
          window.sort((a, b) => a - b);
          expect(Math.abs(got[y * w + x] - window[(window.length - 1) / 2])).toBeLessThanOrEqual(
            0.5 / 63 + 1e-6,
          );
        }
    }
  });

  test('holes and crumbs smaller than it go, straight edges stay where they were', () => {
    const [rough, smooth] = [0, 4].map((by) => regionPlane(boxes(by), W, H));
    expect([at(rough, 62, 52), at(rough, 131, 41), at(rough, 140, 100)]).toEqual([0, 1, 1]);
    expect([at(smooth, 62, 52), at(smooth, 131, 41), at(smooth, 140, 100)]).toEqual([1, 0, 0]);
    for (let y = 30; y < 80; y++)
      for (const [x, wanted] of [
        [29, 0],
        [30, 1],
      ] as const)
        expect(at(smooth, x, y)).toBeCloseTo(wanted, 9);
  });

  test('wider than a window at this size, it is made where the picture is smaller', () => {
    const smooth = regionPlane(boxes(7), W, H);
    expect([at(smooth, 62, 52), at(smooth, 131, 41), at(smooth, 140, 100)]).toEqual([1, 0, 0]);
    expect(at(smooth, 35, 60)).toBe(1);
    expect(at(smooth, 20, 60)).toBe(0);
  });

  test('a gradient is no speck: it stays as it is, to the bit', () => {
    const part = { kind: 'gradient', settings: { x0: 0.1, y0: 0, x1: 0.7, y1: 0.3 } } as const;
    const region = regionOf(part);
    expect(regionPlane({ ...region, smooth: 5 / W }, W, H)).toEqual(regionPlane(region, W, H));
  });
});
