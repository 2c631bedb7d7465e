import { type Kernels, kernels } from '@/core/kernels/kernels';
import { type EncodedImage, emptyImage } from '@/core/raster/encodedImage';
import { normalQuantile } from '@/core/raster/random';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { DEVELOPED, signalCodes } from './developSignal';

/** What a pixel of the sensor holds and adds. Values of an ordinary full-frame sensor (from memory). */
export interface Sensor {
  /** electrons at saturation at the set sensitivity */
  readonly fullWell: number;
  /** read noise, electrons rms */
  readonly readNoise: number;
}

/** What happens to light on its way through the sensor, where it is not all the same. */
export interface OnSensor {
  /** what light is multiplied by for full wells, for each pixel; 1 when left out */
  readonly reaches?: Float32Array;
  /** white balance: what the signal of each colour is multiplied by; 1 when left out */
  readonly gains?: readonly number[];
}

/** What the sensor hands over. */
export interface SensorReading {
  /** linear signal, 1 = full well, white balance applied */
  readonly signal: Raster;
  /** [pixel] 1 where a channel is clipped */
  readonly clipped: Uint8Array;
  /** the signal developed: 8 bit, sRGB */
  readonly image: EncodedImage;
}

/** share of the well from which a channel counts as clipped */
const FULL = 0.995;
/** electrons up to which the Poisson distribution is drawn as it is; above, as a Gaussian of the same mean and variance */
const FEW = 20;
let normals: Float32Array | undefined;

/** Standard normal numbers in 65 536 even steps of their distribution, none beyond 4.4; made when they are first asked for. */
function normalSteps(): Float32Array {
  normals ??= Float32Array.from({ length: 65536 }, (_, i) => normalQuantile((i + 0.5) / 65536));
  return normals;
}

/** pixels read at a time: what the kernel works on stays in the processor's cache */
const CHUNK = 1 << 16;

/**
 * What the sensor hands over for light on it: shot and read noise in electrons, clipping at full well, developed. The noise of a pixel
 * depends on its number and the seed alone.
 * @param light 1 = full well, or what `reaches` makes that of it
 * @param compiled null for the plain form, which the compiled one is held against
 */
export function readSensor(
  light: Raster,
  { fullWell, readNoise }: Sensor,
  seed: number,
  { reaches, gains = [1, 1, 1] }: OnSensor = {},
  compiled: Kernels | null = kernels() ?? null,
): SensorReading {
  const { width, height } = light;
  const n = width * height;
  const reading: SensorReading = {
    signal: emptyRaster(width, height),
    clipped: new Uint8Array(n),
    image: emptyImage(width, height, 255),
  };
  const even = reaches ?? new Float32Array(Math.min(n, CHUNK)).fill(1);
  const other = seed ^ 0x5bd1e995;
  if (!compiled) {
    for (let c = 0; c < 3; c++)
      readPlain(reading, light.planes[c], even, { fullWell, readNoise }, [seed, other], gains[c], c);
    return reading;
  }
  const { signal, clipped, image } = reading;
  compiled.borrow(() => {
    const [lit, reached, made] = [0, 1, 2].map(() => compiled.take(4 * CHUNK));
    const [full, codes, table] = [CHUNK, 3 * CHUNK, DEVELOPED + 1].map((bytes) => compiled.take(bytes));
    const steps = compiled.upload(normalSteps());
    compiled.bytes(table, DEVELOPED + 1).set(signalCodes());
    for (let from = 0; from < n; from += CHUNK) {
      const count = Math.min(CHUNK, n - from);
      compiled
        .floats(reached, count)
        .set(reaches ? reaches.subarray(from, from + count) : even.subarray(0, count));
      const whole = compiled.bytes(full, count).fill(0);
      light.planes.forEach((plane, c) => {
        compiled.floats(lit, count).set(plane.subarray(from, from + count));
        compiled.readPixels(
          ...[lit, reached, count, fullWell, readNoise, FEW, seed, other, c * n + from, gains[c], FULL],
          ...[steps, made, full, table, codes + c],
        );
        signal.planes[c].set(compiled.floats(made, count), from);
      });
      clipped.set(whole, from);
      image.data.set(compiled.bytes(codes, 3 * count), 3 * from);
    }
  });
  return reading;
}

const STEP = 0x6d2b79f5;

/** Random bits of a draw (mulberry32, public domain, as `randomSource` has it). */
function bitsAt(state: number): number {
  let t = Math.imul(state ^ (state >>> 15), state | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return t ^ (t >>> 14);
}

/** The Poisson distribution turned round at a uniform number (Devroye 1986, ch. X.3: inversion by sequential search). */
function poissonOf(mean: number, uniform: number): number {
  let p = Math.exp(-mean);
  let sum = p;
  let k = 0;
  while (uniform > sum && k < 120) {
    k++;
    p *= mean / k;
    sum += p;
  }
  return k;
}

function readPlain(
  { signal, clipped, image }: SensorReading,
  light: Float32Array,
  reaches: Float32Array,
  { fullWell, readNoise }: Sensor,
  [seed, other]: readonly number[],
  gain: number,
  c: number,
): void {
  const n = light.length;
  const plane = signal.planes[c];
  const steps = normalSteps();
  const developed = signalCodes();
  for (let i = 0; i < n; i++) {
    const mean = Math.max(0, Math.fround(light[i] * reaches[i % reaches.length])) * fullWell;
    const drawn = Math.imul(c * n + i + 1, STEP);
    const bits = bitsAt((seed + drawn) | 0);
    const shot =
      mean > FEW
        ? mean + Math.sqrt(mean) * steps[bits & 65535]
        : poissonOf(mean, (bitsAt((other + drawn) | 0) >>> 0) / 4294967296);
    const v = (Math.min(fullWell, shot) + readNoise * steps[bits >>> 16]) / fullWell;
    if (v >= FULL) clipped[i] = 1;
    plane[i] = v * gain;
    image.data[3 * i + c] = developed[(Math.max(0, Math.min(1, plane[i])) * DEVELOPED + 0.5) | 0];
  }
}
