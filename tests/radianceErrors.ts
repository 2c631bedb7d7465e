import { type EncodedImage } from '@/core/raster/encodedImage';
import { normalSource, randomSource } from '@/core/raster/random';
import { type Raster } from '@/core/raster/raster';
import { linearToSrgb, srgbToLinear } from '@/core/raster/srgb';
import { fitBracket } from '@/engine/fitBracket';
import { fitFrames } from '@/engine/fitFrames';
import { mergeRadiance } from '@/engine/mergeRadiance';
import { inlinePool } from './inlinePool';
import { paint } from './paint';

const [W, H, ROOM] = [480, 320, 16];
/** of the light that a bracket is shot of, pixels */
export const LIT = { width: W + 2 * ROOM, height: H + 2 * ROOM };
const STOPS = [0, -4, -2, 2, 4];
/** of each frame, pixels */
const SHIFTS: readonly (readonly [number, number])[] = [
  [0, 0],
  [7, -4],
  [-5, 9],
  [11, 3],
  [-8, -6],
];
const FULL_WELL = 15000;
/** linear codes between which a frame counts as well exposed */
const WELL = { from: 0.05, to: 0.8 };

/** Light that the middle tones are grey in, whatever the map's unit. */
function middling(map: Raster): Raster {
  const sorted = Float32Array.from(map.planes[1]).sort();
  const scale = 0.18 / sorted[sorted.length >> 1];
  return { ...map, planes: map.planes.map((plane) => plane.map((v) => Math.max(0, v) * scale)) };
}

function shot(map: Raster, stops: number, [dx, dy]: readonly [number, number], seed: number): EncodedImage {
  const normal = normalSource(randomSource(seed));
  const gain = 2 ** stops;
  return paint(W, H, (x, y) => {
    const at = (y + ROOM + dy) * map.width + x + ROOM + dx;
    const code = (plane: Float32Array): number => {
      const signal = Math.min(1.2, plane[at] * gain);
      const noisy = signal + Math.sqrt(signal / FULL_WELL + (4 / FULL_WELL) ** 2) * normal();
      return linearToSrgb(Math.min(1, Math.max(0, noisy)));
    };
    return [code(map.planes[0]), code(map.planes[1]), code(map.planes[2])];
  });
}

/** Relative errors of the means of 5 × 5 pixels, where some frame shows all channels of all of them well. */
function errorsOf(light: (channel: number, at: number) => number, map: Raster): number[] {
  const errors: number[] = [];
  for (let y = 12; y < H - 12; y += 6)
    for (let x = 12; x < W - 12; x += 6) {
      const sums = [0, 0, 0];
      const truths = [0, 0, 0];
      let [least, most] = [Infinity, 0];
      for (let j = -2; j <= 2; j++)
        for (let i = -2; i <= 2; i++)
          for (let c = 0; c < 3; c++) {
            const truth = map.planes[c][(y + j + ROOM) * map.width + x + i + ROOM];
            sums[c] += light(c, (y + j) * W + x + i);
            truths[c] += truth;
            least = Math.min(least, truth);
            most = Math.max(most, truth);
          }
      if (!STOPS.some((ev) => least * 2 ** ev >= WELL.from && most * 2 ** ev <= WELL.to)) continue;
      for (let c = 0; c < 3; c++) errors.push(Math.abs(sums[c] / truths[c] - 1));
    }
  return errors.sort((a, b) => a - b);
}

/** How far the merged light of a bracket is from what it was shot of. */
export interface RadianceErrors {
  /** frames that the fit found a way to */
  readonly fitted: number;
  readonly places: number;
  /** relative */
  readonly worst: number;
  readonly median: number;
}

/** Shoots a bracket of light, fits and merges it, and says how far its light is from the truth. @param light {@link LIT} large, of any unit */
export async function radianceErrors(light: Raster): Promise<RadianceErrors> {
  const map = middling(light);
  const images = STOPS.map((ev, k) => shot(map, ev, SHIFTS[k], 5 + k));
  const pool = inlinePool(1);
  const inputs = images.map((image, k) => ({ image, stops: STOPS[k] }));
  const fits = await fitFrames(pool, inputs, 0, { motion: 'auto' });
  const all = await fitBracket(pool, { frames: inputs, reference: 0, fits }, { motion: 'auto' });
  const frames = inputs.flatMap((f, k) => (all[k].fitted ? [{ ...f, matrix: all[k].matrix }] : []));
  const { image } = await mergeRadiance(pool, frames, W, H, 'srgb', { reference: 0, choices: [] });
  const errors = errorsOf((c, at) => srgbToLinear(image.data[at * 3 + c]), map);
  return {
    fitted: frames.length,
    places: errors.length,
    worst: errors[errors.length - 1] ?? 0,
    median: errors[errors.length >> 1] ?? 0,
  };
}
