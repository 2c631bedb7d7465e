import { describe, expect, test } from '@jest/globals';
import { readSensor } from '@/camera/readSensor';
import { FERROW_SKY, nightSky, type SkyFrame } from '@/camera/nightSky';
import { type EncodedImage, emptyImage } from '../../raster/encodedImage';
import { IDENTITY, transform } from '../../raster/matrix3';
import { normalSource, randomSource } from '../../raster/random';
import { encodeClipped, srgbToLinear } from '../../raster/srgb';
import { findStars, isStarry, starWidth } from '../../register/stars/findStars';
import { registerStars, starField } from '../../register/stars/registerStars';
import { planFusion } from '../fusionPlan';
import { removeBackground, skyBackground } from './skyBackground';
import { type StackBuffers, type StackMethod } from './stackMethod';
import { stackBand } from './stackBand';

const W = 96;
const H = 64;

/** An even grey of linear light 0.2 with Gaussian noise, 16 bit. */
function noisy(seed: number, sigma = 0.02): EncodedImage {
  const normal = normalSource(randomSource(seed));
  const image = emptyImage(W, H, 65535);
  for (let i = 0; i < image.data.length; i++)
    image.data[i] = 65535 * encodeClipped(0.2 + sigma * normal()) + 0.5;
  return image;
}

function stacked(
  images: readonly EncodedImage[],
  method: StackMethod,
  stops: readonly number[] = [],
): StackBuffers {
  const buffers: StackBuffers = {
    image: emptyImage(W, H, 65535),
    shares: images.map(() => new Uint8Array((W / 2) * (H / 2))),
    rejected: new Float32Array(H),
  };
  const frames = images.map((image, i) => ({ image, matrix: IDENTITY, stops: stops[i] ?? 0, weight: 1 }));
  for (const band of planFusion(W, H).bands) stackBand(frames, method, W, band, buffers);
  return buffers;
}

const light = (image: EncodedImage): number[] => Array.from(image.data, (v) => srgbToLinear(v / 65535));
const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
const deviation = (v: readonly number[]): number => {
  const m = mean(v);
  return Math.sqrt(mean(v.map((x) => (x - m) ** 2)));
};

describe('samples', () => {
  const images = Array.from({ length: 16 }, (_, i) => noisy(i + 1));

  test('the mean of 16 frames has a quarter of the noise (√N)', () =>
    expect(deviation(light(stacked(images, 'mean').image)) / 0.02).toBeCloseTo(0.25, 1));

  test('the median has 1.25 times the mean’s noise (asymptotic efficiency 2/π)', () => {
    const median = deviation(light(stacked(images, 'median').image)) / 0.02;
    expect(median).toBeGreaterThan(0.27);
    expect(median).toBeLessThan(0.34);
  });

  test('the largest and the smallest bracket the mean', () => {
    const [low, mid, high] = (['min', 'mean', 'max'] as const).map((m) =>
      mean(light(stacked(images, m).image)),
    );
    // the mean of the largest of 16 normals is 1.766 deviations (tables of order statistics)
    expect((high - mid) / 0.02).toBeCloseTo(1.766, 1);
    expect((mid - low) / 0.02).toBeCloseTo(1.766, 1);
  });

  test('a bright streak in one frame leaves no trace after the clip, and does in the mean', () => {
    const streaked = images.map((image, i) => (i === 5 ? { ...image, data: image.data.slice() } : image));
    for (let x = 10; x < 80; x++) for (let c = 0; c < 3; c++) streaked[5].data[(30 * W + x) * 3 + c] = 60000;
    const rowOf = (image: EncodedImage): number =>
      mean(light(image).slice((30 * W + 10) * 3, (30 * W + 80) * 3));
    expect(rowOf(stacked(streaked, 'mean').image)).toBeGreaterThan(0.23);
    const clipped = stacked(streaked, 'clip');
    expect(rowOf(clipped.image)).toBeCloseTo(0.2, 2);
    expect(clipped.rejected[30]).toBeGreaterThan(200);
    // and pure noise loses hardly anything
    expect(deviation(light(stacked(images, 'clip').image)) / 0.02).toBeLessThan(0.3);
  });

  test('frames of another exposure are brought to the reference’s', () => {
    const brighter = {
      ...noisy(40),
      data: noisy(40).data.map((v) => 65535 * encodeClipped(2 * srgbToLinear(v / 65535))),
    };
    const both = stacked([images[0], brighter], 'mean', [0, 1]);
    expect(mean(light(both.image))).toBeCloseTo(0.2, 2);
  });
});

describe('stars', () => {
  const night = (frame: Partial<SkyFrame>, seed: number): EncodedImage => {
    const sky = nightSky(FERROW_SKY, { width: 700, height: 500, dx: 0, dy: 0, turn: 0, trail: 0, ...frame });
    const raster = { ...sky, planes: sky.planes.map((p) => p.map((v) => 2.2 * v)) };
    return readSensor(raster, { fullWell: 1800, readNoise: 3 }, seed).image;
  };
  const first = night({}, 1);
  const turned = { dx: 18, dy: -11, turn: 6 };
  const second = night(turned, 2);

  test('are found with their width: 2.3548 σ of a Gaussian', () => {
    const stars = findStars(first);
    expect(isStarry(first, stars)).toBe(true);
    expect(starWidth(stars)).toBeGreaterThan(0.95 * 2.3548);
    expect(starWidth(stars)).toBeLessThan(1.15 * 2.3548);
  });

  test('glints of many sizes all over a picture are no sky', () => {
    const random = randomSource(9);
    const glints = emptyImage(700, 500, 65535);
    const floor = new Float32Array(700 * 500).fill(0.02);
    for (let k = 0; k < 90; k++) {
      const [x, y, s] = [30 + 640 * random(), 30 + 440 * random(), 0.7 + 2.6 * random()];
      for (let dy = -12; dy <= 12; dy++)
        for (let dx = -12; dx <= 12; dx++) {
          const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
          floor[py * 700 + px] += 0.4 * Math.exp(-((px - x) ** 2 + (py - y) ** 2) / (2 * s * s));
        }
    }
    floor.forEach((v, i) => glints.data.fill(65535 * encodeClipped(v), 3 * i, 3 * i + 3));
    const points = findStars(glints);
    // enough of them, and spread wide enough, to be taken for stars
    expect(points.length).toBeGreaterThan(40);
    expect(isStarry(glints, points)).toBe(false);
    // as many of one size are stars
    const alike = points.map((p) => ({ ...p, width: 2.3 + 0.1 * Math.sin(p.x) }));
    expect(isStarry(glints, alike)).toBe(true);
  });

  test('another night, shifted and turned by 6°, is laid over to a tenth of a pixel', () => {
    const fit = registerStars(starField(first), starField(second));
    if (!fit) throw new Error('not fitted');
    const a = (turned.turn * Math.PI) / 180;
    let square = 0;
    const places = [
      [60, 60],
      [640, 60],
      [60, 440],
      [640, 440],
      [350, 250],
    ];
    for (const [x, y] of places) {
      const [u, v] = transform(fit.matrix, x, y);
      const [px, py] = [x - 349.5, y - 249.5];
      square +=
        (u - (Math.cos(a) * px - Math.sin(a) * py + 349.5 + turned.dx)) ** 2 +
        (v - (Math.sin(a) * px + Math.cos(a) * py + 249.5 + turned.dy)) ** 2;
    }
    expect(Math.sqrt(square / places.length)).toBeLessThan(0.1);
    expect(fit.turnDegrees).toBeCloseTo(6, 1);
  });

  test('a picture without a sky is no star field', () =>
    expect(registerStars(starField(noisy(1)), starField(noisy(2)))).toBeUndefined());

  test('the town’s light is taken out and the stars stay', () => {
    const before = skyBackground(first);
    expect(before.range).toBeGreaterThan(20);
    const out = emptyImage(700, 500, 65535);
    removeBackground(first, before, 'subtract', out);
    expect(skyBackground(out).range).toBeLessThan(0.25 * before.range);
    expect(findStars(out).length).toBeGreaterThan(0.8 * findStars(first).length);
  });

  test('a mesh follows light that no curve of low order does, and leaves a tree and the stars alone', () => {
    const [w, h] = [640, 480];
    const random = normalSource(randomSource(4));
    const light = (x: number, y: number): number =>
      0.03 +
      0.04 * Math.exp(-((x - 90) ** 2 + (y - 420) ** 2) / 9000) +
      0.03 * Math.exp(-((x - 520) ** 2 + (y - 460) ** 2) / 6000);
    const tree = (x: number, y: number): boolean => x > 300 && x < 340 && y > 330;
    const star = (x: number, y: number): boolean => x % 80 === 40 && y % 60 === 30;
    const sky = emptyImage(w, h, 65535);
    for (let y = 0, i = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        for (let c = 0; c < 3; c++, i++)
          sky.data[i] =
            65535 *
            encodeClipped(tree(x, y) ? 0.004 : light(x, y) + (star(x, y) ? 0.5 : 0) + 0.001 * random());
    const uneven = (form: 'curve' | 'mesh'): number => {
      const out = emptyImage(w, h, 65535);
      removeBackground(sky, skyBackground(sky, form), 'subtract', out);
      const values: number[] = [];
      for (let y = 8; y < h - 8; y += 5)
        for (let x = 8; x < w - 8; x += 5)
          if (!tree(x - 20, y) && !tree(x + 20, y) && !tree(x, y + 20) && !star(x, y))
            values.push(srgbToLinear(out.data[(y * w + x) * 3 + 1] / 65535));
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      return Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
    };
    // 0.001 of it is noise
    expect(uneven('mesh')).toBeLessThan(0.003);
    expect(uneven('curve')).toBeGreaterThan(2 * uneven('mesh'));
    const out = emptyImage(w, h, 65535);
    removeBackground(sky, skyBackground(sky, 'mesh'), 'subtract', out);
    const at = (x: number, y: number): number => srgbToLinear(out.data[(y * w + x) * 3 + 1] / 65535);
    expect(at(120, 90) - at(124, 94)).toBeGreaterThan(0.45);
    expect(at(320, 400)).toBeLessThan(0.02);
  });
});
