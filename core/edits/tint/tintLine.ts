/** Colour that is added at a tone. */
export interface TintPoint {
  /** tone, stops from middle grey 0.18 */
  readonly at: number;
  /** hue of Oklab, degrees */
  readonly hue: number;
  /** chroma of Oklab that is added */
  readonly strength: number;
}

/** What is added to a and b of Oklab. */
export type Tint = readonly [a: number, b: number];

/** Where a tint line begins: darks and lights, none of them tinted; warm lights and cool darks are common practice. */
export const TINT_START: readonly TintPoint[] = [
  { at: -4, hue: 250, strength: 0 },
  { at: 1, hue: 50, strength: 0 },
];

/** Lightness below which a tint fades out: black has no room for colour. */
const DARK = 0.2;

/** How much of a tint a tone takes: all but in the deepest darks, 0…1. @param lightness of Oklab */
export function tintRoom(lightness: number): number {
  const room = Math.min(1, Math.max(0, lightness / DARK));
  return room * room * (3 - 2 * room);
}

/**
 * How much each point of a tint line counts at a tone: smooth from point to point (smoothstep), the end ones beyond the ends; sum 1.
 * @param places tones of the points, rising
 */
export function tintShares(places: readonly number[], stops: number): number[] {
  const next = places.findIndex((at) => at > stops);
  if (next <= 0) return places.map((_, i) => (i === (next === 0 ? 0 : places.length - 1) ? 1 : 0));
  const t = (stops - places[next - 1]) / (places[next] - places[next - 1]);
  const share = t * t * (3 - 2 * t);
  return places.map((_, i) => (i === next ? share : i === next - 1 ? 1 - share : 0));
}

/** The tint along tone, before black takes it back. @param points in any order */
export function tintLine(points: readonly TintPoint[]): (stops: number) => Tint {
  const line = points.slice().sort((p, q) => p.at - q.at);
  const places = line.map((p) => p.at);
  const tints = line.map(({ hue, strength }): Tint => {
    const angle = (hue * Math.PI) / 180;
    return [strength * Math.cos(angle), strength * Math.sin(angle)];
  });
  return (stops) =>
    tintShares(places, stops).reduce<Tint>(
      ([a, b], share, i) => [a + share * tints[i][0], b + share * tints[i][1]],
      [0, 0],
    );
}
