import { expect, test } from '@jest/globals';
import { regionSpecks } from './specks';

const [W, H] = [400, 300];

/** A mask of boxes: `x`, `y`, width, height and the value there, later ones over earlier ones. */
function boxes(...list: readonly (readonly [number, number, number, number, number])[]): Float32Array {
  const mask = new Float32Array(W * H);
  for (const [x, y, w, h, v] of list)
    for (let row = y; row < y + h; row++) mask.fill(v, row * W + x, row * W + x + w);
  return mask;
}

test('small islands are told, inside and outside, the largest first, in pixels of full size', () => {
  const mask = boxes([50, 50, 200, 200, 1], [100, 100, 3, 3, 0], [150, 120, 1, 2, 0], [320, 80, 2, 2, 0.8]);
  const { holes, crumbs } = regionSpecks(mask, W, H, 4);
  expect(holes.count).toBe(2);
  expect(holes.largest).toBeCloseTo(4 * Math.sqrt(9 / Math.PI), 6);
  expect(holes.places[0]).toEqual({ x: 400, y: 400, width: 12, height: 12 });
  expect(crumbs).toEqual({
    count: 1,
    largest: 4 * Math.sqrt(4 / Math.PI),
    places: [{ x: 1280, y: 320, width: 8, height: 8 }],
  });
});

test('what is large, what is half there, and what goes on beyond the border is no speck', () => {
  const mask = boxes([50, 50, 200, 200, 1], [100, 100, 40, 40, 0], [320, 80, 3, 3, 0.4], [398, 20, 2, 2, 1]);
  const { holes, crumbs } = regionSpecks(mask, W, H, 1);
  expect([holes.count, crumbs.count]).toEqual([0, 0]);
  expect(holes.largest).toBe(0);
});
