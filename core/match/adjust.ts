/** A zone of tone that is moved: where it lies and by how much, stops from middle grey 0.18. */
export interface ZoneMove {
  readonly at: number;
  readonly by: number;
}

/** A patch that should be neutral: where it was taken and the gains of linear R, G, B that make it so. */
export interface Neutral {
  /** middle of the patch, full-size pixels of the reference */
  readonly x: number;
  readonly y: number;
  /** mean codes of the patch when it was taken, 0…255 */
  readonly before: readonly [number, number, number];
  /** gains of linear light; the patch keeps its luminance */
  readonly gains: readonly [number, number, number];
}

/** A change of tone and colour, for a set, a layer or the whole. */
export interface Adjust {
  readonly neutral?: Neutral;
  /** sorted from dark to light, those that hold still too; tones between follow smoothly, beyond the ends they move with the last */
  readonly zones: readonly ZoneMove[];
  /** factor on the chroma of Oklab; 1 leaves it */
  readonly saturation: number;
}

export const NO_ADJUST: Adjust = { zones: [], saturation: 1 };

/** Rungs of the zone ladder: black, dark, middle, light and white point, stops from middle grey. White of sRGB lies at +2.47. */
export const RUNGS = [-6, -3, 0, 1.5, 2.4] as const;

/** Whether it changes anything. */
export function adjusts({ neutral, zones, saturation }: Adjust): boolean {
  return neutral !== undefined || saturation !== 1 || zones.some((z) => z.by !== 0);
}
