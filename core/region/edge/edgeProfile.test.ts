import { expect, test } from '@jest/globals';
import { linearToSrgb } from '../../raster/srgb';
import { edgeProfile, type EdgeView } from './edgeProfile';

const [WIDTH, HEIGHT] = [200, 160];

/** A disc of radius 50: its mask falls over `soft` pixels, its light is told by the distance from its outline. */
function disc(soft: number, stopsAt: (t: number) => number, size = 1): EdgeView {
  const mask = new Float32Array(WIDTH * HEIGHT);
  const plane = new Float32Array(WIDTH * HEIGHT);
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) {
      const t = Math.hypot(x - 100, y - 80) - 50;
      mask[i] = Math.max(0, Math.min(1, 0.5 - t / soft));
      plane[i] = linearToSrgb(0.2 * 2 ** stopsAt(t));
    }
  return { width: WIDTH, height: HEIGHT, planes: [plane, plane, plane], mask, size };
}

test('tone runs from inside to outside, and a step is no rim', () => {
  const profile = edgeProfile(disc(1, (t) => (t < 0 ? -1.5 : 0)));
  expect(profile?.tone[0]).toBeCloseTo(-0.75, 1);
  expect(profile?.tone.at(-1)).toBeCloseTo(0.75, 1);
  expect(profile?.at[0]).toBe(-24);
  expect(profile?.at.at(-1)).toBe(24);
  expect(Math.abs(profile?.rim.inside ?? 1)).toBeLessThan(0.02);
  expect(Math.abs(profile?.rim.outside ?? 1)).toBeLessThan(0.02);
  expect(profile?.width).toBeLessThan(3);
});

test('a halo outside and a dark line inside are measured in stops, on the side where they lie', () => {
  const rimmed = (t: number): number =>
    (t > 2 && t < 9 ? 0.3 : t < -2 && t > -9 ? -0.2 : 0) + (t < 0 ? -1 : 0);
  const profile = edgeProfile(disc(1, rimmed));
  expect(profile?.rim.outside).toBeCloseTo(0.3, 1);
  expect(profile?.rim.inside).toBeCloseTo(-0.2, 1);
});

test('what runs from one side to the other is no rim, however far inside it begins', () => {
  // a lamp in the middle, whose light has fallen before the edge is reached
  const profile = edgeProfile(disc(1, (t) => Math.max(0, Math.min(2, -(t + 4) / 6))));
  expect(profile?.tone[0]).toBeGreaterThan(0.7);
  expect(Math.abs(profile?.rim.inside ?? 1)).toBeLessThan(0.02);
});

test('distances and the softness of the region are told in pixels of full size', () => {
  const profile = edgeProfile(disc(10, (t) => (t < 0 ? -1 : 0), 4));
  // a ramp of ten pixels passes from a tenth to nine tenths in eight
  expect(profile?.width).toBeGreaterThan(4 * 7);
  expect(profile?.width).toBeLessThan(4 * 9.5);
  expect(profile?.at[0]).toBe(-96);
});

test('a region without an edge, or one thinner than what is compared, has no profile', () => {
  expect(
    edgeProfile({ ...disc(1, () => 0), mask: new Float32Array(WIDTH * HEIGHT).fill(1) }),
  ).toBeUndefined();
  const thin = new Float32Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++) thin.fill(1, y * WIDTH + 100, y * WIDTH + 104);
  expect(edgeProfile({ ...disc(1, () => 0), mask: thin })).toBeUndefined();
});

test('the picture’s own edge is measured where both sides differ, whatever the region’s is', () => {
  // a step of two stops over so many pixels: from a tenth to nine tenths of it in eight tenths of them
  const stepOver = (pixels: number, soft: number, size = 1) => {
    const own = disc(1, (t) => Math.max(-1, Math.min(1, (2 * t) / pixels))).planes;
    return edgeProfile({ ...disc(soft, () => 0, size), own })?.ownWidth;
  };
  expect(stepOver(6, 12)).toBeCloseTo(4.8, 0);
  expect(stepOver(2, 12)).toBeLessThan(2.5);
  expect(stepOver(6, 2, 4)).toBeCloseTo(4 * 4.8, -0.7);
  // nothing there, and nothing said
  expect(edgeProfile({ ...disc(4, () => 0), own: disc(4, () => 0).planes })?.ownWidth).toBeUndefined();
  expect(edgeProfile(disc(4, (t) => (t < 0 ? -1 : 0)))?.ownWidth).toBeUndefined();
});
