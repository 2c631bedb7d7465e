import { describe, expect, test } from '@jest/globals';
import { type Lens, PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { type EncodedImage } from '../raster/encodedImage';
import { emptyRaster } from '../raster/raster';
import { srgbToLinear } from '../raster/srgb';
import { correctLens } from './lensCorrection';
import { NO_LENS } from './lensFaults';

const W = 480;
const H = 320;

/** White dots on grey, in rows. */
function dots(): SceneView {
  const light = emptyRaster(900, 600);
  for (let y = 0, i = 0; y < 600; y++)
    for (let x = 0; x < 900; x++, i++) {
      const [u, v] = [(x % 60) - 30, (y % 60) - 30];
      const value = u * u + v * v < 36 ? 0.9 : 0.2;
      light.planes.forEach((p) => (p[i] = value));
    }
  return { light, field: { kind: 'flat', across: 60 } };
}

const shoot = (lens: Partial<Lens>): EncodedImage =>
  shootView(dots(), {
    ...{ width: W, height: H, iso: 100, seed: 3, seconds: 0.38 },
    lens: { ...PLAIN_LENS, ...lens },
    stand: { yaw: 0, pitch: 0, roll: 0 },
  }).image;

const light = ({ data }: EncodedImage, i: number, c: number): number => srgbToLinear(data[3 * i + c] / 255);

/** Root mean square difference of a channel, encoded, away from the border. */
function off(a: EncodedImage, b: EncodedImage, c: number): number {
  let [sum, n] = [0, 0];
  for (let y = 12; y < H - 12; y++)
    for (let x = 12; x < W - 12; x++, n++)
      sum += (a.data[(y * W + x) * 3 + c] - b.data[(y * W + x) * 3 + c]) ** 2;
  return Math.sqrt(sum / n);
}

describe('what the lens did is taken back', () => {
  const ideal = shoot({});

  test.each([-0.06, 0.04])('distortion of %d', (distortion) => {
    const bent = shoot({ distortion });
    const straight = correctLens(bent, { ...NO_LENS, distortion });
    expect(off(straight, ideal, 1)).toBeLessThan(off(bent, ideal, 1) / 3.5);
    expect(off(straight, ideal, 1)).toBeLessThan(4);
  });

  test('lateral colour error, red and blue each by its own', () => {
    const lateral = 0.004;
    const fringed = shoot({ lateral });
    const clean = correctLens(fringed, { ...NO_LENS, red: lateral, blue: -lateral });
    for (const c of [0, 2]) {
      expect(off(clean, ideal, c)).toBeLessThan(off(fringed, ideal, c) / 1.7);
    }
    expect(off(clean, fringed, 1)).toBeLessThan(0.7);
  });

  test('corners are as light as the middle', () => {
    // the stand-in lens loses a little less than r² at half the way, as lenses do
    const dark = shoot({ vignette: 1, aperture: 2.8, distortion: 0 });
    const even = correctLens(dark, { ...NO_LENS, vignette: 1 });
    const bright = (image: EncodedImage, x: number, y: number): number => light(image, y * W + x, 1);
    const corner = (image: EncodedImage): number => bright(image, 5, 5) / bright(image, 245, 165);
    expect(Math.abs(Math.log2(corner(even)))).toBeLessThan(Math.abs(Math.log2(corner(dark))) / 4);
  });

  test('floats stay unclipped', () => {
    const data = new Float32Array(60 * 40 * 3).fill(1.7);
    const out = correctLens({ width: 60, height: 40, white: 1, data }, { ...NO_LENS, distortion: 0.02 });
    expect(out.data[3 * 1230]).toBeCloseTo(1.7, 3);
  });
});
