import { expect, test } from '@jest/globals';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { gatherLight, looksOfFrame } from './gatherLight';
import { type LightPatch, lightWithin, type SceneLight, wholeLight } from './sceneView';

const [W, H] = [40, 30];
function even(width: number, height: number, value: number): Raster {
  const raster = emptyRaster(width, height);
  for (const plane of raster.planes) plane.fill(value);
  return raster;
}
const patch = (left: number, top: number, width: number, height: number, value: number): LightPatch => ({
  left,
  top,
  light: even(width, height, value),
});
// the second lies over part of the first
const scene: SceneLight = { light: even(W, H, 1), over: [patch(5, 6, 20, 10, 2), patch(20, 10, 12, 8, 3)] };
const seenAt = (x: number, y: number): number =>
  x >= 20 && x < 32 && y >= 10 && y < 18 ? 3 : x >= 5 && x < 25 && y >= 6 && y < 16 ? 2 : 1;

test('what lies over a scene is seen in its place, the last on top', () => {
  const [plane] = wholeLight(scene).planes;
  plane.forEach((v, i) => expect(v).toBe(seenAt(i % W, Math.floor(i / W))));
  expect(scene.light.planes[0].every((v) => v === 1)).toBe(true);
});

test('a part of a scene is cut out with all that lies over it', () => {
  const part = lightWithin(scene, 15, 8, 12, 9);
  expect([part.left, part.top]).toEqual([15, 8]);
  part.light.planes[2].forEach((v, i) => expect(v).toBe(seenAt(15 + (i % 12), 8 + Math.floor(i / 12))));
});

test('a scene with nothing over it is seen as it is, and not copied', () => {
  const light = even(W, H, 0.5);
  expect(wholeLight({ light })).toBe(light);
});

test('a frame sees what lies over the scene', () => {
  const looks = looksOfFrame(W, H, (x, y, at) => {
    at[0] = x + 0.3;
    at[1] = y - 0.2;
  });
  const seen = gatherLight(scene, looks, 0.6);
  const laid = gatherLight({ light: wholeLight(scene) }, looks, 0.6);
  seen.forEach((plane, c) => expect(plane).toEqual(laid[c]));
});
