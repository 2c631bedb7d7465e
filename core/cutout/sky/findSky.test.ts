import { describe, expect, test } from '@jest/globals';
import { overlap } from '@/tests/knownCutout';
import { millAtDusk } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { normalSource, randomSource } from '../../raster/random';
import { srgbToLinear } from '../../raster/srgb';
import { firstCut } from '../cutFromDabs';
import { dabsInPixels } from '../cutPicture';
import { type LightGrid } from '../lightGrid';
import { type FoundSky, findSky } from './findSky';

const [W, H] = [300, 200];

/** Light of a picture by a function of the pixel, sRGB codes 0…1, with a sensor's noise. */
function lightOf(code: (x: number, y: number) => readonly [number, number, number]): LightGrid {
  const normal = normalSource(randomSource(3));
  const data = new Float32Array(3 * W * H);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++)
      for (const v of code(x, y)) data[o++] = srgbToLinear(Math.min(1, Math.max(0, v + 0.008 * normal())));
  return { width: W, height: H, data };
}

/** What the dabs cut out of the picture, by its cells. */
function cutBy(light: LightGrid, { dabs }: FoundSky): Uint8Array {
  const { label, step, width } = firstCut(light, dabsInPixels(dabs, light));
  return Uint8Array.from({ length: light.width * light.height }, (_, i) => {
    const [x, y] = [i % light.width, Math.floor(i / light.width)];
    return label[Math.floor(y / step) * width + Math.floor(x / step)];
  });
}

/** Where hills end, pixels from the top. */
const hills = (x: number): number => 94 + 19 * Math.sin(x / 31) + 7 * Math.sin(x / 11);

/** Hills under a sky that goes from one colour at the top to another at the horizon, with trees of their own. */
const landscape = (top: readonly number[], horizon: readonly number[]): LightGrid => {
  const [grass, wood] = [waves(5), waves(8)];
  return lightOf((x, y) => {
    const below = y > hills(x);
    const isTree = Math.abs(x - 206) < 16 && y > 44;
    if (isTree) return [0.16 + 0.2 * wood(x, y), 0.2 + 0.2 * wood(x, y), 0.1];
    if (below) return [0.2 + 0.3 * grass(x, y), 0.3 + 0.3 * grass(x, y), 0.1 + 0.15 * grass(x, y)];
    const t = y / 119;
    return [0, 1, 2].map((c) => top[c] + t * (horizon[c] - top[c])) as [number, number, number];
  });
};
const truth = Uint8Array.from({ length: W * H }, (_, i) => {
  const [x, y] = [i % W, Math.floor(i / W)];
  return y <= hills(x) && !(Math.abs(x - 206) < 16 && y > 44) ? 1 : 0;
});

describe('the sky without a dab', () => {
  test.each([
    ['blue', [0.35, 0.52, 0.8], [0.7, 0.78, 0.86]],
    ['overcast', [0.72, 0.73, 0.75], [0.8, 0.8, 0.8]],
    ['evening', [0.5, 0.42, 0.5], [0.92, 0.66, 0.42]],
  ])('a %s sky over hills is found, and dabs on it cut it out', (_, top, horizon) => {
    const light = landscape(top, horizon);
    const found = findSky(light);

    expect(found?.share).toBeCloseTo(truth.reduce((a, b) => a + b, 0) / truth.length, 1);
    if (!found) return;
    expect(found.dabs.filter((d) => d.is === 'this').length).toBeGreaterThan(2);
    expect(found.dabs.filter((d) => d.is === 'not').length).toBeGreaterThan(2);
    expect(overlap(cutBy(light, found), truth)).toBeGreaterThan(0.97);
  });

  test('no dab lies on the other side', () => {
    const found = findSky(landscape([0.35, 0.52, 0.8], [0.7, 0.78, 0.86]));
    for (const { is, points } of found?.dabs ?? [])
      for (const [x, y] of points)
        expect(truth[Math.floor(y * W) * W + Math.floor(x * W)]).toBe(is === 'this' ? 1 : 0);
  });

  test('grass that fills the picture is none, and a dark wall under a light floor hardly one', () => {
    const grass = waves(5, 200);
    const all = lightOf((x, y) => [0.1 + 0.8 * grass(3 * x, 3 * y), 0.2 + 0.7 * grass(3 * x, 3 * y), 0.1]);
    expect(findSky(all)?.sure ?? 0).toBeLessThan(0.1);
    const wall = lightOf((_, y) => (y < 150 ? [0.12, 0.1, 0.1] : [0.7, 0.68, 0.66]));
    expect(findSky(wall)?.sure ?? 0).toBeLessThan(0.1);
  });

  test('over the mill at dusk: the sky, and neither the house nor the water', () => {
    const { planes, width, height } = millAtDusk();
    const step = Math.ceil(width / 420);
    const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
    const gain = 0.18 / Float32Array.from(planes[1]).sort()[planes[1].length >> 1];
    const data = new Float32Array(3 * w * h);
    for (let y = 0, o = 0; y < h; y++)
      for (let x = 0; x < w; x++, o += 3)
        for (let c = 0; c < 3; c++) data[o + c] = Math.min(1, gain * planes[c][y * step * width + x * step]);
    const light = { width: w, height: h, data };
    const found = findSky(light);
    expect(found).toBeDefined();
    if (!found) return;
    const label = cutBy(light, found);
    const at = (u: number, v: number): number => label[Math.floor(v * h) * w + Math.floor(u * w)];
    expect([at(0.2, 0.05), at(0.3, 0.1), at(0.05, 0.2)]).toEqual([1, 1, 1]);
    expect([at(0.55, 0.3), at(0.7, 0.45), at(0.5, 0.9), at(0.3, 0.75)]).toEqual([0, 0, 0, 0]);
  });

  test('gives the same bits every time', () => {
    const light = landscape([0.35, 0.52, 0.8], [0.7, 0.78, 0.86]);
    expect(findSky(light)).toEqual(findSky(light));
  });
});
