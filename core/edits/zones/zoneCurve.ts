/** A zone of tone that is moved: where it lies and by how much, stops from middle grey 0.18. */
export interface ZoneMove {
  readonly at: number;
  readonly by: number;
}

/** Rungs of the zone ladder: black, dark, middle, light and white point, stops from middle grey. White of sRGB lies at +2.47. */
export const RUNGS = [-6, -3, 0, 1.5, 2.4] as const;

/** Least rise of the curve: a tone may be flattened, never turned over. */
const LEAST_RISE = 0.02;

/**
 * The map of tones, stops in to stops out, through the moved zones: monotone cubic interpolation (Fritsch & Carlson 1980), slope 1
 * beyond the ends. Zones whose moves would cross are held apart.
 */
export function zoneCurve(zones: readonly ZoneMove[]): (stops: number) => number {
  const moved = zones.slice().sort((a, b) => a.at - b.at);
  if (moved.length === 0 || moved.every((z) => z.by === 0)) return (s) => s;
  const xs = moved.map((z) => z.at);
  const ys = moved.map((z) => z.at + z.by);
  for (let i = 1; i < ys.length; i++) ys[i] = Math.max(ys[i], ys[i - 1] + LEAST_RISE * (xs[i] - xs[i - 1]));
  const n = xs.length;
  if (n === 1) return (s) => s + ys[0] - xs[0];
  const secants = Array.from({ length: n - 1 }, (_, i) => (ys[i + 1] - ys[i]) / (xs[i + 1] - xs[i]));
  const slopes = xs.map((_, i) => {
    // the ends run on with slope 1, so they meet their neighbours halfway
    if (i === 0) return harmonic(1, secants[0]);
    if (i === n - 1) return harmonic(secants[n - 2], 1);
    return harmonic(secants[i - 1], secants[i]);
  });
  return (s) => {
    if (s <= xs[0]) return s + ys[0] - xs[0];
    if (s >= xs[n - 1]) return s + ys[n - 1] - xs[n - 1];
    let i = 0;
    while (s > xs[i + 1]) i++;
    const h = xs[i + 1] - xs[i];
    const t = (s - xs[i]) / h;
    const u = 1 - t;
    return (
      ys[i] * (1 + 2 * t) * u * u +
      ys[i + 1] * t * t * (3 - 2 * t) +
      h * (slopes[i] * t * u * u - slopes[i + 1] * t * t * u)
    );
  };
}

/** The slope that keeps a cubic between two secants monotone. */
function harmonic(a: number, b: number): number {
  return a > 0 && b > 0 ? (2 * a * b) / (a + b) : 0;
}
