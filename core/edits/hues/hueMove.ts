/** A hue of the picture, and what becomes of it. */
export interface HueMove {
  /** hue of Oklab that it lies at, degrees 0…360 */
  readonly at: number;
  /** degrees that it is turned by, −180…180 */
  readonly turn: number;
  /** factor of its chroma; 1 leaves it */
  readonly chroma: number;
  /** stops that it is lightened by */
  readonly light: number;
}

/** A hue that nothing becomes of. */
export const still = (at: number): HueMove => ({ at, turn: 0, chroma: 1, light: 0 });

export const moves = ({ turn, chroma, light }: HueMove): boolean => turn !== 0 || chroma !== 1 || light !== 0;

/** Degrees 0…360. */
export const wholeTurn = (degrees: number): number => ((degrees % 360) + 360) % 360;

/** The way from one hue to another, the shorter one, degrees −180…180. */
export const hueStep = (from: number, to: number): number => wholeTurn(to - from + 180) - 180;
