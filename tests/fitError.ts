import { bracketShots } from '@/camera/bracketShots';
import { DEMO_BRACKET, SCENE_FIELD } from '@/camera/demoPlan';
import { type Pose } from '@/camera/pose';
import { shootFrame, type ShotFrame } from '@/camera/shootBracket';
import { type Matrix3, invert, multiply, transform } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { randomSource } from '@/core/raster/random';

/** Root mean square and largest distance between a fitted and the true map, over the pixels both frames see. */
export function fitError(
  fitted: Matrix3,
  truth: Matrix3,
  width: number,
  height: number,
): { rms: number; worst: number; seen: number } {
  let sum = 0;
  let worst = 0;
  let n = 0;
  let total = 0;
  for (let j = 0; j <= 40; j++)
    for (let i = 0; i <= 60; i++, total++) {
      const [x, y] = [(i / 60) * (width - 1), (j / 40) * (height - 1)];
      const [u, v] = transform(truth, x, y);
      if (u < 0 || v < 0 || u > width - 1 || v > height - 1) continue;
      const [a, b] = transform(fitted, x, y);
      const d = Math.hypot(a - u, b - v);
      sum += d * d;
      worst = Math.max(worst, d);
      n++;
    }
  return { rms: Math.sqrt(sum / n), worst, seen: n / total };
}

export interface KnownSet {
  readonly frames: readonly ShotFrame[];
  /** reference pixel → pixel of frame k; the reference is frame 0 */
  readonly truth: (k: number) => Matrix3;
}

export interface KnownSetOptions {
  readonly width: number;
  readonly height: number;
  readonly stops: readonly number[];
  /** largest shift, pixels, and turn, degrees */
  readonly shift: number;
  readonly turn: number;
  readonly gain: number;
  readonly seed: number;
}

/** A handheld set of a scene with exactly known geometry: the first frame is the reference at 0 EV. */
export function knownSet(scene: Raster, options: KnownSetOptions): KnownSet {
  const { width, height, stops, shift, turn, gain, seed } = options;
  const sceneFocal = scene.width / 2 / Math.tan((SCENE_FIELD * Math.PI) / 360);
  // room for shift and turn on every side
  const margin = 1 + (2.2 * shift) / width + (turn * Math.PI) / 180;
  const focalPx = sceneFocal * (width / scene.width) * margin;
  const random = randomSource(seed);
  const between = (limit: number): number => limit * (2 * random() - 1);
  const shots = bracketShots({ ...DEMO_BRACKET, stops, seed });
  const frames = shots.map((shot, k) => {
    const degrees = (px: number): number => (Math.atan(px / focalPx) * 180) / Math.PI;
    const pose: Pose =
      k === 0
        ? { yaw: 0, pitch: 0, roll: 0 }
        : { yaw: degrees(between(shift)), pitch: degrees(between(shift)), roll: between(turn) };
    return shootFrame(scene, { ...shot, pose }, k, {
      width,
      height,
      sceneField: SCENE_FIELD,
      focalPx,
      gain,
      seed,
    });
  });
  return { frames, truth: (k) => multiply(invert(frames[k].toScene), frames[0].toScene) };
}
