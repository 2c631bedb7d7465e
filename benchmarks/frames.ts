import { millAtDusk } from '@/tests/knownScene';
import { knownSet } from '@/tests/fitError';
import { type EncodedImage } from '@/core/raster/encodedImage';
import { type Matrix3 } from '@/core/raster/matrix3';

/** A handheld bracket of the stand-in scene with known geometry; the first frame is the reference. */
export interface BenchSet {
  readonly width: number;
  readonly height: number;
  readonly stops: readonly number[];
  readonly images: readonly EncodedImage[];
  /** reference pixel → frame pixel */
  readonly truth: readonly Matrix3[];
}

const STOPS = [0, -4, -2, 2, 4];

export function benchSet(width: number, height: number): BenchSet {
  const set = knownSet(millAtDusk(), { width, height, stops: STOPS, shift: 40, turn: 1, gain: 0.9, seed: 3 });
  return {
    width,
    height,
    stops: STOPS,
    images: set.frames.map((f) => f.image),
    truth: STOPS.map((_, k) => set.truth(k)),
  };
}
