import { describe, expect, test } from '@jest/globals';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { IDENTITY, translation } from '@/core/raster/matrix3';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { paint, waves } from '@/tests/paint';
import { baseOf, fillRadiance, radianceBands, radianceBuffers, toneMapBand } from './mergeRadiance';
import { radianceBand } from './radianceBand';
import { recoverResponse, responseOff, type Sample, srgbResponse } from './response';
import { framePatches, sampleResponse } from './sampleResponse';
import { baseCurve, shoulder, toneMapPlanes, toneOf } from './toneMap';

const [W, H] = [240, 160];
const ground = waves(31, 40);
/** scene light at a pixel, from deep shadow to a lamp of 40 times white */
const light = (x: number, y: number): number => {
  const lamp = Math.hypot(x - 180, y - 60) < 12 ? 40 : 0;
  return 0.002 + 0.9 * (x / W) ** 3 * (0.6 + 0.8 * ground(x, y)) + lamp;
};
const FULL_WELL = 15000;

/** An 8-bit exposure of the scene with shot and read noise. */
function shot(stops: number, seed: number, shift = 0): EncodedImage {
  const normal = normalSource(randomSource(seed));
  const gain = 2 ** stops;
  return paint(W, H, (x, y) => {
    const e = light(x + shift, y) * gain;
    const value = (k: number): number => {
      const signal = Math.min(1.2, e * k);
      return linearToSrgb(
        Math.min(1, Math.max(0, signal + Math.sqrt(signal / FULL_WELL + (4 / FULL_WELL) ** 2) * normal())),
      );
    };
    return [value(1), value(0.9), value(0.7)];
  });
}
const STOPS = [-4, -2, 0, 2, 4];
const frames = STOPS.map((stops, i) => ({ image: shot(stops, 40 + i), matrix: IDENTITY, stops }));
const whole = { x: 0, y: 0, width: W, height: H };

describe('radiance', () => {
  const merged = radianceBand(frames, srgbResponse(), whole, 2);

  test('lies within 2 % of the truth where a frame is well exposed', () => {
    // means of 5 × 5 pixels, so that the check is of the value and not of its noise
    const errors: number[] = [];
    for (let y = 10; y < H - 10; y += 7)
      for (let x = 10; x < W - 10; x += 7) {
        let [sum, truth] = [0, 0];
        for (let j = -2; j <= 2; j++)
          for (let i = -2; i <= 2; i++) {
            sum += merged.planes[0][(y + j) * W + x + i];
            truth += light(x + i, y + j);
          }
        if (Math.abs(Math.hypot(x - 180, y - 60) - 12) < 5) continue;
        // the darkest frame clips the lamp, the lightest still holds 8 codes in the shadow
        if (truth / 25 > 12 || truth / 25 < 0.003) continue;
        errors.push(Math.abs(sum / truth - 1));
      }
    expect(errors.length).toBeGreaterThan(500);
    expect(errors.sort((a, b) => a - b)[Math.floor(0.99 * errors.length)]).toBeLessThan(0.02);
  });

  test('darks are less noisy than in the lightest frame', () => {
    const noise = (value: (i: number) => number): number => {
      let [square, n] = [0, 0];
      for (let y = 10; y < H - 10; y++)
        for (let x = 10; x < 60; x++, n++) square += (value(y * W + x) / light(x, y) - 1) ** 2;
      return Math.sqrt(square / n);
    };
    const lightest = frames[4].image.data;
    const alone = noise((i) => srgbToLinear(lightest[i * 3] / 255) / 16);
    expect(noise((i) => merged.planes[0][i])).toBeLessThan(0.99 * alone);
  });

  test('one weight serves all channels: a coloured lamp keeps its colour up to its edge', () => {
    for (let x = 186; x < 191; x++) {
      const i = 60 * W + x;
      expect(merged.planes[2][i] / merged.planes[0][i]).toBeGreaterThan(0.55);
      expect(merged.planes[2][i] / merged.planes[0][i]).toBeLessThan(1.05);
    }
  });

  test('shares add up to one, and a shifted frame counts only where it covers', () => {
    const shifted = [frames[2], { image: shot(0, 7, 30), matrix: translation(-30, 0), stops: 0 }];
    const { shares } = radianceBand(shifted, srgbResponse(), whole, 2);
    for (let i = 0; i < W * H; i += 97) expect(shares[0][i] + shares[1][i]).toBeCloseTo(1, 4);
    expect(shares[1][40 * W + 10]).toBeLessThan(1e-6);
    expect(shares[1][40 * W + 120]).toBeGreaterThan(0.3);
  });
});

describe('response (Debevec & Malik 1997)', () => {
  const curve = (light: number): number => light ** (1 / 1.7);
  const samples: Sample[] = Array.from({ length: 90 }, (_, k) => {
    const e = 0.002 * 2 ** (k / 9);
    return STOPS.map((s) => {
      const v = Math.min(255, Math.round(255 * curve(Math.min(1, e * 2 ** s))));
      return [v, v, v] as const;
    });
  });

  test('a made-up curve is found again from places at five exposures', () => {
    const found = recoverResponse(samples, STOPS);
    if (!found) throw new Error('not recovered');
    const scale = found[1][128] / (128 / 255) ** 1.7;
    for (let z = 24; z <= 230; z += 6) {
      const truth = scale * (z / 255) ** 1.7;
      expect(Math.abs(Math.log2(found[1][z] / truth))).toBeLessThan(0.12);
    }
    expect(responseOff(found)).toBeGreaterThan(0.3);
    expect(responseOff(srgbResponse())).toBeCloseTo(0, 6);
  });

  test('frames of this scene have the response of sRGB; too few places give none', () => {
    const found = recoverResponse(sampleResponse(frames.map((f) => framePatches(f, W, H))), STOPS);
    if (!found) throw new Error('not recovered');
    expect(responseOff(found)).toBeLessThan(0.35);
    expect(recoverResponse(samples.slice(0, 10), STOPS)).toBeUndefined();
  });
});

describe('tone map', () => {
  const made = radianceBuffers(W, H, frames.length);
  for (const band of radianceBands(W, H)) fillRadiance(frames, srgbResponse(), band, made);

  test('bands join to the same picture as one piece', () => {
    const { planes } = radianceBand(frames, srgbResponse(), whole, 2.4);
    for (let i = 0; i < W * H; i += 131)
      expect(srgbToLinear(made.radiance.data[i * 3])).toBeCloseTo(planes[0][i], 3);
  });

  test('eight stops fit into the picture: darks open, the lamp is white, nothing leaves 0…1', () => {
    const out = emptyImage(W, H, 65535);
    const base = baseOf(made.radiance);
    for (const band of radianceBands(W, H))
      toneMapBand(made.radiance, band, base, { strength: 1, detail: 1 }, out);
    const code = (x: number, y: number): number => (out.data[(y * W + x) * 3] / 65535) * 255;
    expect(code(180, 60)).toBeGreaterThan(215);
    // this tone lies at code 6 in the reference
    expect(code(20, 80)).toBeGreaterThan(15);
    // the lamp is white, and not where sixteen bits have gone round
    expect(code(180, 60)).toBeLessThanOrEqual(255);
    const around = [-2, -1, 1, 2].map((d) => code(180 + d, 60));
    expect(Math.min(...around)).toBeGreaterThan(200);
  });

  test('with no strength the picture stays as the reference shot it, below the shoulder', () => {
    const planes = [0, 1, 2].map(() => new Float32Array(64 * 48).fill(0.1));
    const floats = {
      width: 64,
      height: 48,
      white: 1 as const,
      data: new Float32Array(64 * 48 * 3).fill(linearToSrgb(0.1)),
    };
    toneMapPlanes(planes, { x: 0, y: 0, width: 64, height: 48 }, baseOf(floats), { strength: 0, detail: 1 });
    expect(planes[1][700]).toBeCloseTo(linearToSrgb(0.1), 3);
  });

  test('the base curve rises everywhere and leads the middle to a print’s', () => {
    const base = {
      width: 1,
      height: 1,
      cell: 1,
      slope: new Float32Array(1),
      offset: new Float32Array(1),
      low: -9,
      middle: -4,
      high: 5,
    };
    const curve = baseCurve(base, 1);
    expect(curve(-4)).toBeCloseTo(-1.3, 6);
    for (let s = -10; s < 6; s += 0.1) expect(curve(s + 0.1)).toBeGreaterThan(curve(s));
    expect(curve(-9)).toBeGreaterThan(-5.8);
    expect(curve(5)).toBeLessThan(3);
    expect(shoulder(9)).toBeLessThan(Math.log2(1 / 0.18) + 1e-9);
    expect(shoulder(-3)).toBe(-3);
    expect(toneOf(0, 0, 0)).toBe(-20);
  });

  test('a hard edge of light gets no halo: each side stays even', () => {
    const edge = (x: number): number => (x < 120 ? 0.02 : 2);
    const data = new Float32Array(W * H * 3);
    for (let i = 0; i < W * H; i++) data.fill(linearToSrgb(edge(i % W)), i * 3, i * 3 + 3);
    const out = emptyImage(W, H, 65535);
    const radiance = { width: W, height: H, white: 1, data } as const;
    toneMapBand(radiance, whole, baseOf(radiance), { strength: 1, detail: 1 }, out);
    const stops = (x: number): number => Math.log2(srgbToLinear(out.data[(80 * W + x) * 3] / 65535) / 0.18);
    for (const [from, to] of [
      [20, 116],
      [124, 220],
    ]) {
      const values = Array.from({ length: to - from }, (_, k) => stops(from + k));
      expect(Math.max(...values) - Math.min(...values)).toBeLessThan(0.25);
    }
  });
});
