import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { gatherLight, LENS_SIGMA, looksOfFrame } from './gatherLight';
import { readSensor, type Sensor } from './readSensor';

/** A small sensor at its lowest speed (from memory). */
export const SENSOR: Sensor = { fullWell: 15000, readNoise: 4 };

/** One exposure of the stand-in camera. */
export interface Exposure {
  readonly width: number;
  readonly height: number;
  /** frame pixel → scene pixel */
  readonly frameToScene: Matrix3;
  /** sensor signal (1 = full well) for scene radiance 1 */
  readonly gain: number;
  readonly sensor: Sensor;
  readonly seed: number;
}

/**
 * Light of the scene on the sensor before noise, 1 = full well, through a Gaussian point spread.
 * @returns three planes of the frame, linear, unclipped
 */
export function sensorLight(scene: Raster, exposure: Exposure): Raster {
  const { width, height, frameToScene: m, gain } = exposure;
  const looks = looksOfFrame(width, height, (x, y, at) => {
    const d = 1 / (m[6] * x + m[7] * y + m[8]);
    at[0] = (m[0] * x + m[1] * y + m[2]) * d;
    at[1] = (m[3] * x + m[4] * y + m[5]) * d;
  });
  const planes = gatherLight({ light: scene }, looks, LENS_SIGMA * Math.hypot(m[0], m[3]));
  for (const light of planes) for (let i = 0; i < light.length; i++) light[i] *= gain;
  return { width, height, planes };
}

/** An exposure as the camera would hand it over: read from the sensor and developed. */
export function exposeFrame(scene: Raster, exposure: Exposure): EncodedImage {
  return readSensor(sensorLight(scene, exposure), exposure.sensor, exposure.seed).image;
}
