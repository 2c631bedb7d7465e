import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { normalSource, randomSource } from '@/core/raster/random';
import { encodeClipped } from '@/core/raster/srgb';

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

/** Lens blur, standard deviation in frame pixels: FWHM = 2.3548 σ = 1.06 px. */
const LENS_SIGMA = 0.45;
/** least blur in scene pixels for which samples of the render stay free of its grid */
const LEAST_SCENE_SIGMA = 0.55;

const PHASES = 1024;

/** Gaussian weights that sum to 1 for every 1/1024 of a pixel from −½ to ½ off the middle tap. */
function gaussianPhases(sigma: number, reach: number): Float64Array {
  const taps = 2 * reach + 1;
  const table = new Float64Array((PHASES + 1) * taps);
  for (let p = 0; p <= PHASES; p++) {
    const offset = p / PHASES - 0.5;
    let sum = 0;
    for (let t = 0; t < taps; t++) {
      const d = t - reach - offset;
      sum += table[p * taps + t] = Math.exp((-0.5 * d * d) / (sigma * sigma));
    }
    for (let t = 0; t < taps; t++) table[p * taps + t] /= sum;
  }
  return table;
}

/**
 * Light of the scene on the sensor before noise, 1 = full well, through a Gaussian point spread.
 * @returns three planes of the frame, linear, unclipped
 */
export function sensorLight(scene: Raster, exposure: Exposure): Raster {
  const { width, height, frameToScene: m, gain } = exposure;
  const { width: W, height: H, planes } = scene;
  const out = [0, 1, 2].map(() => new Float32Array(width * height));
  const spacing = Math.hypot(m[0], m[3]);
  const sigma = Math.max(LEAST_SCENE_SIGMA, LENS_SIGMA * spacing);
  const reach = Math.ceil(3 * sigma);
  const taps = 2 * reach + 1;
  const spread = gaussianPhases(sigma, reach);
  const columns = new Int32Array(taps);
  const [R, G, B] = planes;
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const d = 1 / (m[6] * x + m[7] * y + m[8]);
      const u = (m[0] * x + m[1] * y + m[2]) * d;
      const v = (m[3] * x + m[4] * y + m[5]) * d;
      const iu = Math.round(u);
      const iv = Math.round(v);
      const px = Math.round((u - iu + 0.5) * PHASES) * taps;
      const py = Math.round((v - iv + 0.5) * PHASES) * taps;
      for (let i = 0; i < taps; i++) {
        const at = iu - reach + i;
        columns[i] = at < 0 ? 0 : at >= W ? W - 1 : at;
      }
      let r = 0;
      let g = 0;
      let b = 0;
      for (let j = 0; j < taps; j++) {
        const line = iv - reach + j;
        const row = (line < 0 ? 0 : line >= H ? H - 1 : line) * W;
        const wy = spread[py + j];
        for (let i = 0; i < taps; i++) {
          const at = row + columns[i];
          const w = spread[px + i] * wy;
          r += w * R[at];
          g += w * G[at];
          b += w * B[at];
        }
      }
      out[0][o] = r * gain;
      out[1][o] = g * gain;
      out[2][o] = b * gain;
    }
  return { width, height, planes: out };
}

/**
 * An exposure as the camera would hand it over: shot and read noise in electrons, clipping at full well, 8-bit sRGB.
 * Above 20 electrons the Poisson distribution is drawn as a Gaussian of the same mean and variance.
 */
export function exposeFrame(scene: Raster, exposure: Exposure): EncodedImage {
  const light = sensorLight(scene, exposure);
  const { fullWell, readNoise } = exposure.sensor;
  const uniform = randomSource(exposure.seed);
  const normal = normalSource(uniform);
  const image = emptyImage(exposure.width, exposure.height, 255);
  const n = exposure.width * exposure.height;
  for (let c = 0; c < 3; c++) {
    const plane = light.planes[c];
    for (let i = 0; i < n; i++) {
      const mean = Math.max(0, plane[i]) * fullWell;
      const shot = mean > 20 ? mean + Math.sqrt(mean) * normal() : poisson(mean, uniform);
      const electrons = Math.min(fullWell, shot) + readNoise * normal();
      image.data[i * 3 + c] = Math.round(255 * encodeClipped(electrons / fullWell));
    }
  }
  return image;
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
