import { describe, expect, test } from '@jest/globals';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { IDENTITY, type Matrix3, multiply, translation } from '@/core/raster/matrix3';
import { randomSource } from '@/core/raster/random';
import { linearToSrgb } from '@/core/raster/srgb';
import { largestDifference } from '@/tests/paint';
import { encodeOpen } from '../../colour/encodeSource';
import { kernels } from '../../kernels/kernels';
import { linearRows } from './linearRows';
import { baseOf, fillRadiance, radianceBands, radianceBuffers, toneMapBand } from './mergeRadiance';
import { plainRadianceBand, radianceBand } from './radianceBand';
import { srgbResponse } from './response';
import { toneMapPlanes, toneOf, tonesOf } from './toneMap';

const [W, H] = [93, 70];

/** Soft light over eight stops with grain, as a frame of an exposure would hold it. */
function frame(stops: number, white: 255 | 65535 | 1, seed: number): EncodedImage {
  const random = randomSource(seed);
  const image = emptyImage(W, H, white);
  for (let y = 0, i = 0; y < H; y++)
    for (let x = 0; x < W; x++)
      for (let c = 0; c < 3; c++, i++) {
        const light = 2 ** (stops - 6 + (8 * x) / W) * (1 - 0.2 * c) * (1 + 0.05 * random()) + 0.02 * (y / H);
        const code = linearToSrgb(light);
        image.data[i] = white === 1 ? code : Math.round(Math.min(1, code) * white);
      }
  return image;
}

const turned: Matrix3 = multiply(translation(3.4, -2.2), [1, 0.01, 0, -0.01, 1, 0, 0, 0, 1]);
const frames = [
  { image: frame(-3, 255, 1), matrix: turned, stops: -3 },
  { image: frame(0, 65535, 2), matrix: IDENTITY, stops: 0 },
  { image: frame(3, 255, 3), matrix: translation(-1.5, 4), stops: 3 },
  { image: frame(1, 1, 4), matrix: translation(0.25, 0), stops: 1 },
];

describe('radiance by kernels', () => {
  const area = { x: 0, y: 12, width: W, height: 41 };

  test('light and shares are those of the plain form, also at the rim and where frames clip', () => {
    expect(kernels()).toBeDefined();
    const made = radianceBand(frames, srgbResponse(), area, 4);
    const plain = plainRadianceBand(frames, srgbResponse(), area, 4);
    made.planes.forEach((plane, c) => {
      const stops = plane.map((v, i) => Math.log2(v / plain.planes[c][i]));
      expect(largestDifference(stops, new Float32Array(stops.length))).toBeLessThan(2e-3);
    });
    made.shares.forEach((share, f) => expect(largestDifference(share, plain.shares[f])).toBeLessThan(2e-3));
    // every frame counts somewhere, and none everywhere
    made.shares.forEach((share) => expect(Math.max(...share) - Math.min(...share)).toBeGreaterThan(0.03));
  });

  const buffers = radianceBuffers(W, H, frames.length);
  for (const band of radianceBands(W, H)) fillRadiance(frames, srgbResponse(), band, buffers);

  test('the map holds the light, encoded without bounds', () => {
    const [band] = radianceBands(W, H);
    const { planes } = radianceBand(frames, srgbResponse(), band, 2);
    const { data } = buffers.radiance;
    for (let i = 0; i < planes[0].length; i++)
      for (let c = 0; c < 3; c++)
        expect(Math.abs(data[3 * i + c] - encodeOpen(planes[c][i]))).toBeLessThan(2e-5);
    expect(Math.max(...data)).toBeGreaterThan(1);
  });

  test('tones are those of the plain form, and none where there is no light', () => {
    const planes = linearRows(buffers.radiance, 0, H);
    planes.forEach((plane) => plane.fill(0, 5, 9));
    const tones = tonesOf(planes);
    tones.forEach((tone, i) =>
      expect(Math.abs(tone - toneOf(planes[0][i], planes[1][i], planes[2][i]))).toBeLessThan(1e-4),
    );
    expect(tones[6]).toBe(-20);
  });

  test.each([
    [0.75, 1],
    [0, 1],
    [1, 1.6],
  ])(
    'a tone map of strength %f and detail %f is that of the plain form, within six codes of 65535',
    (strength, detail) => {
      const base = baseOf(buffers.radiance);
      const out = emptyImage(W, H, 65535);
      for (const band of radianceBands(W, H)) {
        toneMapBand(buffers.radiance, band, base, { strength, detail }, out);
        const planes = linearRows(buffers.radiance, band.y, band.height);
        toneMapPlanes(planes, band, base, { strength, detail });
        for (let i = 0, o = band.y * W * 3; i < planes[0].length; i++)
          for (let c = 0; c < 3; c++, o++)
            expect(Math.abs(out.data[o] - Math.min(1, planes[c][i]) * 65535)).toBeLessThan(6);
      }
    },
  );
});
