import { expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView } from '@/camera/shootView';
import { inlinePool } from '@/tests/inlinePool';
import { realEnvironment } from '@/tests/knownScene';
import { measureLens } from './measureLens';

const [W, H] = [720, 540];

test('how a lens bends and darkens is measured where frames of a panorama overlap, and only there', async () => {
  const scene: SceneView = {
    light: realEnvironment('city', 2800, 1400),
    field: { kind: 'round', across: 360, down: 180 },
  };
  const lens = { ...PLAIN_LENS, focalLength: 28, aperture: 2.8, distortion: -0.04, vignette: 0.9 };
  const pool = inlinePool(2);
  const frames = await Promise.all(
    [-26, 0, 26].map(async (yaw, i) => {
      const { image } = shootView(scene, {
        ...{ width: W, height: H, lens, seconds: 0.006, iso: 100, seed: 40 + i },
        stand: { yaw, pitch: 0.5 * i, roll: 0 },
      });
      return { levels: await pool.run((tasks) => tasks.levels(image)), facts: { focalLength: 28 } };
    }),
  );
  const { lens: found, turned } = await measureLens(pool, 'panorama', frames, 1);
  expect(turned).toBe(true);
  expect(found.distortion).toBeGreaterThan(-0.044);
  expect(found.distortion).toBeLessThan(-0.036);
  // the stand-in lens loses its light a little otherwise than by r²
  expect(found.vignette).toBeGreaterThan(0.6);
  expect(found.vignette).toBeLessThan(1.1);
  const apart = await measureLens(pool, 'bracket', frames, 1);
  expect(apart.turned).toBe(false);
  expect(apart.lens).toMatchObject({ distortion: 0, vignette: 0 });
}, 120_000);
