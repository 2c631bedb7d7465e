import { type LocalColour } from './localColour';
import { length3 } from '../../raster/length';

/** A colour with its own spread: what a brush lies on. */
export interface StartColour {
  /** Oklab */
  readonly mean: readonly [L: number, a: number, b: number];
  /** inverse of its covariance: LL, La, Lb, aa, ab, bb */
  readonly inverse: readonly [number, number, number, number, number, number];
  /** texture in its middle, and its spread, doublings */
  readonly texture: number;
  readonly textureSpread: number;
}

/** spread of a colour that is even: what noise and light do to it, Oklab */
const [LEAST_L, LEAST_AB] = [0.02, 0.009];
/** doublings of texture that are alike everywhere */
const LEAST_TEXTURE = 0.8;
/** part of the pixels, the farthest from the middle, that may belong to something else */
const STRAY = 0.15;

const median = (values: readonly number[]): number => [...values].sort((x, y) => x - y)[values.length >> 1];

/** The colour that most of some pixels have, with how far it spreads. @param at indices of the pixels, at least one */
export function startColour(colour: LocalColour, at: readonly number[]): StartColour {
  const { L, a, b, texture } = colour;
  const middle = [L, a, b].map((plane) => median(at.map((i) => plane[i])));
  const off = (i: number): number => length3((L[i] - middle[0]) / 2, a[i] - middle[1], b[i] - middle[2]);
  const kept = [...at]
    .sort((i, j) => off(i) - off(j))
    .slice(0, Math.max(1, Math.round((1 - STRAY) * at.length)));
  const mean = (plane: Float32Array): number => kept.reduce((sum, i) => sum + plane[i], 0) / kept.length;
  const [mL, ma, mb] = [mean(L), mean(a), mean(b)];
  const covariance = (p: Float32Array, mp: number, q: Float32Array, mq: number): number =>
    kept.reduce((sum, i) => sum + (p[i] - mp) * (q[i] - mq), 0) / kept.length;
  const LL = covariance(L, mL, L, mL) + LEAST_L ** 2;
  const La = covariance(L, mL, a, ma);
  const Lb = covariance(L, mL, b, mb);
  const aa = covariance(a, ma, a, ma) + LEAST_AB ** 2;
  const ab = covariance(a, ma, b, mb);
  const bb = covariance(b, mb, b, mb) + LEAST_AB ** 2;
  const textures = kept.map((i) => texture[i]);
  const ownTexture = median(textures);
  return {
    mean: [mL, ma, mb],
    inverse: inverseOf(LL, La, Lb, aa, ab, bb),
    texture: ownTexture,
    textureSpread: LEAST_TEXTURE + median(textures.map((t) => Math.abs(t - ownTexture))),
  };
}

/** Inverse of a symmetric 3 × 3 that has one, by its cofactors. */
function inverseOf(
  LL: number,
  La: number,
  Lb: number,
  aa: number,
  ab: number,
  bb: number,
): StartColour['inverse'] {
  const [c0, c1, c2] = [aa * bb - ab * ab, Lb * ab - La * bb, La * ab - Lb * aa];
  const whole = LL * c0 + La * c1 + Lb * c2;
  return [
    c0 / whole,
    c1 / whole,
    c2 / whole,
    (LL * bb - Lb * Lb) / whole,
    (La * Lb - LL * ab) / whole,
    (LL * aa - La * La) / whole,
  ];
}

/** least lightness that a colour can be told at, Oklab */
const DARKEST = 0.02;

/**
 * How far a colour lies from another where more or less light may fall on it: light that is k times as strong makes all three of Oklab ∛k times as large, so both are
 * compared at the same lightness.
 */
export function materialDistance(of: StartColour, L: number, a: number, b: number): number {
  const k = of.mean[0] / Math.max(DARKEST, L);
  return colourDistance(of, of.mean[0], a * k, b * k);
}

/** How far a colour lies from another, in its spreads (Mahalanobis 1936). */
export function colourDistance({ mean, inverse }: StartColour, L: number, a: number, b: number): number {
  const [x, y, z] = [L - mean[0], a - mean[1], b - mean[2]];
  const [LL, La, Lb, aa, ab, bb] = inverse;
  return Math.sqrt(
    Math.max(0, LL * x * x + aa * y * y + bb * z * z + 2 * (La * x * y + Lb * x * z + ab * y * z)),
  );
}
