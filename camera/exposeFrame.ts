import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { randomSource, tabledNormals } from '@/core/raster/random';
import { encodeClipped } from '@/core/raster/srgb';
import { gatherLight, LENS_SIGMA, looksOfFrame } from './gatherLight';

/** What a pixel of the sensor holds and adds. Values of an ordinary full-frame sensor (from memory). */
export interface Sensor {
  /** electrons at saturation at the set sensitivity */
  readonly fullWell: number;
  /** read noise, electrons rms */
  readonly readNoise: number;
}

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
  const planes = gatherLight(scene, looks, LENS_SIGMA * Math.hypot(m[0], m[3]));
  for (const light of planes) for (let i = 0; i < light.length; i++) light[i] *= gain;
  return { width, height, planes };
}

/**
 * What the sensor hands over for light on it (1 = full well): shot and read noise in electrons, clipping at full well.
 * Above 20 electrons the Poisson distribution is drawn as a Gaussian of the same mean and variance.
 * @returns planes of the signal, 0…1 and the read noise beyond
 */
export function readSensor(light: Raster, { fullWell, readNoise }: Sensor, seed: number): Raster {
  const uniform = randomSource(seed);
  const normal = tabledNormals(seed ^ 0x5bd1e995);
  const readSquare = readNoise * readNoise;
  // eight standard deviations below the full well: m + 8 √m = full well
  const free = (Math.sqrt(16 + fullWell) - 4) ** 2;
  const planes = light.planes.map((plane) => {
    const signal = new Float32Array(plane.length);
    for (let i = 0; i < plane.length; i++) {
      const mean = plane[i] > 0 ? plane[i] * fullWell : 0;
      if (mean > 20 && mean < free) {
        // far from both ends the two kinds of noise add up as one
        signal[i] = (mean + Math.sqrt(mean + readSquare) * normal()) / fullWell;
        continue;
      }
      const shot = mean > 20 ? mean + Math.sqrt(mean) * normal() : poisson(mean, uniform);
      signal[i] = (Math.min(fullWell, shot) + readNoise * normal()) / fullWell;
    }
    return signal;
  });
  return { width: light.width, height: light.height, planes };
}

const DEVELOPED = 65535;
/** sRGB codes of 65 536 even steps of the signal: the middle of a step is off by a twentieth of a code in the darkest tones, less elsewhere */
const CODES = Uint8Array.from({ length: DEVELOPED + 1 }, (_, i) =>
  Math.round(255 * encodeClipped(i / DEVELOPED)),
);

/** A signal developed as 8-bit sRGB. */
export function developSignal({ width, height, planes }: Raster): EncodedImage {
  const image = emptyImage(width, height, 255);
  const { data } = image;
  planes.forEach((plane, c) => {
    for (let i = 0, o = c; i < plane.length; i++, o += 3) {
      const v = plane[i];
      data[o] = v >= 1 ? 255 : v > 0 ? CODES[(v * DEVELOPED + 0.5) | 0] : 0;
    }
  });
  return image;
}

/** A signal as 16-bit codes of linear light, undeveloped. */
export function linearCodes({ width, height, planes }: Raster): EncodedImage {
  const image = emptyImage(width, height, 65535);
  planes.forEach((plane, c) => {
    for (let i = 0, o = c; i < plane.length; i++, o += 3)
      image.data[o] = Math.round(65535 * Math.max(0, Math.min(1, plane[i])));
  });
  return image;
}

/** An exposure as the camera would hand it over: read from the sensor and developed. */
export function exposeFrame(scene: Raster, exposure: Exposure): EncodedImage {
  return developSignal(readSensor(sensorLight(scene, exposure), exposure.sensor, exposure.seed));
}

/** Knuth's product method, for small means. */
function poisson(mean: number, uniform: () => number): number {
  if (mean <= 0) return 0;
  const limit = Math.exp(-mean);
  let k = 0;
  let p = uniform();
  while (p > limit) {
    k++;
    p *= uniform();
  }
  return k;
}
