import { hueStep } from './hueMove';

/** how far a hue reaches where no other stands nearer, degrees */
const REACH = 60;

/**
 * How far each of some hues counts at a hue, 0…1 each: whole at its own place, down to nothing at its neighbour's by a raised cosine, so that
 * between neighbours they add up to 1; where the next one is far, hues between them are left alone.
 * @param places degrees of Oklab, no two alike
 * @param hue degrees
 */
export function hueWeights(places: readonly number[], hue: number): number[] {
  return places.map((own) => {
    const off = hueStep(own, hue);
    const reach = places.reduce((nearest, other) => {
      if (other === own) return nearest;
      // the next on the side that the hue lies on
      const step = hueStep(own, other);
      const away = Math.sign(step) === Math.sign(off) ? Math.abs(step) : 360 - Math.abs(step);
      return Math.min(nearest, away);
    }, REACH);
    const along = Math.min(1, Math.abs(off) / reach);
    return 0.5 + 0.5 * Math.cos(Math.PI * along);
  });
}
