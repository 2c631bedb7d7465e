import { linearToSrgb, srgbToLinear } from '../raster/srgb';

/**
 * A change of colour: linear light through a matrix whose rows sum to 1 (greys are left to the curves, so that nothing is said twice), coded as sRGB, then
 * each channel through a rising uniform cubic B-spline.
 */
export interface MatchMap {
  /** 3 × 3, row by row */
  readonly matrix: readonly number[];
  /** coefficients of the spline of each channel; rising coefficients make a rising curve (de Boor 1978) */
  readonly curves: readonly Float64Array[];
}

/** Codes that the splines reach over: what the matrix pushes past white is still told apart. */
const [FROM, TO] = [-0.03, 1.15];
const IDENTITY = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;

/** Distance of a spline's knots, codes. */
export const knotSpacing = (count: number): number => (TO - FROM) / (count - 3);

/** Coefficients of the spline that changes nothing (Greville's abscissae). */
export function straightCurve(count: number): Float64Array {
  return Float64Array.from({ length: count }, (_, i) => FROM + (i - 1) * knotSpacing(count));
}

/** The map that changes nothing. @param count coefficients of each curve */
export function plainMap(count: number): MatchMap {
  return { matrix: IDENTITY, curves: [0, 1, 2].map(() => straightCurve(count)) };
}

/** Where a code lies along a spline: the first of its four coefficients, and how far into their span after the point. */
export function spanOf(code: number, count: number): number {
  return Math.min(Math.max((code - FROM) / knotSpacing(count), 0), count - 3 - 1e-9);
}

/** A curve at a code. */
export function curveAt(curve: Float64Array, code: number): number {
  const along = spanOf(code, curve.length);
  const i = Math.floor(along);
  const t = along - i;
  const s = 1 - t;
  return (
    (s * s * s * curve[i] +
      (3 * t * t * t - 6 * t * t + 4) * curve[i + 1] +
      (-3 * t * t * t + 3 * t * t + 3 * t + 1) * curve[i + 2] +
      t * t * t * curve[i + 3]) /
    6
  );
}

/** One colour, sRGB codes 0…1. */
export function mapColour(
  { matrix: m, curves }: MatchMap,
  [r, g, b]: readonly [number, number, number],
): [number, number, number] {
  const [R, G, B] = [srgbToLinear(r), srgbToLinear(g), srgbToLinear(b)];
  const channel = (c: number): number =>
    curveAt(curves[c], linearToSrgb(Math.max(0, m[3 * c] * R + m[3 * c + 1] * G + m[3 * c + 2] * B)));
  return [channel(0), channel(1), channel(2)];
}

/** The share of a map's numbers that a strength takes, 0…1. @param halfway what it takes at 0.5, see halfwayShare */
export const shareOfStrength = (strength: number, halfway = 0.5): number =>
  strength <= 0 ? 0 : strength ** (Math.log(halfway) / Math.log(0.5));

/** Part of a change, in a straight line of its numbers: it stays rising. @param strength 0 nothing, 1 all of it */
export function withStrength({ matrix, curves }: MatchMap, strength: number): MatchMap {
  return {
    matrix: matrix.map((v, i) => IDENTITY[i] + strength * (v - IDENTITY[i])),
    curves: curves.map((curve) => {
      const straight = straightCurve(curve.length);
      return curve.map((v, i) => straight[i] + strength * (v - straight[i]));
    }),
  };
}
