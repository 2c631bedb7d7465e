import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { exposeFrame, SENSOR } from './exposeFrame';
import { type Shot } from './bracketShots';
import { frameToScene } from './pose';
import { type Sensor } from './readSensor';

/** A frame as it was shot, with what is known about it. */
export interface ShotFrame {
  readonly shot: Shot;
  readonly image: EncodedImage;
  /** frame pixel → scene pixel: the truth that a fit is held against */
  readonly toScene: Matrix3;
}

export interface ShootOptions {
  readonly width: number;
  readonly height: number;
  /** horizontal field of the scene's picture, degrees */
  readonly sceneField: number;
  /** focal length of the frames, pixels; the scene's own when left out */
  readonly focalPx?: number;
  /** sensor signal of an exposure of 0 EV for scene radiance 1 */
  readonly gain: number;
  readonly seed: number;
  readonly sensor?: Sensor;
}

/** Shoots one frame of a plan. */
export function shootFrame(scene: Raster, shot: Shot, index: number, options: ShootOptions): ShotFrame {
  const focal = scene.width / 2 / Math.tan((options.sceneField * Math.PI) / 360);
  const { width, height } = options;
  const toScene = frameToScene(
    { width: scene.width, height: scene.height, focalPx: focal },
    { width, height, focalPx: options.focalPx ?? focal },
    shot.pose,
  );
  const image = exposeFrame(scene, {
    width,
    height,
    frameToScene: toScene,
    gain: options.gain * 2 ** shot.stops,
    sensor: options.sensor ?? SENSOR,
    seed: options.seed + 101 * index,
  });
  return { shot, image, toScene };
}
