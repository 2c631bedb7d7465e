import { beforeAll, describe, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { FERROW_SKY, nightSky } from '@/camera/nightSky';
import { readSensor } from '@/camera/readSensor';
import { type SceneView } from '@/camera/sceneView';
import { type Stand } from '@/camera/lookThrough';
import { shootView } from '@/camera/shootView';
import { millAtDusk } from '@/tests/knownScene';
import { type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { arrangeSet } from './arrangeSet';
import { clippedShares } from './clippedShares';
import { recogniseSet, type SetCandidate } from './recogniseSet';
import { sharpnessOf } from './sharpness';

const [W, H] = [600, 400];
let mill: SceneView;

beforeAll(() => {
  mill = { light: millAtDusk(), field: { kind: 'flat', across: 63 } };
});

function candidate(image: EncodedImage, stops: number, minute: number): SetCandidate {
  const levels = [image];
  while (levels[levels.length - 1].width > 300) levels.push(halveImage(levels[levels.length - 1]));
  const taken = new Date(Date.parse('2026-10-03T18:00:00Z') + 60000 * minute).toISOString().slice(0, 23);
  return {
    width: image.width,
    height: image.height,
    stops,
    clipped: clippedShares(image),
    facts: { taken },
    levels,
    sharpness: sharpnessOf(image),
  };
}

function shoot(stand: Partial<Stand>, stops: number, minute: number, seed: number, focal = 35): SetCandidate {
  const { image } = shootView(mill, {
    width: W,
    height: H,
    lens: { ...PLAIN_LENS, focalLength: focal },
    stand: { yaw: 0, pitch: 0, roll: 0, ...stand },
    seconds: 0.5 * 2 ** stops,
    iso: 100,
    seed,
  });
  return candidate(image, stops, minute);
}

describe('what a set is', () => {
  test('a handheld bracket', () => {
    const set = recogniseSet([
      shoot({}, 0, 0, 1),
      shoot({ yaw: 0.3 }, -2, 0.02, 2),
      shoot({ roll: 0.4 }, 2, 0.04, 3),
    ]);
    expect(set).toMatchObject({ kind: 'bracket', order: [1, 0, 2], strangers: [] });
  });

  test('a panorama, in any order of the files, and a stranger in it', () => {
    const frames = [-14, -4, 6, 16].map((yaw, i) => shoot({ yaw }, 0, 0.1 * i, 10 + i, 60));
    const noise = frames[0].levels[0];
    const strange = candidate(
      { ...noise, data: Uint8Array.from(noise.data, (_, i) => (i * 7919) % 251) },
      0,
      0.15,
    );
    const set = recogniseSet([frames[2], frames[0], strange, frames[3], frames[1]]);
    expect(set).toMatchObject({ kind: 'panorama', order: [1, 4, 0, 3], strangers: [2] });
  });

  test('a panorama of two rows: where a row ends, the next frame shows another view', () => {
    const rows = [4.5, -4.5].flatMap((pitch) => [-15, -5, 5, 15].map((yaw) => ({ yaw, pitch })));
    // exposures as they are measured where files tell none: a sky is brighter than the ground
    const frames = rows.map((stand, i) => ({
      ...shoot(stand, 0, 0.1 * i, 60 + i, 60),
      stops: stand.pitch > 0 ? -0.4 : 0.3,
    }));
    const set = recogniseSet(frames);
    expect(set.kind).toBe('panorama');
    expect(set.order).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(set.places).toBeUndefined();
    expect(set.why).toMatch(/^8 frames show neighbouring views that share [4-9]\d % /);
  });

  test('a panorama of brackets, by place', () => {
    const frames = [-9, 4].flatMap((yaw, p) =>
      [-1.5, 0, 1.5].map((stops, k) => shoot({ yaw }, stops, p + 0.02 * k, 20 + 3 * p + k, 60)),
    );
    const set = recogniseSet(frames);
    expect(set.kind).toBe('panorama');
    expect(set.places).toEqual([
      [0, 1, 2],
      [3, 4, 5],
    ]);
  });

  test('moments: the same view over an hour', () => {
    const frames = [0, 25, 60].map((minute, i) => shoot({}, 0.8 * i, minute, 30 + i));
    expect(recogniseSet(frames).kind).toBe('moments');
  });

  test('alternates seconds apart, and one file developed twice', () => {
    expect(recogniseSet([shoot({}, 0, 0, 40), shoot({ yaw: 0.4 }, 0, 0.05, 41)]).kind).toBe('swap');
    const dark = shoot({}, -1.5, 0, 42);
    const light = shoot({}, 1.5, 0, 42);
    // the files tell one exposure; the pixels two
    expect(
      recogniseSet([
        { ...dark, stops: 0 },
        { ...light, stops: 0 },
      ]).kind,
    ).toBe('developments');
  });

  test('one view shot with another focal length is no panorama, though the frames share a part only', () => {
    const set = recogniseSet([
      shoot({}, 0, 0, 8),
      shoot({ roll: 9, yaw: 2 }, 0, 0.05, 9, 42),
      shoot({ roll: -6, yaw: -2 }, 0, 0.1, 10, 45),
    ]);
    expect(set).toMatchObject({ kind: 'swap', strangers: [] });
  });

  test('a focus set: sharp in different places', () => {
    const distance = new Float32Array(mill.light.width * mill.light.height);
    for (let i = 0; i < distance.length; i++)
      distance[i] = Math.floor(i / mill.light.width) < mill.light.height / 2 ? 20 : 2;
    const frames = [2, 20].map((focus, i) => {
      const { image } = shootView(
        { ...mill, distance },
        {
          width: W,
          height: H,
          lens: { ...PLAIN_LENS, focalLength: 50, aperture: 2, focus },
          stand: { yaw: 0, pitch: 0, roll: 0 },
          seconds: 0.05,
          iso: 100,
          seed: 50 + i,
        },
      );
      return candidate(image, 0, 0.1 * i);
    });
    expect(recogniseSet(frames).kind).toBe('focus');
  });

  test('a stack of a starry sky', () => {
    const frames = [0, 1, 2].map((i) => {
      const sky = nightSky(FERROW_SKY, { width: W, height: H, dx: 2 * i, dy: i, turn: 0.3 * i, trail: 0 });
      const raster = { ...sky, planes: sky.planes.map((p) => p.map((v) => 2.2 * v)) };
      return candidate(readSensor(raster, { fullWell: 1800, readNoise: 3 }, i + 1).image, 0, i);
    });
    const set = recogniseSet(frames);
    expect(set.kind).toBe('stack');
    expect(set.why).toContain('starry');
  });
});

test('each kind has its order and its reference', () => {
  const frame = (stops: number, minute: number, sharpness: number, loss: number) => ({
    width: 10,
    height: 10,
    stops,
    clipped: { light: loss, dark: 0 },
    facts: { taken: `2026-10-03T18:0${minute}:00` },
    sharpness,
  });
  const frames = [frame(2, 2, 0.5, 0.3), frame(-2, 0, 0.6, 0.2), frame(0, 1, 0.9, 0.25)];
  expect(arrangeSet('bracket', frames).order).toEqual([1, 2, 0]);
  expect(arrangeSet('focus', frames)).toMatchObject({ order: [1, 2, 0], reference: 2 });
  expect(arrangeSet('stack', frames).reference).toBe(2);
  expect(arrangeSet('swap', frames).reference).toBe(1);
  expect(arrangeSet('moments', frames).reference).toBe(1);
});
