import { describe, expect, test } from '@jest/globals';
import { deltaE2000, labOf } from '@/core/colour/deltaE';
import { emptyImage, type EncodedImage } from '@/core/raster/encodedImage';
import { normalSource, randomSource } from '@/core/raster/random';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { imageLevels } from '@/engine/tasks';
import { realEnvironment } from '@/tests/knownScene';
import { waves } from '@/tests/paint';
import { clearDust } from './clearDust';
import { dustShade } from './dustShade';
import { measureSet } from './setMeasures';

const [W, H] = [1160, 260];
const SPOT = { x: 600, y: 130 };
/** share of the light that the spot takes in its middle, and its radius, px */
const [DEEP, WIDE] = [0.18, 5.5];

type Light = (x: number, y: number) => readonly [number, number, number];

/** An evening sky with thin clouds. */
const clouds = waves(21, 16);
const SKY: Light = (x, y) => {
  const light = (0.25 + (0.12 * y) / H) * 2 ** (0.06 * clouds(x / 4, y / 4));
  return [light * 1.1, light, light * 1.2];
};

/** The upper part of a real environment, spread out, with a little texture of its own. */
function realSky(name: string): Light {
  const map = realEnvironment(name, 700, 350);
  const texture = waves(4, 16);
  const values = map.planes[1].slice(0, 700 * 60).sort();
  const gain = 0.3 / values[values.length >> 1];
  return (x, y) => {
    const [u, v] = [Math.min(698, Math.max(0, x / 2 + 20)), Math.min(348, Math.max(0, y / 10))];
    const [c, r] = [Math.floor(u), Math.floor(v)];
    const detail = gain * 2 ** (0.03 * texture(x, y));
    const [red, green, blue] = map.planes.map((p) => {
      const o = r * 700 + c;
      const above = p[o] + (u - c) * (p[o + 1] - p[o]);
      const below = p[o + 700] + (u - c) * (p[o + 701] - p[o + 700]);
      return Math.min(0.8, Math.max(0.02, (above + (v - r) * (below - above)) * detail));
    });
    return [red, green, blue];
  };
}

/** A frame that moved by some pixels, at an exposure, with or without the dust. */
function shot(of: Light, move: number, stops: number, seed: number, dusty = true): EncodedImage {
  const normal = normalSource(randomSource(seed));
  const image = emptyImage(W, H, 255);
  for (let y = 0, o = 0; y < H; y++)
    for (let x = 0; x < W; x++, o += 3) {
      const far2 = (x - SPOT.x) ** 2 + (y - SPOT.y) ** 2;
      const through = dusty ? 1 - DEEP * Math.exp(-far2 / (2 * WIDE ** 2)) : 1;
      const light = of(x + move, y + 0.6 * move);
      for (let c = 0; c < 3; c++) {
        const exposed = Math.min(1, 2 ** stops * light[c] * through);
        const noisy = exposed + normal() * Math.sqrt(1e-5 * exposed);
        image.data[o + c] = Math.round(255 * linearToSrgb(Math.min(1, Math.max(0, noisy))));
      }
    }
  return image;
}

/** Mean ΔE2000 about the spot. */
function difference(a: EncodedImage, b: EncodedImage): number {
  let [sum, n] = [0, 0];
  const lab = ({ data }: EncodedImage, i: number) =>
    labOf(srgbToLinear(data[i] / 255), srgbToLinear(data[i + 1] / 255), srgbToLinear(data[i + 2] / 255));
  for (let y = SPOT.y - 14; y <= SPOT.y + 14; y++)
    for (let x = SPOT.x - 14; x <= SPOT.x + 14; x++, n++)
      sum += deltaE2000(lab(a, 3 * (y * W + x)), lab(b, 3 * (y * W + x)));
  return sum / n;
}

describe('dust on the sensor', () => {
  // an environment of the package @pmndrs/assets beside a painted one
  test.each([
    ['a painted sky', SKY],
    ['a real sky', realSky('park')],
  ])('is taken out of every frame at once under %s, the texture behind it stays', (_, of) => {
    const shots = [
      { move: 0, stops: 0 },
      { move: 9, stops: -0.7 },
      { move: -6, stops: 0.5 },
    ];
    const frames = shots.map(({ move, stops }, k) => shot(of, move, stops, k + 1));
    const levels = frames.map((f) => imageLevels(f));
    const { dust, shades } = measureSet(levels, [0, -0.7, 0.5], 0);
    expect(dust).toHaveLength(1);
    expect(Math.hypot(dust[0].x - SPOT.x, dust[0].y - SPOT.y)).toBeLessThan(9);
    expect(shades).toHaveLength(1);
    frames.forEach((frame, k) => {
      const truth = shot(of, shots[k].move, shots[k].stops, k + 1, false);
      const clean = clearDust(frame, shades);
      expect(difference(frame, truth)).toBeGreaterThan(0.7);
      expect(difference(clean, truth)).toBeLessThan(0.4 * difference(frame, truth));
      // nothing else is touched
      const far = [...clean.data.keys()].filter(
        (i) =>
          Math.hypot((Math.floor(i / 3) % W) - SPOT.x, Math.floor(i / 3 / W) - SPOT.y) > 40 &&
          clean.data[i] !== frame.data[i],
      );
      expect(far).toHaveLength(0);
    });
  });

  test('where no frame is even nothing can be told', () => {
    const rough = waves(3, 16);
    const busy = shot(
      (x, y) => [1, 1, 1].map(() => 0.2 * 2 ** rough(x, y)) as [number, number, number],
      0,
      0,
      1,
    );
    expect(dustShade([imageLevels(busy)], SPOT)).toBeUndefined();
  });

  test('floats beyond white are given their light back as well', () => {
    const even: EncodedImage = {
      width: 60,
      height: 60,
      white: 1,
      data: new Float32Array(3 * 60 * 60).fill(1.2),
    };
    const shade = { x: 10, y: 10, size: 20, cell: 1, values: new Float32Array(400).fill(0.5) };
    const { data } = clearDust(even, [shade]);
    expect(srgbToLinear(data[3 * (20 * 60 + 20)])).toBeCloseTo(2 * srgbToLinear(1.2), 4);
    expect(data[0]).toBeCloseTo(1.2, 6);
  });
});
