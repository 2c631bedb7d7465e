import { conjugateGradient } from './conjugateGradient';
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

/**
 * Alpha by the matting Laplacian (Levin, Lischinski & Weiss 2008) over windows of 3 × 3 in linear light. Only unknown pixels are solved for; what
 * is known goes to the right-hand side.
 * @param map trimap
 * @returns [pixel] 0…1
 */
export function closedFormMatte(light: LightGrid, map: Uint8Array, prior: AlphaPrior): Float32Array {
  const { row, places } = unknownRows(map);
  const n = places.length;
  const { matrix, right } = laplacian(light, map, row, n);
  const column = columns(light, row, places);
  const own = new Float64Array(n);
  const diagonal = new Float64Array(n);
  for (let u = 0; u < n; u++) {
    const weight = prior.weight[places[u]];
    own[u] = weight + TIE;
    right[u] += weight * prior.alpha[places[u]] + TIE / 2;
    diagonal[u] = matrix[ROW * u + 12] + own[u];
  }
  const multiply = (x: Float64Array, out: Float64Array): void => {
    for (let u = 0, k = 0; u < n; u++) {
      let sum = own[u] * x[u];
      for (const end = k + ROW; k < end; k++) sum += matrix[k] * x[column[k]];
      out[u] = sum;
    }
  };
  const start = Float64Array.from(places, (i) => prior.alpha[i]);
  const solved = conjugateGradient({ multiply, diagonal, right }, start, STEPS, TOLERANCE);
  const alpha = Float32Array.from(map, (code) => (code === THIS ? 1 : 0));
  for (let u = 0; u < n; u++) alpha[places[u]] = Math.max(0, Math.min(1, solved[u]));
  return alpha;
}

/** [pixel] its row of the system, −1 where it is known; and the pixel of each row. */
function unknownRows(map: Uint8Array): { row: Int32Array; places: Int32Array } {
  const row = new Int32Array(map.length).fill(-1);
  const places: number[] = [];
  for (let i = 0; i < map.length; i++)
    if (map[i] === UNKNOWN) {
      row[i] = places.length;
      places.push(i);
    }
  return { row, places: Int32Array.from(places) };
}

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

/** The rows of the unknown pixels, five by five about each, and what known neighbours bring to the right-hand side. */
function laplacian(
  { width, height, data }: LightGrid,
  map: Uint8Array,
  row: Int32Array,
  n: number,
): { matrix: Float32Array; right: Float64Array } {
  const matrix = new Float32Array(ROW * n);
  const right = new Float64Array(n);
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
        for (let j = 0; j < 9; j++) {
          const alike =
            spread[3 * k] * off[3 * j] +
            spread[3 * k + 1] * off[3 * j + 1] +
            spread[3 * k + 2] * off[3 * j + 2];
          const value = (j === k ? 1 : 0) - (1 + alike) / 9;
          if (row[at[j]] >= 0) {
            const place = (Math.floor(j / 3) - Math.floor(k / 3) + 2) * 5 + (j % 3) - (k % 3) + 2;
            matrix[ROW * u + place] += value;
          } else if (map[at[j]] === THIS) right[u] -= value;
        }
      }
    }
  return { matrix, right };
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
