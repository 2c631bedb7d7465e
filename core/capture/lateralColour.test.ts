import { describe, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { millAtDusk } from '@/tests/knownScene';
import { emptyImage } from '../raster/encodedImage';
import { lateralColour } from './lateralColour';
import { correctLens } from './lensCorrection';
import { NO_LENS } from './lensFaults';

const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };

const shoot = (lateral: number, stops = 0) =>
  shootView(scene, {
    ...{ width: 900, height: 600, iso: 100, seed: 8, seconds: 0.5 * 2 ** stops },
    lens: { ...PLAIN_LENS, lateral },
    stand: { yaw: 0, pitch: 0, roll: 0 },
  }).image;

describe('lateral colour error is measured at the edges of a picture', () => {
  test.each([0.0012, -0.0008])('of %d, to a fifth of it', (lateral) => {
    const { red, blue, places } = lateralColour(shoot(lateral));
    expect(places).toBeGreaterThan(100);
    expect(Math.abs(red - lateral)).toBeLessThan(0.2 * Math.abs(lateral));
    expect(Math.abs(blue + lateral)).toBeLessThan(0.2 * Math.abs(lateral));
  });

  test('is next to nothing where there is none, at any exposure', () => {
    for (const stops of [-1, 1]) {
      const { red, blue } = lateralColour(shoot(0, stops));
      expect(Math.abs(red)).toBeLessThan(0.0001);
      expect(Math.abs(blue)).toBeLessThan(0.0001);
    }
  });

  test('what was measured takes the error back', () => {
    const fringed = shoot(0.0015);
    const { red, blue } = lateralColour(fringed);
    const left = lateralColour(correctLens(fringed, { ...NO_LENS, red, blue }));
    expect(Math.abs(left.red)).toBeLessThan(0.0003);
    expect(Math.abs(left.blue)).toBeLessThan(0.0003);
  });

  test('nothing is known of a picture without edges', () => {
    const even = emptyImage(300, 200, 255);
    even.data.fill(90);
    expect(lateralColour(even)).toEqual({ red: 0, blue: 0, places: 0 });
  });
});
