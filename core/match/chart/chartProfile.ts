import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { deltaE2000, type Lab, labOf } from '../../colour/deltaE';
import { CHART_LAB, CHART_LIGHT, FIRST_NEUTRAL, luminance, type PatchLight } from './chartPatches';
import { type PatchColour } from './chartColours';
import { length2 } from '../../raster/length';

/** What a chart says of the colours of a frame. */
export interface ChartProfile {
  /** 3 × 3, row by row: linear light as it was recorded → as the chart is published; the luminance of its greys stays */
  readonly matrix: readonly number[];
  readonly differences: ChartDifferences;
}

/** CIEDE2000 of the patches of a chart to the published ones, exposure set alike. */
export interface ChartDifferences {
  /** of each patch, with the light that comes out; undefined for one that is clipped */
  readonly patches: readonly (
    { readonly before: number; readonly after: number; readonly light: PatchLight } | undefined
  )[];
  /** means over the patches that can be told */
  readonly before: number;
  readonly after: number;
}

/** patches that a profile wants at least */
const LEAST_PATCHES = 12;
const LEAST_GREYS = 2;
const ROUNDS = 25;
/** what holds the mixing of channels back, per unit of it: noise of the patches is not fitted */
const HELD = 0.4;
/** how much more a grey weighs: a wrong grey is seen first */
const NEUTRAL_WEIGHT = 2;

/**
 * Solves white balance and a 3 × 3 matrix from the patches of a chart by least squares in CIE L*a*b*, chroma weighed as in CIEDE2000
 * (Levenberg & Marquardt; a matrix on linear light as in Finlayson & Drew 1997).
 * @param colours of the 24 patches, row by row
 * @returns undefined where too few patches, or no greys, can be told
 */
export function chartProfile(colours: readonly PatchColour[]): ChartProfile | undefined {
  const told = colours.flatMap(({ clipped }, i) => (clipped ? [] : [i]));
  const greys = told.filter((i) => i >= FIRST_NEUTRAL);
  if (told.length < LEAST_PATCHES || greys.length < LEAST_GREYS) return undefined;
  const own = exposedAlike(colours);
  const matrix = refined(own, told, balanceOf(own, greys));
  return { matrix, differences: chartDifferences(colours, matrix) };
}

/** How far the patches of a chart lie from the published ones, as they were recorded and through a matrix. */
export function chartDifferences(
  colours: readonly PatchColour[],
  matrix: readonly number[],
): ChartDifferences {
  const patches = exposedAlike(colours).map((light, i) => {
    if (colours[i].clipped) return undefined;
    const out = mixed(matrix, light);
    const [before, after] = [light, out].map((l) => deltaE2000(labOf(...l), CHART_LAB[i]));
    return { before, after, light: out };
  });
  const told = patches.filter((p) => p !== undefined);
  const mean = (of: 'before' | 'after'): number =>
    told.reduce((s, p) => s + p[of], 0) / Math.max(1, told.length);
  return { patches, before: mean('before'), after: mean('after') };
}

/** The patches with the exposure of the chart as published, by those of its greys that can be told. */
function exposedAlike(colours: readonly PatchColour[]): PatchLight[] {
  const greys = colours.flatMap(({ clipped }, i) => (clipped || i < FIRST_NEUTRAL ? [] : [i]));
  const stops =
    greys.reduce((s, i) => s + Math.log2(luminance(colours[i].light) / luminance(CHART_LIGHT[i])), 0) /
    Math.max(1, greys.length);
  const gain = 2 ** -stops;
  return colours.map(({ light: [r, g, b] }) => [gain * r, gain * g, gain * b]);
}

function mixed(m: readonly number[], [r, g, b]: PatchLight): PatchLight {
  const row = (c: number): number => m[3 * c] * r + m[3 * c + 1] * g + m[3 * c + 2] * b;
  return [row(0), row(1), row(2)];
}

/** Gains of the channels that make the greys neutral. */
function balanceOf(own: readonly PatchLight[], greys: readonly number[]): number[] {
  const gain = (c: 0 | 1 | 2): number =>
    2 **
    (greys.reduce((s, i) => s + Math.log2(CHART_LIGHT[i][c] / Math.max(1e-5, own[i][c])), 0) / greys.length);
  return [gain(0), 0, 0, 0, gain(1), 0, 0, 0, gain(2)];
}

/** how much a difference of a patch counts along L*, a* and b* */
function weightsOf(i: number): Lab {
  const [, a, b] = CHART_LAB[i];
  const chroma = 1 / (1 + 0.045 * length2(a, b));
  const own = i >= FIRST_NEUTRAL ? NEUTRAL_WEIGHT : 1;
  return [own, own * chroma, own * chroma];
}

/** Differences to the chart as published, weighed, and what holds the matrix to `start`. */
function residualsOf(
  m: readonly number[],
  own: readonly PatchLight[],
  told: readonly number[],
  start: readonly number[],
): number[] {
  return [
    ...told.flatMap((i) => {
      const [lab, weights] = [labOf(...mixed(m, own[i])), weightsOf(i)];
      return lab.map((v, c) => weights[c] * (v - CHART_LAB[i][c]));
    }),
    // relative to the gain of the channel that is mixed in
    ...m.map((v, k) => (HELD * (v - start[k])) / start[4 * (k % 3)]),
  ];
}

const squared = (list: readonly number[]): number => list.reduce((s, v) => s + v * v, 0);

function refined(own: readonly PatchLight[], told: readonly number[], start: readonly number[]): number[] {
  const STEP = 1e-5;
  let m = [...start];
  let now = residualsOf(m, own, told, start);
  let damping = 1e-3;
  for (let round = 0; round < ROUNDS; round++) {
    const columns = m.map((v, k) => {
      const moved = residualsOf(m.with(k, v + STEP), own, told, start);
      return moved.map((r, i) => (r - now[i]) / STEP);
    });
    const normal = Matrix.zeros(9, 9);
    const right = Matrix.zeros(9, 1);
    columns.forEach((p, j) => {
      columns.forEach((q, k) =>
        normal.set(
          j,
          k,
          p.reduce((s, v, i) => s + v * q[i], 0),
        ),
      );
      right.set(j, 0, -p.reduce((s, v, i) => s + v * now[i], 0));
      normal.set(j, j, normal.get(j, j) * (1 + damping));
    });
    const by = new CholeskyDecomposition(normal).solve(right).to1DArray();
    const next = m.map((v, k) => v + by[k]);
    const residuals = residualsOf(next, own, told, start);
    if (squared(residuals) < squared(now)) {
      const gained = 1 - squared(residuals) / squared(now);
      [m, now] = [next, residuals];
      damping /= 5;
      if (gained < 1e-7) break;
    } else damping *= 8;
  }
  return m;
}
