import { conjugateGradient } from './conjugateGradient';
import { type Kernels, kernels, planeBytes } from '../kernels/kernels';
import { type LightGrid } from './lightGrid';
import { THIS, UNKNOWN } from './trimap';

/** What is thought of alpha beforehand, and how much that counts against the picture; one value a pixel. */
export interface AlphaPrior {
  readonly alpha: Float32Array;
  readonly weight: Float32Array;
}

/** of windows of one colour, so that their covariance can be inverted; linear light² */
const EPSILON = 1e-6;
const STEPS = 100;
const TOLERANCE = 3e-3;
/** what keeps a pixel that nothing holds from drifting */
const TIE = 1e-7;
/** neighbours that a row has: 5 × 5 about its pixel */
const ROW = 25;
const MIDDLE = 12;
/** values that a vector of the kernels holds */
const LANES = 4;

/**
 * Alpha by the matting Laplacian (Levin, Lischinski & Weiss 2008) over windows of 3 × 3 in linear light. Only unknown pixels are solved for; what
 * is known goes to the right-hand side.
 * @param map trimap
 * @param compiled null for the plain form, which the compiled one is held against
 * @returns [pixel] 0…1
 */
export function closedFormMatte(
  light: LightGrid,
  map: Uint8Array,
  prior: AlphaPrior,
  compiled: Kernels | null = kernels() ?? null,
): Float32Array {
  const rows = unknownRows(map, light.width, compiled ? LANES : 1);
  const solved = compiled
    ? compiled.borrow(() => solvedWith(compiled, light, map, prior, rows))
    : solvedPlainly(light, map, prior, rows);
  const alpha = new Float32Array(map.length);
  for (let i = 0; i < map.length; i++)
    alpha[i] = map[i] === UNKNOWN ? Math.max(0, Math.min(1, solved[rows.row[i]])) : map[i] === THIS ? 1 : 0;
  return alpha;
}

function solvedPlainly(
  light: LightGrid,
  map: Uint8Array,
  prior: AlphaPrior,
  { row, places }: Rows,
): Float64Array {
  const n = places.length;
  const matrix = new Float32Array(ROW * n);
  const right = new Float64Array(n);
  layLaplacian(light, map, row, matrix, 1, right);
  const column = columns(light, row, places);
  const own = new Float64Array(n);
  const diagonal = new Float64Array(n);
  for (let u = 0; u < n; u++) {
    const weight = prior.weight[places[u]];
    own[u] = weight + TIE;
    right[u] += weight * prior.alpha[places[u]] + TIE / 2;
    diagonal[u] = matrix[ROW * u + MIDDLE] + own[u];
  }
  const multiply = (x: Float64Array, out: Float64Array): void => {
    for (let u = 0, k = 0; u < n; u++) {
      let sum = own[u] * x[u];
      for (const end = k + ROW; k < end; k++) sum += matrix[k] * x[column[k]];
      out[u] = sum;
    }
  };
  const start = Float64Array.from(places, (i) => prior.alpha[i]);
  return conjugateGradient({ multiply, diagonal, right }, start, STEPS, TOLERANCE);
}

/** The same system by kernels: its rows in runs beside each other, the vector laid out as its pixels lie. */
function solvedWith(
  k: Kernels,
  light: LightGrid,
  map: Uint8Array,
  prior: AlphaPrior,
  { row, places }: Rows,
): Float32Array {
  const n = places.length;
  const { width, height } = light;
  const wide = width + 2 * LANES;
  const cells = wide * (height + 4) + 2 * LANES;
  const matrixAt = k.take(4 * ROW * n);
  const [own, x, r, z, p, q, diagonal] = [0, 1, 2, 3, 4, 5, 6].map(() => k.take(planeBytes(n)));
  const dense = k.take(planeBytes(cells));
  const runs = runsOf(places, width, wide);
  const runsAt = k.addresses(runs);
  const count = runs.length / 3;
  // no room is taken from here on: views stay good
  const matrix = k.floats(matrixAt, ROW * n).fill(0);
  const right = new Float64Array(n);
  layLaplacian(light, map, row, matrix, LANES, right);
  k.floats(dense, cells).fill(0);
  const [owns, xs, rs, zs, qs, diagonals] = [own, x, r, z, q, diagonal, p].map((at) =>
    k.floats(at, n).fill(0),
  );
  diagonals.fill(1);
  for (let u = 0; u < n; u++) {
    const place = places[u];
    if (place < 0) continue;
    const weight = prior.weight[place];
    owns[u] = weight + TIE;
    right[u] += weight * prior.alpha[place] + TIE / 2;
    diagonals[u] = matrix[rowStart(u, LANES) + MIDDLE * LANES] + owns[u];
    xs[u] = prior.alpha[place];
  }
  const multiply = (): number => k.multiplyMatte(matrixAt, own, dense, wide, runsAt, count, q);
  k.turnMatte(x, p, 0, dense, runsAt, count);
  multiply();
  let size = 0;
  for (let u = 0; u < n; u++) {
    rs[u] = right[u] - qs[u];
    zs[u] = rs[u] / diagonals[u];
    size += rs[u] * zs[u];
  }
  k.turnMatte(z, p, 0, dense, runsAt, count);
  const least = TOLERANCE * TOLERANCE * size;
  for (let step = 0; step < STEPS && size > least && size > 1e-12; step++) {
    const along = multiply();
    const next = k.stepMatte(x, r, z, p, q, diagonal, size / along, n);
    k.turnMatte(z, p, next / size, dense, runsAt, count);
    size = next;
  }
  return xs.slice();
}

/** Rows of the system that lie beside each other: the first, how many, and where in a grid of `wide` pixels a row with some about it (all in one list). */
function runsOf(places: Int32Array, width: number, wide: number): Int32Array {
  const runs: number[] = [];
  for (let u = 0; u < places.length;) {
    const [x, y] = [places[u] % width, Math.floor(places[u] / width)];
    let many = 1;
    while (places[u + many] === places[u] + many && x + many < width) many++;
    runs.push(u, many, (y + 2) * wide + x + LANES);
    u = Math.ceil((u + many) / LANES) * LANES;
  }
  return Int32Array.from(runs);
}

/** The rows of a system. */
interface Rows {
  /** [pixel] its row, −1 where it is known */
  readonly row: Int32Array;
  /** [row] its pixel, −1 where the row is empty */
  readonly places: Int32Array;
}

/** Gives every unknown pixel a row, in order. @param start of pixels beside each other at a multiple of this; what lies between stays empty */
function unknownRows(map: Uint8Array, width: number, start: number): Rows {
  const row = new Int32Array(map.length).fill(-1);
  const places: number[] = [];
  for (let i = 0; i < map.length; i++)
    if (map[i] === UNKNOWN) {
      const goesOn = i % width > 0 && map[i - 1] === UNKNOWN;
      if (!goesOn) while (places.length % start > 0) places.push(-1);
      row[i] = places.length;
      places.push(i);
    }
  while (places.length % start > 0) places.push(-1);
  return { row, places: Int32Array.from(places) };
}

/** Where a row begins in a matrix whose neighbours lie `ofPlace` apart: rows lie one after the other, or as many as that side by side. */
const rowStart = (u: number, ofPlace: number): number => ROW * (u - (u % ofPlace)) + (u % ofPlace);

/** [row · 25] the row of each neighbour; its own where there is none, with a 0 in the matrix. */
function columns({ width, height }: LightGrid, row: Int32Array, places: Int32Array): Int32Array {
  const column = new Int32Array(ROW * places.length);
  for (let u = 0; u < places.length; u++) {
    const [x, y] = [places[u] % width, Math.floor(places[u] / width)];
    for (let k = 0; k < ROW; k++) {
      const [X, Y] = [x + (k % 5) - 2, y + Math.floor(k / 5) - 2];
      const inside = X >= 0 && Y >= 0 && X < width && Y < height;
      const v = inside ? row[Y * width + X] : -1;
      column[ROW * u + k] = v < 0 ? u : v;
    }
  }
  return column;
}

/** [k · 9 + j] which of the 25 neighbours of pixel k of a window its pixel j is. */
const NEIGHBOUR = Int32Array.from({ length: 81 }, (_, i) => {
  const [k, j] = [Math.floor(i / 9), i % 9];
  return (Math.floor(j / 3) - Math.floor(k / 3) + 2) * 5 + (j % 3) - (k % 3) + 2;
});

/** Lays the rows of the unknown pixels, five by five about each, and what known neighbours bring to the right-hand side. @param ofPlace see rowStart */
function layLaplacian(
  { width, height, data }: LightGrid,
  map: Uint8Array,
  row: Int32Array,
  matrix: Float32Array,
  ofPlace: number,
  right: Float64Array,
): void {
  const off = new Float64Array(27);
  const spread = new Float64Array(27);
  const at = new Int32Array(9);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      let any = false;
      for (let k = 0; k < 9; k++) {
        at[k] = (y - 1 + Math.floor(k / 3)) * width + x - 1 + (k % 3);
        any ||= row[at[k]] >= 0;
      }
      if (!any) continue;
      windowSpread(data, at, off, spread);
      for (let k = 0; k < 9; k++) {
        const u = row[at[k]];
        if (u < 0) continue;
        const first = rowStart(u, ofPlace);
        const [s0, s1, s2] = [spread[3 * k], spread[3 * k + 1], spread[3 * k + 2]];
        for (let j = 0; j < 9; j++) {
          const alike = s0 * off[3 * j] + s1 * off[3 * j + 1] + s2 * off[3 * j + 2];
          const value = (j === k ? 1 : 0) - (1 + alike) / 9;
          const is = map[at[j]];
          if (is === UNKNOWN) matrix[first + ofPlace * NEIGHBOUR[9 * k + j]] += value;
          else if (is === THIS) right[u] -= value;
        }
      }
    }
}

/** Of a window: differences to its mean colour, and those through the inverse of its covariance. */
function windowSpread(data: Float32Array, at: Int32Array, off: Float64Array, spread: Float64Array): void {
  const mean = [0, 0, 0];
  for (let k = 0; k < 9; k++) for (let c = 0; c < 3; c++) mean[c] += data[3 * at[k] + c] / 9;
  let [v00, v01, v02, v11, v12, v22] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < 9; k++) {
    const [r, g, b] = [
      data[3 * at[k]] - mean[0],
      data[3 * at[k] + 1] - mean[1],
      data[3 * at[k] + 2] - mean[2],
    ];
    off[3 * k] = r;
    off[3 * k + 1] = g;
    off[3 * k + 2] = b;
    v00 += r * r;
    v01 += r * g;
    v02 += r * b;
    v11 += g * g;
    v12 += g * b;
    v22 += b * b;
  }
  const floor = EPSILON / 9;
  v00 = v00 / 9 + floor;
  v11 = v11 / 9 + floor;
  v22 = v22 / 9 + floor;
  v01 /= 9;
  v02 /= 9;
  v12 /= 9;
  const c00 = v11 * v22 - v12 * v12;
  const c01 = v02 * v12 - v01 * v22;
  const c02 = v01 * v12 - v02 * v11;
  const c11 = v00 * v22 - v02 * v02;
  const c12 = v01 * v02 - v00 * v12;
  const c22 = v00 * v11 - v01 * v01;
  const scale = 1 / (v00 * c00 + v01 * c01 + v02 * c02);
  for (let k = 0; k < 27; k += 3) {
    const [r, g, b] = [off[k], off[k + 1], off[k + 2]];
    spread[k] = (c00 * r + c01 * g + c02 * b) * scale;
    spread[k + 1] = (c01 * r + c11 * g + c12 * b) * scale;
    spread[k + 2] = (c02 * r + c12 * g + c22 * b) * scale;
  }
}
