import { expect, test } from '@jest/globals';
import { emptyImage, type EncodedImage } from '../raster/encodedImage';
import { IDENTITY } from '../raster/matrix3';
import { linearToSrgb } from '../raster/srgb';
import { randomSource } from '../raster/random';
import { edgePicture } from './edgePicture';
import { registerPair } from './registerPair';
import { reversed } from './reversed';

const [WIDTH, HEIGHT] = [480, 320];

/** Soft-edged discs, each of a reflectance and a side of its own: what is drawn of them in some light. */
function discs(seed: number, dx: number, dy: number, light: 'noon' | 'dusk'): EncodedImage {
  const random = randomSource(seed);
  const all = Array.from({ length: 90 }, () => ({
    ...{ x: WIDTH * random(), y: HEIGHT * random(), r: 8 + 34 * random() },
    ...{ noon: 0.03 + 0.6 * random(), dusk: 0.02 + 0.25 * random() },
  }));
  const plane = new Float32Array(WIDTH * HEIGHT).fill(0.2);
  for (const d of all) {
    const [cx, cy, reach] = [d.x - dx, d.y - dy, d.r + 6];
    for (let y = Math.max(0, Math.ceil(cy - reach)); y < Math.min(HEIGHT, cy + reach); y++)
      for (let x = Math.max(0, Math.ceil(cx - reach)); x < Math.min(WIDTH, cx + reach); x++) {
        const cover = 1 / (1 + Math.exp(1.6 * (Math.hypot(x - cx, y - cy) - d.r)));
        plane[y * WIDTH + x] += cover * (d[light] - plane[y * WIDTH + x]);
      }
  }
  const image = emptyImage(WIDTH, HEIGHT, 255);
  plane.forEach((value, i) => {
    const noisy = Math.max(0, value + 0.004 * (random() + random() - 1));
    image.data.fill(Math.round(255 * linearToSrgb(noisy)), 3 * i, 3 * i + 3);
  });
  return image;
}

test('light that turns slopes round leaves edges where they are: a fit by edges finds what a fit by tones refuses', () => {
  const [noon, dusk] = [discs(3, 0, 0, 'noon'), discs(3, 5.4, -3.3, 'dusk')];
  const options = { stops: 0, motion: 'auto' } as const;
  const byTones = registerPair(noon, dusk, options);
  expect(byTones.fitted).toBe(false);
  expect(byTones.by).toBeUndefined();
  const fit = registerPair(noon, dusk, { ...options, light: 'differs' });
  expect(fit).toMatchObject({ fitted: true, by: 'edges' });
  const off = Math.hypot(fit.matrix[2] + 5.4, fit.matrix[5] - 3.3);
  expect(off).toBeLessThan(0.1);
  expect(off).toBeLessThan(fit.bound);
});

test('a fit taken from the other side says the same of the frame', () => {
  const [noon, dusk] = [discs(3, 0, 0, 'noon'), discs(3, 5.4, -3.3, 'noon')];
  const options = { stops: 0, motion: 'similarity' } as const;
  const [there, back] = [registerPair(noon, dusk, options), registerPair(dusk, noon, options)];
  const turned = reversed(back, WIDTH, HEIGHT);
  turned.matrix.forEach((v, i) =>
    expect(Math.abs(v - there.matrix[i])).toBeLessThan(i % 3 === 2 ? 0.02 : 1e-4),
  );
  expect(turned.scale).toBeCloseTo(there.scale, 4);
  // a displacement that is left over points the same way, seen from either side
  const pushed = { ...back, tiles: [{ x: 100, y: 80, dx: 0.5, dy: -0.25, error: 0.01 }] };
  const [tile] = reversed(pushed, WIDTH, HEIGHT).tiles;
  expect([tile.x, tile.y, tile.dx, tile.dy].map((v) => Math.round(100 * v) / 100)).toEqual([
    ...[100 + back.matrix[2], 80 + back.matrix[5]].map((v) => Math.round(100 * v) / 100),
    ...[-0.5, 0.25],
  ]);
});

test('another view is refused by edges, too', () => {
  const fit = registerPair(discs(3, 0, 0, 'noon'), discs(4, 0, 0, 'dusk'), {
    ...{ stops: 0, motion: 'auto' },
    light: 'differs',
  });
  expect(fit.fitted).toBe(false);
  expect(fit.matrix).toEqual(IDENTITY);
});

test('edges are the same whichever way they rise, and even places have none', () => {
  const step = (left: number, right: number): EncodedImage => {
    const image = emptyImage(120, 60, 255);
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 120; x++)
        image.data.fill(x < 60 ? left : right, 3 * (y * 120 + x), 3 * (y * 120 + x) + 3);
    return image;
  };
  const [up, down] = [edgePicture(step(60, 180)), edgePicture(step(180, 60))];
  const row = (image: EncodedImage, x: number): number => image.data[3 * (30 * 120 + x)] / 65535;
  for (const x of [57, 58, 59, 60, 61, 62]) expect(row(up, x)).toBeCloseTo(row(down, 119 - x), 3);
  expect(row(up, 59)).toBeGreaterThan(0.7);
  expect(row(up, 20)).toBeCloseTo(0.2, 4);
});
