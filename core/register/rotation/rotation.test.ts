import { beforeAll, describe, expect, test } from '@jest/globals';
import { rotation } from '@/camera/pose';
import { PLAIN_LENS } from '@/camera/lens';
import { type SceneView } from '@/camera/sceneView';
import { shootView, type ViewFrame } from '@/camera/shootView';
import { millAtDusk } from '@/tests/knownScene';
import { multiply, transform, transposed } from '../../raster/matrix3';
import { featurePoints } from '../features/featurePoints';
import { linkable, linkFrames } from '../features/linkFrames';
import { pixelOf, rayOf, turnAbout, turnHomography } from './cameraModel';
import { fitPanorama, type PanoramaFit, type PanoramaPair } from './fitPanorama';
import { focalsOf } from './startFocal';
import { straightenTurns } from './straightenTurns';

const WIDTH = 480;
const HEIGHT = 660;
const FOCAL = 1180;

/** Degrees between two rotations. */
const apart = (a: readonly number[], b: readonly number[]): number => {
  const trace = a.reduce((s, v, i) => s + v * b[i], 0);
  return (Math.acos(Math.min(1, (trace - 1) / 2)) * 180) / Math.PI;
};

const POSES = [
  { yaw: -18.2, pitch: 0.7, roll: 0.5 },
  { yaw: -6.1, pitch: -0.8, roll: -0.9 },
  { yaw: 6.3, pitch: 0.4, roll: 0.7 },
  { yaw: 17.8, pitch: -0.5, roll: -0.3 },
];

let shots: ViewFrame[];
let fit: PanoramaFit;
let pairs: PanoramaPair[];

beforeAll(() => {
  const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
  const lens = { ...PLAIN_LENS, focalLength: (FOCAL * 36) / WIDTH };
  shots = POSES.map((stand, i) =>
    shootView(scene, { width: WIDTH, height: HEIGHT, lens, stand, seconds: 0.4, iso: 100, seed: 5 + i }),
  );
  const features = shots.map((s) => featurePoints(s.image));
  const greys = shots.map((s) => linkable(s.image));
  pairs = [];
  for (let a = 0; a < shots.length; a++)
    for (let b = a + 1; b < shots.length; b++) {
      const link = linkFrames(greys[a], features[a], greys[b], features[b]);
      if (link) pairs.push({ a, b, ...link });
    }
  fit = fitPanorama(
    shots.map(() => ({ width: WIDTH, height: HEIGHT })),
    pairs,
    { reference: 1 },
  );
}, 60_000);

describe('a row of turned frames', () => {
  test('neighbours are linked, and frames that share nothing are not', () => {
    const linked = pairs.map((p) => `${p.a}${p.b}`);
    expect(linked).toEqual(expect.arrayContaining(['01', '12', '23']));
    expect(linked).not.toContain('03');
  });

  test('the focal length is found to a fifth of a percent without being told', () =>
    expect(Math.abs(fit.lens.focalPx / FOCAL - 1)).toBeLessThan(0.002));

  test('the turns between frames are found to 0.03°', () => {
    // the camera's pose turns camera axes to the scene's; the fit turns the world to camera axes
    const truth = POSES.map((p) => transposed(rotation(p)));
    for (let i = 1; i < truth.length; i++) {
      const found = fit.rotations[i];
      const first = fit.rotations[0];
      if (!found || !first) throw new Error('a frame was left out');
      const difference = apart(multiply(found, transposed(first)), multiply(truth[i], transposed(truth[0])));
      expect(difference).toBeLessThan(0.03);
    }
  });

  test('the horizon is level to a few tenths of a degree', () => {
    const [first, last] = [fit.rotations[0], fit.rotations[3]];
    if (!first || !last) throw new Error('a frame was left out');
    // the scene's own vertical, (0, 1, 0), in the fitted world
    const down = transposed(rotation(POSES[0]));
    const seen = [down[1], down[4], down[7]];
    const back = transposed(first);
    const world = [0, 1, 2].map(
      (k) => back[3 * k] * seen[0] + back[3 * k + 1] * seen[1] + back[3 * k + 2] * seen[2],
    );
    expect((Math.acos(world[1]) * 180) / Math.PI).toBeLessThan(1);
  });

  test('pairs report their overlap and what disagrees', () => {
    const pair = fit.pairs.find((p) => p.a === 1 && p.b === 2);
    // 12.4° of a field of 2·atan(240/1180) = 23°
    expect(pair?.overlap).toBeGreaterThan(0.38);
    expect(pair?.overlap).toBeLessThan(0.52);
    expect(pair?.residual).toBeLessThan(0.15);
    expect(pair?.parallax).toBeLessThan(1);
  });
});

test('a frame of something else is left out', () => {
  const noise = { ...shots[0].image, data: Uint8Array.from(shots[0].image.data, (_, i) => (i * 7919) % 251) };
  const link = linkFrames(
    linkable(noise),
    featurePoints(noise),
    linkable(shots[1].image),
    featurePoints(shots[1].image),
  );
  expect(link).toBeUndefined();
  const alone = fitPanorama([...shots.map((s) => s.image), noise], pairs, { reference: 1 });
  expect(alone.rotations[4]).toBeNull();
  expect(alone.rotations.slice(0, 4).every(Boolean)).toBe(true);
});

test('how the lens bends is solved when it is asked for, and the turns with it', () => {
  const scene: SceneView = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
  const lens = { ...PLAIN_LENS, focalLength: (FOCAL * 36) / WIDTH, distortion: -0.03 };
  const bent = POSES.map((stand, i) =>
    shootView(scene, { width: WIDTH, height: HEIGHT, lens, stand, seconds: 0.4, iso: 100, seed: 15 + i }),
  );
  const found = bent.map((s) => featurePoints(s.image));
  const greys = bent.map((s) => linkable(s.image));
  const links: PanoramaPair[] = [];
  for (let a = 0; a + 1 < bent.length; a++) {
    const link = linkFrames(greys[a], found[a], greys[a + 1], found[a + 1]);
    if (link) links.push({ a, b: a + 1, ...link });
  }
  const sizes = bent.map(() => ({ width: WIDTH, height: HEIGHT }));
  const solved = fitPanorama(sizes, links, { reference: 1, distortion: true });
  const plain = fitPanorama(sizes, links, { reference: 1 });
  expect(solved.lens.k1).toBeCloseTo(-0.03, 2);
  expect(Math.abs(solved.lens.focalPx / FOCAL - 1)).toBeLessThan(0.006);
  const worst = (f: PanoramaFit): number => Math.max(...f.pairs.map((p) => p.residual));
  expect(worst(solved)).toBeLessThan(worst(plain) / 2);
}, 60_000);

describe('the camera model', () => {
  const lens = { focalPx: 900, k1: -0.08, width: 800, height: 600 };
  test('pixels and rays are inverse, with distortion too', () => {
    const seen = pixelOf(lens, ...rayOf(lens, 123, 456));
    expect(seen?.[0]).toBeCloseTo(123, 4);
    expect(seen?.[1]).toBeCloseTo(456, 4);
  });
  test('a homography of a pure turn gives its focal length back', () => {
    const m = turnHomography({ ...lens, k1: 0 }, turnAbout(0, 0, 0), turnAbout(0.05, 0.4, 0.02));
    for (const f of focalsOf(m, 800, 600)) expect(f).toBeCloseTo(900, 3);
    expect(transform(m, 400, 300).every(Number.isFinite)).toBe(true);
  });
  test('a column keeps its mean x axis level', () => {
    const level = straightenTurns([turnAbout(0.3, 0, 0.05), turnAbout(-0.3, 0, 0.05), turnAbout(0, 0, 0.05)]);
    // the x axes of the cameras in the new world have no downward part
    expect(Math.abs(level.reduce((s, R) => s + R[1], 0))).toBeLessThan(1e-6);
  });
});
