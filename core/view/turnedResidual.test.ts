import { beforeAll, expect, test } from '@jest/globals';
import { PLAIN_LENS } from '@/camera/lens';
import { rotation } from '@/camera/pose';
import { shootView } from '@/camera/shootView';
import { realEnvironment } from '@/tests/knownScene';
import { placeCanvas } from '../merge/panorama/canvas';
import { frameOnCanvas } from '../merge/panorama/frameOnCanvas';
import { transposed } from '../raster/matrix3';
import { renderView } from './renderView';
import { turnedResidual } from './turnedResidual';
import { type TurnedSet, type ViewScene } from './viewScene';

const [W, H, FOCAL] = [240, 200, 260];
const YAWS = [-14, 14];
let frames: TurnedSet['frames'];
let right: TurnedSet;

const setOf = (yaws: readonly number[], stops: readonly number[]): TurnedSet => {
  const rotations = yaws.map((yaw) => transposed(rotation({ yaw, pitch: 0, roll: 0 })));
  const fit = { lens: { focalPx: FOCAL, k1: 0, width: W, height: H }, rotations, pairs: [] };
  return {
    fit,
    canvas: placeCanvas(fit, 'rectilinear'),
    reference: 0,
    frames: frames.map((frame, i) => ({ ...frame, stops: stops[i] })),
  };
};

beforeAll(() => {
  const light = realEnvironment('city', 1400, 700);
  const lens = { ...PLAIN_LENS, focalLength: (FOCAL * 36) / W, aperture: 2.8 };
  frames = YAWS.map((yaw, i) => {
    const stand = { yaw, pitch: 0, roll: 0 };
    const shot = { width: W, height: H, lens, stand, seconds: 0.006 * 2 ** i, iso: 100, seed: i };
    const scene = { light, field: { kind: 'round', across: 360, down: 180 } as const };
    return { levels: [shootView(scene, shot).image], stops: i };
  });
  right = setOf(YAWS, [0, 1]);
}, 60_000);

/** Root mean square of what is compared, codes of 255. */
function rms(set: TurnedSet): number {
  const area = { x: 0, y: 0, width: set.canvas.width, height: set.canvas.height };
  const { difference, compared } = turnedResidual(set, 0, area);
  const seen = difference.filter((_, i) => compared[i] === 1);
  return 255 * Math.sqrt(seen.reduce((s, d) => s + d * d, 0) / seen.length);
}

test('frames agree where they overlap, up to noise, and disagree when one is turned wrongly or its exposure is', () => {
  expect(rms(right)).toBeLessThan(5);
  expect(rms(setOf([YAWS[0], YAWS[1] + 0.5], [0, 1]))).toBeGreaterThan(1.6 * rms(right));
  expect(rms(setOf(YAWS, [0, 0]))).toBeGreaterThan(5 * rms(right));
});

test('only places that two frames see are compared, and the sign does not depend on which lies deeper', () => {
  const { width, height } = right.canvas;
  const { compared } = turnedResidual(right, 0, { x: 0, y: 0, width, height });
  const middle = Math.floor(height / 2) * width;
  const row = Array.from(compared.subarray(middle, middle + width));
  // 28° between the frames, each 49.6° wide
  expect(row.indexOf(1)).toBeGreaterThan(0.3 * width);
  expect(row.lastIndexOf(1)).toBeLessThan(0.7 * width);
  const dark = setOf(YAWS, [0, 0]);
  const { difference } = turnedResidual(dark, 0, { x: 0, y: 0, width, height });
  const seen = row.flatMap((c, x) => (c ? [difference[middle + x]] : []));
  expect(seen.filter((d) => d < 0).length).toBeGreaterThan(0.97 * seen.length);
});

test('the view is drawn from it: mid grey where frames agree, at every level', () => {
  const { width, height } = right.canvas;
  const scene: ViewScene = { width, height, set: { width, height, frames: [], turned: right } };
  for (const level of [0, 1]) {
    const [w, h] = [Math.floor(scene.width / 2 ** level / 2), Math.floor(scene.height / 2 ** level / 2)];
    const area = { x: w - 10, y: h - 10, width: 20, height: 20 };
    const view = { kind: 'residual', frame: '', gain: 1 } as const;
    const rgba = renderView(scene, view, level, area, 'bilinear');
    const mean = rgba.filter((_, i) => i % 4 === 1).reduce((s, v) => s + v, 0) / 400;
    expect(Math.abs(mean - 127)).toBeLessThan(8);
  }
});

test('before the fit stands the reference alone, where it lies on the paper', () => {
  const { width, height } = right.canvas;
  const turned = { ...right, reference: 1 };
  const scene: ViewScene = { width, height, set: { width, height, frames: [], turned } };
  const whole = { x: 0, y: 0, width, height };
  for (const finished of [false, true]) {
    const rgba = renderView(scene, { kind: 'reference', finished }, 0, whole, 'lanczos');
    const row = (height >> 1) * width * 4;
    const seen = Array.from({ length: width }, (_, x) => rgba[row + 4 * x + 1] > 0);
    // the right one of two frames, 49.6° of 77.6°
    expect(seen.indexOf(true)).toBeGreaterThan(0.25 * width);
    expect(seen.lastIndexOf(true)).toBeGreaterThan(0.95 * width);
    // in its middle it shows what the frame shows there
    const [frame] = turned.frames[1].levels ?? [];
    const lens = { focalPx: FOCAL, k1: 0, width: W, height: H };
    const rotation = turned.fit.rotations[1] ?? [1, 0, 0, 0, 1, 0, 0, 0, 1];
    const drawn = frameOnCanvas(frame, lens, rotation, turned.canvas, whole, {
      kernel: 'lanczos',
      radius: false,
    });
    expect(drawn).toBeDefined();
    const at = (height >> 1) * width + Math.round(0.7 * width);
    expect(Math.abs(rgba[4 * at] - 255 * (drawn?.planes[0][at] ?? 0))).toBeLessThanOrEqual(1);
  }
  const nobody: ViewScene = { ...scene, set: { ...scene.set, turned: { ...turned, reference: -1 } } };
  const empty = renderView(nobody, { kind: 'reference', finished: false }, 0, whole, 'lanczos');
  expect(empty.every((v, i) => v === (i % 4 === 3 ? 255 : 0))).toBe(true);
});
