/** Noise of a camera's linear signal, white = 1: variance = shot · signal + read². */
export interface NoiseModel {
  readonly shot: number;
  /** standard deviation in the dark */
  readonly read: number;
}

/** A full well of 30 000 electrons read with 6 electrons of noise: a middling sensor at its base sensitivity (common practice). */
export const MIDDLING: NoiseModel = { shot: 1 / 30000, read: 6 / 30000 };

/** Variance of linear light 0…1 that was stored as an sRGB code of `white`; rounding adds a twelfth of a step squared. */
export function signalVariance(linear: number, step: number, { shot, read }: NoiseModel): number {
  return shot * Math.max(0, linear) + read * read + (step * step) / 12;
}
