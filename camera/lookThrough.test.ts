import { expect, test } from '@jest/globals';
import { emptyRaster } from '@/core/raster/raster';
import { PLAIN_LENS } from './lens';
import { lookThrough } from './lookThrough';
import { type SceneView } from './sceneView';

const [W, H] = [300, 200];

/** Soft blobs on a grid, half of them near and half far, so that outlines of depth run between them. */
function blobs(): SceneView {
  const [w, h] = [600, 400];
  const light = emptyRaster(w, h);
  const distance = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      distance[i] = x > w / 2 ? 2 : 9;
      const d = ((x % 60) - 30) ** 2 + ((y % 50) - 25) ** 2;
      for (const plane of light.planes) plane[i] = 0.02 + Math.exp(-d / 40);
    }
  return { light, distance, field: { kind: 'flat', across: 60 } };
}

/** Where the blob nearest to a place lies: the mean of its light over the floor. */
function blobAt(plane: Float32Array, x: number, y: number): [number, number] {
  let [sum, sx, sy] = [0, 0, 0];
  for (let v = Math.max(0, y - 9); v <= Math.min(H - 1, y + 9); v++)
    for (let u = Math.max(0, x - 9); u <= Math.min(W - 1, x + 9); u++) {
      const light = Math.max(0, plane[v * W + u] - 0.1);
      sum += light;
      sx += light * u;
      sy += light * v;
    }
  return [sx / sum, sy / sum];
}

test.each([
  ['turning about the entrance pupil', undefined],
  ['with parallax', [0.02, 0.01, 0.01] as const],
])('red is drawn larger and blue smaller by the lateral colour, %s', (_, shift) => {
  const lateral = 0.01;
  const lens = { ...PLAIN_LENS, focalLength: 31, lateral, distortion: -0.02 };
  const stand = { yaw: 0, pitch: 0, roll: 0, ...(shift ? { shift } : {}) };
  const { light } = lookThrough(blobs(), lens, stand, W, H);
  const [red, green, blue] = light.planes;
  for (const plane of light.planes) expect(plane.every(Number.isFinite)).toBe(true);
  // well away from the outline of depth in the middle, which parallax covers and uncovers
  for (const [x, y] of [
    [45, 37],
    [75, 137],
    [225, 62],
    [255, 137],
  ]) {
    const [gx, gy] = blobAt(green, x, y);
    for (const [plane, sign] of [
      [red, 1],
      [blue, -1],
    ] as const) {
      const [px, py] = blobAt(plane, x, y);
      expect(px - gx).toBeCloseTo(sign * lateral * (gx - (W - 1) / 2), 1);
      expect(py - gy).toBeCloseTo(sign * lateral * (gy - (H - 1) / 2), 1);
    }
  }
});
