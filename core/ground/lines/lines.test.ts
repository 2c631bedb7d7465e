import { describe, expect, test } from '@jest/globals';
import { PerspectiveCamera, Vector3 } from 'three';
import { PLAIN_LENS } from '@/camera/lens';
import { shootView } from '@/camera/shootView';
import { straighteningOf, tiltOf } from '../../finish/straighten';
import { invert, transform } from '../../raster/matrix3';
import { randomSource } from '../../raster/random';
import { type Segment, straightSegments } from '../../raster/straightSegments';
import { millAtDusk } from '@/tests/knownScene';
import { straightenBy } from '../straightenBy';
import { cameraFromLines } from './cameraFromLines';
import { cameraOfPicture } from './cameraOfPicture';
import { refineSegment } from './refineSegment';

const [W, H, F] = [1500, 1000, 1300];
const DEGREE = Math.PI / 180;
/** by which its streets run to the right of the way the camera looks */
const TURN = 35 * DEGREE;

interface Held {
  readonly down: number;
  readonly roll: number;
}

/** The edges of houses that stand at random on level ground, as a camera of a general-purpose library (three 0.x) sees them, shifted by noise of some pixels. */
function town({ down, roll }: Held, noise: number, seed: number, count = 90): Segment[] {
  const camera = new PerspectiveCamera((2 * Math.atan(H / 2 / F)) / DEGREE, W / H, 0.01, 1e5);
  camera.position.set(0, 1.6, 0);
  camera.rotation.x = -down * DEGREE;
  camera.rotateZ(roll * DEGREE);
  camera.updateMatrixWorld();
  const random = randomSource(seed);
  const jitter = (): number => noise * (random() + random() + random() - 1.5) * 2;
  const seen = (p: Vector3): readonly [number, number] | undefined => {
    const s = p.clone().project(camera);
    const [x, y] = [((s.x + 1) / 2) * W, ((1 - s.y) / 2) * H];
    return s.z < 1 && x > 0 && x < W && y > 0 && y < H ? [x, y] : undefined;
  };
  const segments: Segment[] = [];
  const along = new Vector3(Math.sin(TURN), 0, -Math.cos(TURN));
  const across = new Vector3(-along.z, 0, along.x);
  const up = new Vector3(0, 1, 0);
  for (let k = 0; k < 12_000 && segments.length < count; k++) {
    const from = new Vector3(24 * (random() - 0.5), 5 * random(), -(5 + 20 * random()));
    const way = [along, across, up][k % 3];
    const [a, b] = [seen(from), seen(from.clone().addScaledVector(way, 1 + 2 * random()))];
    if (!a || !b || Math.hypot(b[0] - a[0], b[1] - a[1]) < 40) continue;
    segments.push({ x0: a[0] + jitter(), y0: a[1] + jitter(), x1: b[0] + jitter(), y1: b[1] + jitter() });
  }
  // and a third as many that belong nowhere
  for (let k = 0; k < 30; k++) {
    const [x, y, angle, length] = [W * random(), H * random(), 2 * Math.PI * random(), 40 + 100 * random()];
    segments.push({ x0: x, y0: y, x1: x + length * Math.cos(angle), y1: y + length * Math.sin(angle) });
  }
  return segments;
}

const PRINCIPAL = [W / 2, H / 2] as const;
const SIZE = { width: W, height: H, principal: PRINCIPAL };
const horizonOf = ({ down, roll }: Held): number =>
  H / 2 - (F * Math.tan(down * DEGREE)) / Math.cos(roll * DEGREE);

describe('a camera by the lines of its picture', () => {
  test.each([
    { down: 0, roll: 0 },
    { down: 6, roll: -2 },
    { down: -9, roll: 3 },
    { down: 14, roll: 1 },
  ])('looking $down° down and leaning by $roll°: horizon, lean and focal length', (held) => {
    for (const known of [true, false]) {
      const told = cameraFromLines(town(held, 0.3, 5), { ...SIZE, ...(known ? { focal: F } : {}) });
      expect(Math.abs((told?.horizon.value ?? 0) - horizonOf(held)) / H).toBeLessThan(0.003);
      expect(Math.abs((told?.roll.value ?? 99) - held.roll)).toBeLessThan(0.1);
      expect(Math.abs((told?.focal.value ?? 0) / F - 1)).toBeLessThan(0.03);
      // a third is chance, and hardly any of it is taken
      expect(told?.families.slice(-30).filter(Boolean).length).toBeLessThan(9);
    }
  });

  test('what is told is off by about what it says, over many towns', () => {
    const held = { down: 4, roll: 1.5 };
    const off = Array.from({ length: 30 }, (_, seed) => {
      const told = cameraFromLines(town(held, 1, seed + 10), { ...SIZE, focal: F });
      return told ? Math.abs(told.horizon.value - horizonOf(held)) / told.horizon.spread : 99;
    });
    expect(off.filter((v) => v < 2.5).length).toBeGreaterThanOrEqual(29);
    expect(Math.max(...off)).toBeLessThan(4);
    // and it does not call everything uncertain
    expect(off.filter((v) => v > 0.1).length).toBeGreaterThan(10);
  });

  test('lines of chance alone tell nothing', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const random = randomSource(seed);
      const stray = Array.from({ length: 120 }, (): Segment => {
        const [x, y, angle, length] = [
          W * random(),
          H * random(),
          2 * Math.PI * random(),
          40 + 160 * random(),
        ];
        return { x0: x, y0: y, x1: x + length * Math.cos(angle), y1: y + length * Math.sin(angle) };
      });
      expect(cameraFromLines(stray, SIZE)).toBeUndefined();
    }
  });

  test('a part of a larger picture: where its axis is unknown, uprights alone do not claim the horizon, and lines that run away do', () => {
    const held = { down: 4, roll: 1 };
    const lines = town(held, 0.3, 8, 240);
    // the lower two thirds of it
    const [top, height] = [300, 700];
    const moved = lines
      .map((s) => ({ ...s, y0: s.y0 - top, y1: s.y1 - top }))
      .filter(({ y0, y1 }) => y0 > 0 && y1 > 0);
    const part = { width: W, height, principal: [W / 2, height / 2] as const, cropped: true };
    const wanted = horizonOf(held) - top;
    const told = cameraFromLines(moved, part);
    const { value, spread } = told?.horizon ?? { value: 0, spread: 0 };
    expect(spread).toBeLessThan(0.04 * height);
    expect(Math.abs(value - wanted)).toBeLessThan(Math.min(2 * spread, 0.03 * height));
    const standing = moved.filter((s) => Math.abs(s.y1 - s.y0) > 2.4 * Math.abs(s.x1 - s.x0));
    expect(cameraFromLines(standing, part)?.horizon.spread ?? Infinity).toBeGreaterThan(0.15 * height);
  });

  test('two drawn uprights and two drawn edges that run away are enough', () => {
    const held = { down: 7, roll: -1 };
    const lines = town(held, 0, 3);
    const pick = (k: number, family: 'upright' | 'level') => ({ ...lines[k], family });
    const ofKind = (kind: number): number[] =>
      lines
        .slice(0, -30)
        .map((s, i) => ({ i, x: s.x0, steep: Math.abs(s.y1 - s.y0) > 2.4 * Math.abs(s.x1 - s.x0) }))
        .filter(({ steep }) => steep === (kind === 0))
        .sort((a, b) => a.x - b.x)
        .map(({ i }) => i);
    const [standing] = [ofKind(0)];
    const drawn = [pick(standing[0], 'upright'), pick(standing.at(-1) ?? 0, 'upright')];
    const told = cameraFromLines([], { ...SIZE, focal: F, drawn });
    expect(Math.abs((told?.horizon.value ?? 0) - horizonOf(held)) / H).toBeLessThan(0.003);
    expect(Math.abs((told?.roll.value ?? 99) - held.roll)).toBeLessThan(0.1);
  });

  test('the stand-in mill, in which posts lean: the horizon within what is said, lean within 0.15°', () => {
    const scene = { light: millAtDusk(), field: { kind: 'flat', across: 63 } } as const;
    // the scene's own camera looks down a little
    const tilt = Math.atan(-0.052 / Math.hypot(1, 0.015));
    const down = [0, Math.cos(tilt), -Math.sin(tilt)];
    for (const [focalLength, yaw, pitch, roll] of [
      [32, 0, 0, 0],
      [40, -6, 3, -1.5],
      [50, 6, 2, -3],
    ]) {
      const lens = { ...PLAIN_LENS, focalLength };
      const shot = {
        width: 1200,
        height: 800,
        lens,
        stand: { yaw, pitch, roll },
        seconds: 0.5,
        iso: 100,
        seed: 3,
      };
      const { image, truth } = shootView(scene, shot);
      const { turn, focalPx } = truth;
      const own = [0, 1, 2].map((k) => turn[k] * down[0] + turn[3 + k] * down[1] + turn[6 + k] * down[2]);
      const principal = [599.5, 399.5] as const;
      const told = cameraOfPicture(image, { principal, focal: focalPx });
      if (!told) throw new Error('the mill has lines');
      const horizon = principal[1] - (own[2] * focalPx) / own[1];
      expect(Math.abs(told.horizon.value - horizon)).toBeLessThan(
        Math.min(0.012 * 800, 2 * told.horizon.spread),
      );
      expect(Math.abs(told.roll.value - Math.atan(-own[0] / own[1]) / DEGREE)).toBeLessThan(0.15);
      expect(told.lines.filter((l) => l.family === 'upright').length).toBeGreaterThan(30);
    }
  });
});

test('a segment is moved onto its edge to a twentieth of a pixel', () => {
  const [width, height] = [300, 200];
  // an edge of known place, softened over two pixels
  const edge = (y: number): number => 100 + 0.037 * (y - 90);
  const luma = Float32Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return 0.2 + 0.5 * Math.min(1, Math.max(0, (x - edge(y)) / 2 + 0.5));
  });
  const rough = { x0: edge(30) + 0.6, y0: 30, x1: edge(150) - 0.7, y1: 150 };
  const fine = refineSegment(luma, width, height, rough);
  for (const [x, y] of [
    [fine.x0, fine.y0],
    [fine.x1, fine.y1],
  ])
    expect(Math.abs(x - edge(y))).toBeLessThan(0.05);
  const [found] = straightSegments(luma, new Uint8Array(width * height).fill(1), width, height, 50);
  expect(Math.abs(found.x1 - found.x0)).toBeGreaterThan(1);
});

test('a picture is set upright and level by the camera of its space', () => {
  const held = { down: 8, roll: 3 };
  const camera = { focal: F, principal: PRINCIPAL, horizon: horizonOf(held), roll: held.roll, height: 1.6 };
  const map = invert(straighteningOf(straightenBy(camera, SIZE), SIZE, F));
  for (const { x0, y0, x1, y1 } of town(held, 0, 9).slice(0, -30)) {
    if (Math.abs(y1 - y0) < 2.4 * Math.abs(x1 - x0)) continue;
    const [a, b] = [transform(map, x0, y0), transform(map, x1, y1)];
    expect(Math.abs(tiltOf([a[0], a[1], b[0], b[1]])) / DEGREE).toBeLessThan(0.05);
  }
});
