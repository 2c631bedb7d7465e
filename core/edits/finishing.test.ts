import { describe, expect, test } from '@jest/globals';
import { editedLight } from '@/tests/editedPicture';
import { realEnvironment } from '@/tests/knownScene';
import { largestDifference, paint, waves } from '@/tests/paint';
import { type EncodedImage } from '../raster/encodedImage';
import { gaussianBlur } from '../raster/gaussianBlur';
import { normalSource, randomSource } from '../raster/random';
import { linearToSrgb } from '../raster/srgb';
import { richardsonLucy } from './deblur/deblur';
import { SPREADS } from './glow/glow';
import { EDIT_KINDS, type EditKindName, type EditSettings } from './editKinds';
import { luminance } from './luminance';
import { flowBlur, flowOf } from './overTime/flowBlur';
import { vignetteGain } from './vignette/vignette';

const [W, H] = [240, 160];

/** A picture whose linear light is a function of the place; floats, so that it may be lighter than white. */
const lightOf = (
  light: (x: number, y: number) => readonly [number, number, number],
  width = W,
  height = H,
): EncodedImage =>
  paint(
    width,
    height,
    (x, y) => {
      const [r, g, b] = light(x, y);
      return [linearToSrgb(r), linearToSrgb(g), linearToSrgb(b)];
    },
    1,
  );

/** A part of a real environment (CC0, from the registry), its middle at middle grey. */
function environment(name: string, times = 1): EncodedImage {
  const [across, down] = [720 * times, 480 * times];
  const map = realEnvironment(name, across, down);
  const sorted = Float32Array.from(map.planes[1]).sort();
  const gain = 0.18 / sorted[sorted.length >> 1];
  const detail = waves(3, 40);
  return lightOf(
    (x, y) => {
      const i = (y + 150 * times) * across + x + 200 * times;
      const by = gain * 2 ** (0.5 * (detail(2 * x, 2 * y) - 0.5));
      const [r, g, b] = map.planes.map((p) => Math.max(0.001, p[i] * by));
      return [r, g, b];
    },
    times * W,
    times * H,
  );
}

const deviation = (values: Float32Array): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length);
};

const SOME: { readonly [K in EditKindName]?: EditSettings[K] } = {
  vignette: { x: 0.4, y: 0.3, across: 0.2, down: 0.15, stops: 1.5, inner: 0.5 },
  glow: { amount: 0.7, from: 0, reach: 30, warmth: 0.5 },
  veil: { amount: 0.6, radius: 12 },
  detail: { fine: 0.5, middle: -0.4, broad: 0.6 },
  deblur: { radius: 1.2, steps: 6, ringing: 0.1 },
  overTime: { how: 'streaks', reach: 12 },
};

describe('edits of the finish', () => {
  test.each(Object.keys(SOME) as (keyof typeof SOME)[])(
    '%s: two tiles are what one is, and a smaller level shows the same picture',
    (kind) => {
      // large enough to be halved
      const [wide, high] = [2 * W, 2 * H];
      const picture = environment('dawn', 2);
      const settings = SOME[kind] as never;
      const whole = editedLight(picture, kind, settings).planes;
      const right = { x: 97, y: 31, width: 90, height: 77 };
      const part = editedLight(picture, kind, settings, { area: right }).planes;
      part.forEach((plane, c) => {
        const off = plane.map((v, i) => {
          const there = whole[c][(31 + Math.floor(i / 90)) * wide + 97 + (i % 90)];
          return Math.abs(linearToSrgb(v) - linearToSrgb(there));
        });
        expect(off.reduce((a, b) => Math.max(a, b))).toBeLessThan(1 / 255);
      });
      const small = editedLight(picture, kind, settings, { level: 1 }).planes;
      let sum = 0;
      for (let y = 0; y < high / 2; y++)
        for (let x = 0; x < wide / 2; x++) {
          const at = (dx: number, dy: number): number =>
            linearToSrgb(whole[1][(2 * y + dy) * wide + 2 * x + dx]);
          const mean = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4;
          sum += Math.abs(linearToSrgb(small[1][(y * wide) / 2 + x]) - mean);
        }
      // what lives on the finest pixels is not there at half size
      expect((4 * sum) / (wide * high)).toBeLessThan(kind === 'deblur' ? 0.02 : 0.008);
    },
  );

  test('what does nothing says so, and gives its input', () => {
    const picture = environment('studio');
    const plain = editedLight(picture, 'exposure', { stops: 0 }).planes;
    for (const kind of ['vignette', 'glow', 'veil', 'detail', 'deblur'] as const) {
      expect((EDIT_KINDS[kind].changes as (s: object) => boolean)(EDIT_KINDS[kind].plain)).toBe(false);
      const own = editedLight(picture, kind, EDIT_KINDS[kind].plain as never).planes;
      own.forEach((p, c) => expect(largestDifference(p, plain[c])).toBeLessThan(3e-6));
    }
  });
});

describe('light that falls off round a subject', () => {
  test('is the fourth power of a cosine beyond it, and loses its stops at twice its size', () => {
    for (const stops of [0.5, 1, 3]) {
      const slope = Math.sqrt(2 ** (stops / 2) - 1);
      for (const radius of [1.2, 1.7, 2, 3.1])
        expect(vignetteGain(radius, { stops, inner: 0 })).toBeCloseTo(
          Math.cos(Math.atan(slope * (radius - 1))) ** 4,
          12,
        );
      expect(Math.log2(vignetteGain(2, { stops, inner: 0 }))).toBeCloseTo(-stops, 12);
    }
    expect(vignetteGain(1, { stops: 2, inner: 1 })).toBe(1);
    expect(vignetteGain(0, { stops: 2, inner: 0.7 })).toBeCloseTo(2 ** 0.7, 12);
  });

  test('follows where it is drawn', () => {
    const grey = lightOf(() => [0.18, 0.18, 0.18]);
    const settings = { x: 0.7, y: 0.3, across: 0.1, down: 0.2, stops: 2, inner: 0.5 };
    const { planes } = editedLight(grey, 'vignette', settings);
    for (const [x, y] of [
      [167, 71],
      [215, 71],
      [167, 119],
      [20, 140],
    ]) {
      // fractions count from the picture's edge, half a pixel before its first middle
      const radius = Math.hypot((x + 0.5) / W / 0.1 - 7, (y + 0.5) / W / 0.2 - 1.5);
      expect(planes[0][y * W + x] / 0.18).toBeCloseTo(vignetteGain(radius, settings), 4);
    }
  });
});

describe('a glow', () => {
  const [WIDE, HIGH] = [960, 640];
  const lamp = lightOf(
    (x, y) => (Math.hypot(x - 480, y - 320) < 16 ? [30, 24, 12] : [0.001, 0.001, 0.001]),
    WIDE,
    HIGH,
  );

  test('a lamp stays, and about it lies what three Gaussians make of its light', () => {
    const before = editedLight(lamp, 'exposure', { stops: 0 }).planes[1];
    const after = editedLight(lamp, 'glow', { amount: 0.8, from: 1, reach: 60, warmth: 0 }).planes[1];
    const at = (p: Float32Array, dx: number): number => p[320 * WIDE + 480 + dx];
    expect(at(after, 0)).toBeCloseTo(at(before, 0), 2);
    const flux = 24 * Math.PI * 16 ** 2;
    // far from a disc its light is as that of a point: of two dimensions, and its own spread in the variance
    const glare = (r: number): number =>
      SPREADS.reduce((sum, [ratio, share]) => {
        const variance = (60 * ratio) ** 2 + 16 ** 2 / 4;
        return sum + (share * flux * Math.exp((-r * r) / (2 * variance))) / (2 * Math.PI * variance);
      }, 0);
    for (const r of [40, 60, 80, 110, 140]) {
      // lights of coarse levels are means of codes, which are a little less than those of light
      const ratio = (at(after, r) - 0.001) / (0.8 * glare(r));
      expect(ratio).toBeGreaterThan(0.85);
      expect(ratio).toBeLessThan(1.08);
    }
  });

  test('leaves what is dark, and takes the colour that is wished for', () => {
    const dark = lightOf((x) => [0.02 + 0.0002 * x, 0.02, 0.03]);
    const same = editedLight(dark, 'exposure', { stops: 0 }).planes;
    const glowing = editedLight(dark, 'glow', { amount: 1, from: 0, reach: 40, warmth: 0.5 }).planes;
    glowing.forEach((p, c) => expect(largestDifference(p, same[c])).toBeLessThan(1e-6));
    const [cool, warm] = [-1, 1].map((warmth) => {
      const { planes } = editedLight(lamp, 'glow', { amount: 1, from: 1, reach: 60, warmth });
      return planes[0][320 * WIDE + 540] / planes[2][320 * WIDE + 540];
    });
    expect(warm).toBeGreaterThan(2 * cool);
  });
});

test('a veil is the mix with a blurred copy where it is light, and darks stay', () => {
  const picture = lightOf((x) => (x < 120 ? [0.002, 0.002, 0.002] : [0.7, 0.7, 0.7]));
  const { planes } = editedLight(picture, 'veil', { amount: 0.5, radius: 10 });
  const row = (x: number): number => planes[1][80 * W + x];
  const own = Float32Array.from({ length: W * H }, (_, i) => (i % W < 120 ? 0.002 : 0.7));
  const soft = gaussianBlur(own, W, H, 10);
  for (const x of [121, 126, 133, 150]) expect(row(x)).toBeCloseTo(0.7 + 0.5 * (soft[80 * W + x] - 0.7), 2);
  // over six stops under middle grey nothing gets lighter
  for (const x of [60, 100, 115, 118]) expect(row(x)).toBeCloseTo(0.002, 5);
});

describe('detail by size', () => {
  test('at a strong edge no halo over a tenth of a stop, more or less of it', () => {
    const texture = waves(9, 40);
    const edge = lightOf((x, y) => {
      const v = (x < 120 ? 0.06 : 0.6) * 2 ** (0.1 * (texture(x, y) - 0.5));
      return [v, v, v];
    });
    const plain = luminance(editedLight(edge, 'exposure', { stops: 0 }).planes);
    for (const gain of [-1, 0.5, 1]) {
      const own = luminance(editedLight(edge, 'detail', { fine: gain, middle: gain, broad: gain }).planes);
      // the mean of every column, which texture leaves as it is
      for (let x = 4; x < W - 4; x++) {
        if (Math.abs(x - 119.5) < 1) continue;
        let [before, after] = [0, 0];
        for (let y = 0; y < H; y++) {
          before += Math.log2(plain[y * W + x]);
          after += Math.log2(own[y * W + x]);
        }
        expect(Math.abs(after - before) / H).toBeLessThan(0.1);
      }
    }
  });

  test('makes texture stronger or takes it out, by its size', () => {
    const wave = (length: number): EncodedImage =>
      lightOf(
        (x) => {
          const v = 0.18 * 2 ** (0.15 * Math.sin((2 * Math.PI * x) / length));
          return [v, v, v];
        },
        // large enough to be halved
        4 * W,
        H,
      );
    const strength = (image: EncodedImage, settings: EditSettings['detail']): number =>
      deviation(luminance(editedLight(image, 'detail', settings).planes));
    const none = { fine: 0, middle: 0, broad: 0 };
    for (const [name, length, others] of [
      ['fine', 4, ['broad']],
      ['broad', 90, ['fine']],
    ] as const) {
      const before = strength(wave(length), none);
      expect(strength(wave(length), { ...none, [name]: 1 })).toBeGreaterThan(1.4 * before);
      expect(strength(wave(length), { ...none, [name]: -1 })).toBeLessThan(0.6 * before);
      for (const other of others)
        expect(strength(wave(length), { ...none, [other]: 1 }) / before).toBeCloseTo(1, 1);
    }
  });

  test('does not make noise stronger', () => {
    const normal = normalSource(randomSource(4));
    const sigma = 0.012;
    const noisy = paint(
      W,
      H,
      () => {
        const v = 0.4 + sigma * normal();
        return [v, v, v];
      },
      65535,
    );
    const spread = (noise?: number): number => {
      const around = noise === undefined ? {} : { noise };
      const { planes } = editedLight(noisy, 'detail', { fine: 1, middle: 0, broad: 0 }, around);
      return deviation(planes[1].map((v) => linearToSrgb(v)));
    };
    expect(spread()).toBeGreaterThan(1.6 * sigma);
    expect(spread(sigma)).toBeLessThan(1.3 * sigma);
  });
});

describe('a blur taken back', () => {
  test.each(['dawn', 'forest'])('%s: nearer to what it was by two decibels and more', (name) => {
    const sharp = luminance(editedLight(environment(name), 'exposure', { stops: 0 }).planes);
    const soft = gaussianBlur(sharp, W, H, 1.6);
    const error = (p: Float32Array): number => {
      let sum = 0;
      for (let y = 12; y < H - 12; y++)
        for (let x = 12; x < W - 12; x++)
          sum += (linearToSrgb(p[y * W + x]) - linearToSrgb(sharp[y * W + x])) ** 2;
      return sum;
    };
    const back = richardsonLucy(soft, W, H, 1.6, { steps: 30, ringing: 0.2 });
    expect(10 * Math.log10(error(soft) / error(back))).toBeGreaterThan(2);
  });

  test('one step is what the definition says, and ringing stops where it is told to', () => {
    const plane = Float32Array.from({ length: 40 * 30 }, (_, i) => (i % 40 < 20 ? 0.1 : 0.8));
    const soft = gaussianBlur(plane, 40, 30, 1.5);
    const ratio = soft.map((v, i) => (v + 1e-4) / (gaussianBlur(soft, 40, 30, 1.5)[i] + 1e-4));
    const wanted = gaussianBlur(ratio, 40, 30, 1.5).map((v, i) => (soft[i] + 1e-4) * v - 1e-4);
    const once = richardsonLucy(soft, 40, 30, 1.5, { steps: 1, ringing: 1 });
    expect(largestDifference(once, wanted)).toBeLessThan(1e-5);
    const many = richardsonLucy(soft, 40, 30, 1.5, { steps: 40, ringing: 0.05 });
    expect(Math.max(...many)).toBeLessThan(0.8 * 1.051);
    expect(Math.min(...many)).toBeGreaterThan(0.1 / 1.051 - 1e-3);
    const free = richardsonLucy(soft, 40, 30, 1.5, { steps: 40, ringing: 1 });
    expect(Math.max(...free)).toBeGreaterThan(0.86);
  });
});

describe('over time', () => {
  /** Water that is another at every time. */
  const frames = Array.from({ length: 5 }, (_, k) => {
    const water = waves(20 + k, 40);
    return lightOf((x, y) => {
      const v = 0.1 + 0.4 * water(x, y);
      return [v, 0.9 * v, 0.8 * v];
    });
  });

  test('is the mean, or the middle, of all frames', () => {
    const lights = frames.map((f) => editedLight(f, 'exposure', { stops: 0 }).planes[1]);
    const mean = editedLight(frames[0], 'overTime', { how: 'mean', reach: 12 }, { frames }).planes[1];
    const middle = editedLight(frames[0], 'overTime', { how: 'middle', reach: 12 }, { frames }).planes[1];
    for (let i = 0; i < W * H; i += 97) {
      const all = lights.map((p) => p[i]);
      expect(mean[i]).toBeCloseTo(all.reduce((a, b) => a + b, 0) / 5, 5);
      expect(middle[i]).toBeCloseTo(all.sort((a, b) => a - b)[2], 5);
    }
  });

  test('one frame alone is drawn out along its streaks: what lies along them stays, what does not goes', () => {
    const random = normalSource(randomSource(2));
    const [c, s] = [Math.cos(0.4), Math.sin(0.4)];
    const streaks = Float32Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      return 0.5 + 0.2 * Math.sin((-s * x + c * y) / 2.2);
    });
    const noisy = streaks.map((v) => v + 0.05 * random());
    const flow = flowOf(noisy, W, H);
    const [drawn] = flowBlur([noisy], flow, W, H, 12);
    const inside = (p: Float32Array): Float32Array =>
      p.filter((_, i) => i % W > 20 && i % W < W - 20 && i / W > 20 && i / W < H - 20);
    const left = inside(drawn.map((v, i) => v - streaks[i]));
    expect(deviation(left)).toBeLessThan(0.025);
    expect(deviation(inside(drawn))).toBeGreaterThan(0.85 * deviation(inside(streaks)));
    // the direction is that of the streaks
    const along = inside(flow.x.map((v, i) => Math.abs(v * c + flow.y[i] * s)));
    expect(along.reduce((a, b) => a + b, 0) / along.length).toBeGreaterThan(0.97);
  });

  test('a set of one frame, and frames of other exposures, fall back to streaks', () => {
    const streaks = editedLight(frames[0], 'overTime', { how: 'streaks', reach: 10 });
    for (const around of [{ frames: [frames[0]] }, { frames, alike: 1 }]) {
      const one = editedLight(frames[0], 'overTime', { how: 'mean', reach: 10 }, around);
      one.planes.forEach((p, c) => expect(largestDifference(p, streaks.planes[c])).toBe(0));
    }
    const two = editedLight(frames[0], 'overTime', { how: 'mean', reach: 10 }, { frames, alike: 2 });
    const [a, b] = [0, 1].map((k) => editedLight(frames[k], 'exposure', { stops: 0 }).planes[0]);
    expect(
      largestDifference(
        two.planes[0],
        a.map((v, i) => (v + b[i]) / 2),
      ),
    ).toBeLessThan(1e-5);
  });
});
