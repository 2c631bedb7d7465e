import { expect, test } from '@jest/globals';
import { regionPlane } from '@/tests/regionPlane';
import { edgeProfile } from '@/core/region/edge/edgeProfile';
import { EVERYWHERE, type Region } from '@/core/region/region';
import { featherFor } from './featherFor';

const [W, H] = [400, 300];

/** An ellipse, feathered by a fraction of the long edge, and how wide its edge is. */
function widthOf(feather: number): number {
  const settings = { x: 0.5, y: 0.37, across: 0.25, down: 0.2, turn: 0, soft: 0 };
  const part = { kind: 'ellipse', settings } as const;
  const region: Region = {
    ...{ ...EVERYWHERE, id: 'r', name: 'r', feather },
    parts: [{ how: 'add', part, turned: false, on: true }],
  };
  const grey = new Float32Array(W * H).fill(0.5);
  const mask = regionPlane(region, W, H);
  return edgeProfile({ width: W, height: H, planes: [grey, grey, grey], mask, size: 1 })?.width ?? NaN;
}

test('the feather that is proposed makes the edge as wide as was asked', () => {
  for (const [before, own] of [
    [0, 8],
    [0.002, 14],
    [0.02, 6],
  ] as const) {
    const feather = featherFor(widthOf(before), own, before, W);
    expect(widthOf(feather) / own).toBeGreaterThan(0.85);
    expect(widthOf(feather) / own).toBeLessThan(1.2);
  }
});

test('nothing is made harder than it is without a feather', () => {
  expect(featherFor(12, 3, 0, W)).toBe(0);
});
