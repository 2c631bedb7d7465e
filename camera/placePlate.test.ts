import { describe, expect, test } from '@jest/globals';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { type Plate, withPlate } from './placePlate';
import { type SceneView, wholeLight } from './sceneView';

const W = 200;
const H = 100;
/** 90° across: focal length of half the width, so that a thing 10 m away is drawn 10 px a metre */
const ground = (distance = 50): SceneView => {
  const light = emptyRaster(W, H);
  for (const plane of light.planes) plane.fill(0.2);
  return { light, distance: new Float32Array(W * H).fill(distance), field: { kind: 'flat', across: 90 } };
};

/** A plate of one evenly bright block, opaque, on clear ground; its foot in the middle of its lower edge. */
function block(width: number, height: number, value: number, opacity = 1): Plate {
  const margin = 6;
  const [w, h] = [width + 2 * margin, height + 2 * margin];
  const light: Raster = emptyRaster(w, h);
  const alpha = new Float32Array(w * h);
  for (let y = margin; y < margin + height; y++) {
    for (const plane of light.planes) plane.fill(value * opacity, y * w + margin, y * w + margin + width);
    alpha.fill(opacity, y * w + margin, y * w + margin + width);
  }
  return { light, alpha, perMetre: 10, foot: [w / 2, margin + height] };
}

const at = (scene: SceneView, x: number, y: number): number => wholeLight(scene).planes[0][y * W + x];
const sum = (scene: SceneView): number => wholeLight(scene).planes[1].reduce((a, v) => a + v - 0.2, 0);

describe('a cut-out in the scene', () => {
  const place = { x: 100, y: 80, distance: 10 };

  test('stands on its foot, as large as its distance makes it, over what lies behind', () => {
    const seen = withPlate(ground(), block(20, 30, 0.9), place);
    expect(at(seen, 100, 65)).toBeCloseTo(0.9, 5);
    expect(at(seen, 100, 85)).toBeCloseTo(0.2, 5);
    expect(at(seen, 100, 45)).toBeCloseTo(0.2, 5);
    expect(at(seen, 115, 65)).toBeCloseTo(0.2, 5);
    // twice as far is half as wide and half as high
    const far = withPlate(ground(), block(20, 30, 0.9), { ...place, distance: 20 });
    expect(sum(far) / sum(seen)).toBeCloseTo(0.25, 1);
    expect(seen.distance?.[65 * W + 100]).toBe(10);
    expect(seen.distance?.[65 * W + 20]).toBe(50);
  });

  test('lets through what its opacity leaves, and what stands nearer hides it', () => {
    const thin = withPlate(ground(), block(20, 30, 0.9, 0.4), place);
    expect(at(thin, 100, 65)).toBeCloseTo(0.4 * 0.9 + 0.6 * 0.2, 5);
    // too thin to be what is seen there
    expect(thin.distance?.[65 * W + 100]).toBe(50);
    const hidden = withPlate(ground(4), block(20, 30, 0.9), place);
    expect(sum(hidden)).toBeCloseTo(0, 3);
  });

  test('in motion its light is spread evenly over its way, and none is lost', () => {
    const still = withPlate(ground(), block(20, 30, 0.9), place);
    const moved = withPlate(ground(), block(20, 30, 0.9), { ...place, moves: 4 });
    // 4 m are 40 px: 20 px of thing are over each place of the middle for half of the time
    expect(at(moved, 100, 65)).toBeCloseTo(0.5 * 0.9 + 0.5 * 0.2, 1);
    for (let x = 91; x < 109; x++) expect(at(moved, x, 65)).toBeCloseTo(at(moved, 100, 65), 3);
    expect(sum(moved) / sum(still)).toBeCloseTo(1, 2);
    // from one end of the way to the other, and not beyond
    expect(at(moved, 132, 65)).toBeCloseTo(0.2, 4);
    expect(at(moved, 126, 65)).toBeGreaterThan(0.21);
  });

  test('a bright thing behind bars is drawn as one streak, however far it goes', () => {
    const barred = block(21, 30, 0.9);
    for (let y = 0; y < barred.light.height; y++)
      for (let x = 0; x < barred.light.width; x += 3)
        for (const plane of barred.light.planes) plane[y * barred.light.width + x] = 0;
    const moved = withPlate(ground(), barred, { ...place, moves: 12 });
    const row = Array.from({ length: 60 }, (_, i) => at(moved, 70 + i, 65));
    expect(Math.max(...row) - Math.min(...row)).toBeLessThan(0.004);
  });

  test('is refused in a scene that is seen all round', () =>
    expect(() =>
      withPlate({ ...ground(), field: { kind: 'round', across: 90, down: 40 } }, block(4, 4, 1), place),
    ).toThrow(RangeError));
});
