import { type CaptureFacts } from '@/core/capture/captureFacts';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';
import { type Raster } from '@/core/raster/raster';
import { randomSource } from '@/core/raster/random';
import { readSensor, type Sensor } from './readSensor';
import { type Lens, vignetteAt } from './lens';
import { lookThrough, type Stand } from './lookThrough';
import { type SceneView } from './sceneView';

/** One frame of a plan, as a photographer would note it. */
export interface ViewShot {
  readonly width: number;
  readonly height: number;
  readonly lens: Lens;
  readonly stand: Stand;
  readonly seconds: number;
  readonly iso: number;
  /** stops that white balance adds to red and to blue against green */
  readonly balance?: readonly [red: number, blue: number];
  /** stops that a grey filter before the lens takes away */
  readonly filter?: number;
  /** specks of dust on the sensor */
  readonly dust?: number;
  readonly seed: number;
}

/** What is known about a frame because the scene is known. */
export interface ShotTruth {
  /** camera → scene direction */
  readonly turn: Matrix3;
  readonly focalPx: number;
  /** signal of a radiance of 1, in full wells */
  readonly gain: number;
  /** metres along the ray for each pixel */
  readonly distance: Float32Array;
  /** radiance of each pixel with everything sharp */
  readonly sharp: Raster;
  /** [pixel] 1 where a channel is clipped */
  readonly clipped: Uint8Array;
}

/** A frame as it comes out of the stand-in camera. */
export interface ViewFrame {
  /** linear signal, 1 = full well, white balance applied */
  readonly signal: Raster;
  /** developed: 8 bit, sRGB */
  readonly image: EncodedImage;
  readonly truth: ShotTruth;
}

/** Signal of a radiance of 1 at f/1, one second and ISO 100, in full wells (from memory: an ordinary meter's calibration). */
const SENSITIVITY = 105.84;
/** electrons of an ordinary full-frame pixel at ISO 100, and its read noise (from memory) */
const FULL_WELL = 60000;
const READ_NOISE = 3;

/** The sensor at a speed: amplifying leaves less of the well. */
export function sensorAt(iso: number): Sensor {
  return { fullWell: (FULL_WELL * 100) / iso, readNoise: READ_NOISE };
}

/** Shoots one frame of a scene. */
export function shootView(scene: SceneView, shot: ViewShot): ViewFrame {
  const { width, height, lens, seconds, iso, seed } = shot;
  const { light, sharp, distance, focalPx, turn } = lookThrough(scene, lens, shot.stand, width, height);
  const gain =
    (seconds * iso * SENSITIVITY) / (lens.aperture * lens.aperture * 100 * 2 ** (shot.filter ?? 0));
  const shade = shot.dust ? dustShade(width, height, lens.aperture, shot.dust) : undefined;
  const corner = 0.25 * (width * width + height * height);
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2];
  const reaches = new Float32Array(width * height);
  const falls = vignetteBySquare(lens);
  for (let y = 0, i = 0; y < height; y++) {
    const down = (y - cy) * (y - cy);
    for (let x = 0; x < width; x++, i++) {
      const t = (((x - cx) * (x - cx) + down) / corner) * FALL_STEPS;
      const k = t | 0;
      reaches[i] = gain * (falls[k] + (t - k) * (falls[k + 1] - falls[k]));
    }
  }
  if (shade) for (let i = 0; i < reaches.length; i++) reaches[i] *= shade[i];
  const [red, blue] = shot.balance ?? [0, 0];
  const gains = [2 ** red, 1, 2 ** blue];
  const { signal, image, clipped } = readSensor(light, sensorAt(iso), seed, { reaches, gains });
  return { signal, image, truth: { turn, focalPx, gain, distance, sharp, clipped } };
}

const FALL_STEPS = 1024;

/** The vignette in even steps of the square of the radius (half diagonal = 1): its curve is so even that between steps it is off by less than 1e-6. */
function vignetteBySquare(lens: Lens): Float64Array {
  return Float64Array.from({ length: FALL_STEPS + 2 }, (_, i) => vignetteAt(lens, Math.sqrt(i / FALL_STEPS)));
}

/** What the camera writes into the file. */
export function factsOf(shot: ViewShot, taken: string): CaptureFacts {
  return {
    seconds: shot.seconds,
    aperture: shot.lens.aperture,
    iso: shot.iso,
    focalLength: shot.lens.focalLength,
    taken,
    camera: 'Marsh stand-in camera (simulation)',
    lens: `Stand-in ${shot.lens.focalLength} mm`,
    whiteBalance: 'set',
  };
}

/** distance of the dust from the sensor's surface, millimetres of glass as air (from memory) */
const COVER = 1.5;

/**
 * Shadows of specks on the sensor's cover: the light cone of f/N is cover / N wide there, so small openings draw them small and dark, and
 * wide ones wash them out. The specks' places are the camera's own and the same in every frame.
 */
function dustShade(width: number, height: number, aperture: number, count: number): Float32Array {
  const shade = new Float32Array(width * height).fill(1);
  const random = randomSource(20261003);
  const perMm = width / 36;
  const cone = (COVER / aperture / 2) * perMm;
  for (let k = 0; k < count; k++) {
    const [cx, cy] = [random() * width, random() * height];
    const speck = (0.012 + 0.03 * random()) * perMm;
    const radius = speck + cone;
    const depth = Math.min(0.85, (speck / radius) ** 2 * 1.6);
    const reach = Math.ceil(radius + 1);
    for (let y = Math.max(0, Math.floor(cy - reach)); y < Math.min(height, cy + reach); y++)
      for (let x = Math.max(0, Math.floor(cx - reach)); x < Math.min(width, cx + reach); x++) {
        const edge = (radius - Math.hypot(x - cx, y - cy)) / Math.max(1, Math.min(radius, 2 * speck));
        if (edge > 0) shade[y * width + x] *= 1 - depth * Math.min(1, edge);
      }
  }
  return shade;
}
