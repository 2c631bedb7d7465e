import { Matrix, solve } from 'ml-matrix';
import { type EncodedImage } from '../../raster/encodedImage';
import { decodePlane, encodeClipped, srgbToLinear } from '../../raster/srgb';

/** What a background is made of: one smooth curve over the whole picture, or a mesh that follows it from place to place. */
export type BackgroundForm = 'curve' | 'mesh';

/** A smooth background, one polynomial of x and y for each channel, linear light, and what a mesh adds to it. */
export interface SkyBackground {
  readonly degree: number;
  /** [channel][term] of x^i·y^j, x and y from −1 to 1 over the picture */
  readonly terms: readonly (readonly number[])[];
  /** [channel] what is added at the middles of {@link CELLS} × {@link CELLS} cells; absent for a curve */
  readonly mesh?: readonly Float32Array[];
  /** range of the polynomial over the picture, codes of 255 around its mean */
  readonly range: number;
}

const CELLS = 32;
const PASSES = 5;
/** samples beyond so many deviations are no sky: a tree, a cloud, a bright nebula */
const GATE = 2.2;
/** how smooth the mesh is, standard deviation in cells */
const SMOOTH = 1.2;
/** cells to each side that a sample is compared with */
const AROUND = 3;
/** light that falls off from a town changes by less than this share of the sky's from a cell to those around it; a tree by more */
const FALLS_OFF = 0.2;

const powers = (x: number, y: number, degree: number): number[] => {
  const out: number[] = [];
  for (let i = 0; i <= degree; i++) for (let j = 0; i + j <= degree; j++) out.push(x ** i * y ** j);
  return out;
};

/**
 * The gradient of a night sky by a polynomial of low order through the medians of cells, strays left out (common practice). The mesh is what is
 * left of the medians, strays by their neighbours left out, smoothed.
 * @param degree 1 to 4
 */
export function skyBackground(
  { width, height, data, white }: EncodedImage,
  form: BackgroundForm = 'curve',
  degree = 2,
): SkyBackground {
  const samples: { x: number; y: number; value: number[]; weight: number }[] = [];
  for (let r = 0; r < CELLS; r++)
    for (let c = 0; c < CELLS; c++) {
      const lists: number[][] = [[], [], []];
      const [x0, x1] = [Math.floor((c * width) / CELLS), Math.floor(((c + 1) * width) / CELLS)];
      const [y0, y1] = [Math.floor((r * height) / CELLS), Math.floor(((r + 1) * height) / CELLS)];
      const step = Math.max(1, Math.floor((x1 - x0) / 24));
      for (let y = y0; y < y1; y += step)
        for (let x = x0; x < x1; x += step)
          for (let k = 0; k < 3; k++) lists[k].push(data[(y * width + x) * 3 + k]);
      if (lists[0].length === 0) continue;
      const value = lists.map((l) => srgbToLinear(middle(l) / white));
      samples.push({ x: (2 * (c + 0.5)) / CELLS - 1, y: (2 * (r + 0.5)) / CELLS - 1, value, weight: 1 });
    }
  const size = powers(0, 0, degree).length;
  let terms: number[][] = [];
  for (let pass = 0; pass < PASSES; pass++) {
    terms = [0, 1, 2].map((k) => {
      const A = Matrix.zeros(size, size);
      const b = Matrix.zeros(size, 1);
      for (const s of samples) {
        if (s.weight === 0) continue;
        const row = powers(s.x, s.y, degree);
        row.forEach((p, i) => {
          b.set(i, 0, b.get(i, 0) + p * s.value[k]);
          row.forEach((q, j) => A.set(i, j, A.get(i, j) + p * q));
        });
      }
      for (let i = 0; i < size; i++) A.set(i, i, A.get(i, i) * (1 + 1e-9) + 1e-9);
      return solve(A, b).to1DArray();
    });
    const off = samples.map((s) => s.value[1] - evaluate(terms[1], s.x, s.y, degree));
    const deviation = 1.4826 * middle(off.map(Math.abs)) + 1e-6;
    samples.forEach((s, i) => (s.weight = Math.abs(off[i]) < GATE * deviation ? 1 : 0));
  }
  const mesh =
    form === 'mesh'
      ? terms.map((t, k) =>
          smoothMesh(
            samples.map((s) => ({ x: s.x, y: s.y, value: s.value[k] - evaluate(t, s.x, s.y, degree) })),
            FALLS_OFF * middle(samples.map((s) => s.value[k])),
          ),
        )
      : undefined;
  let [low, high] = [1, 0];
  for (const x of [-1, -0.5, 0, 0.5, 1])
    for (const y of [-1, -0.5, 0, 0.5, 1]) {
      const code = encodeClipped(evaluate(terms[1], x, y, degree) + (mesh ? onMesh(mesh[1], x, y) : 0));
      low = Math.min(low, code);
      high = Math.max(high, code);
    }
  return { degree, terms, ...(mesh ? { mesh } : {}), range: 255 * Math.max(0, high - low) };
}

/** The median; the list is sorted. */
function middle(list: number[]): number {
  return list.sort((a, b) => a - b)[list.length >> 1];
}

interface Sample {
  readonly x: number;
  readonly y: number;
  readonly value: number;
}

/**
 * Values at the middles of all cells: samples that stand out of their neighbours left out, the rest smoothed over them.
 * @param least by what a sample stands out at least
 */
function smoothMesh(samples: readonly Sample[], least: number): Float32Array {
  const at = (v: number): number => Math.round(((v + 1) * CELLS) / 2 - 0.5);
  const value = new Float32Array(CELLS * CELLS).fill(NaN);
  for (const s of samples) value[at(s.y) * CELLS + at(s.x)] = s.value;
  const off = Float32Array.from(value, (v, i) => {
    const around: number[] = [];
    eachAround(i, AROUND, (j) => !Number.isNaN(value[j]) && around.push(value[j]));
    return v - middle(around);
  });
  const held = [...off].filter((v) => !Number.isNaN(v)).map(Math.abs);
  const limit = Math.max(least, GATE * 1.4826 * middle(held));
  const reach = Math.ceil(3 * SMOOTH);
  return value.map((_, i) => {
    let [sum, weights] = [0, 0];
    eachAround(i, reach, (j, dx, dy) => {
      if (!(Math.abs(off[j]) <= limit)) return;
      const w = Math.exp((-0.5 * (dx * dx + dy * dy)) / (SMOOTH * SMOOTH));
      sum += w * value[j];
      weights += w;
    });
    return weights > 0 ? sum / weights : 0;
  });
}

function eachAround(i: number, reach: number, visit: (j: number, dx: number, dy: number) => unknown): void {
  const x = i % CELLS;
  const y = (i - x) / CELLS;
  for (let v = Math.max(0, y - reach); v <= Math.min(CELLS - 1, y + reach); v++)
    for (let u = Math.max(0, x - reach); u <= Math.min(CELLS - 1, x + reach); u++)
      visit(v * CELLS + u, u - x, v - y);
}

/** The mesh between its points, linearly; x and y from −1 to 1, continued at the border. */
function onMesh(mesh: Float32Array, x: number, y: number): number {
  const u = Math.max(0, Math.min(CELLS - 1.001, ((x + 1) * CELLS) / 2 - 0.5));
  const v = Math.max(0, Math.min(CELLS - 1.001, ((y + 1) * CELLS) / 2 - 0.5));
  const [i, j] = [u | 0, v | 0];
  const k = j * CELLS + i;
  const top = mesh[k] + (u - i) * (mesh[k + 1] - mesh[k]);
  const bottom = mesh[k + CELLS] + (u - i) * (mesh[k + CELLS + 1] - mesh[k + CELLS]);
  return top + (v - j) * (bottom - top);
}

function evaluate(terms: readonly number[], x: number, y: number, degree: number): number {
  return powers(x, y, degree).reduce((s, p, i) => s + p * terms[i], 0);
}

/**
 * Takes a background out, leaving its mean: `subtract` for light that was added (a town, the moon), `divide` for light that was lost (a
 * vignette).
 * @returns 16 bit
 */
export function removeBackground(
  image: EncodedImage,
  background: SkyBackground,
  how: 'subtract' | 'divide',
  out: EncodedImage,
): void {
  const { width, height, data, white } = image;
  const { degree, terms, mesh } = background;
  const mean = terms.map((t, k) => {
    let sum = 0;
    for (let r = 0; r < 16; r++)
      for (let c = 0; c < 16; c++) {
        const [x, y] = [c / 7.5 - 1, r / 7.5 - 1];
        sum += evaluate(t, x, y, degree) + (mesh ? onMesh(mesh[k], x, y) : 0);
      }
    return sum / 256;
  });
  const row = new Float32Array(width);
  // a polynomial along a row, by its values at a few places: the degree is low
  const knots = degree + 1;
  for (let y = 0; y < height; y++)
    for (let c = 0; c < 3; c++) {
      const at = Array.from({ length: knots }, (_, k) =>
        evaluate(terms[c], (2 * k) / (knots - 1 || 1) - 1, (2 * y) / (height - 1) - 1, degree),
      );
      for (let x = 0; x < width; x++) row[x] = data[(y * width + x) * 3 + c] / white;
      decodePlane(row);
      for (let x = 0; x < width; x++) {
        const across = (2 * x) / (width - 1) - 1;
        const b = lagrange(at, across) + (mesh ? onMesh(mesh[c], across, (2 * y) / (height - 1) - 1) : 0);
        const v = how === 'subtract' ? row[x] - b + mean[c] : (row[x] * mean[c]) / Math.max(1e-6, b);
        out.data[(y * width + x) * 3 + c] = encodeClipped(v) * out.white + 0.5;
      }
    }
}

/** The polynomial through equally spaced values on −1…1. */
function lagrange(values: readonly number[], x: number): number {
  const n = values.length;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    let term = values[i];
    const xi = n > 1 ? (2 * i) / (n - 1) - 1 : 0;
    for (let j = 0; j < n; j++) {
      const xj = n > 1 ? (2 * j) / (n - 1) - 1 : 0;
      if (j !== i) term *= (x - xj) / (xi - xj);
    }
    sum += term;
  }
  return sum;
}
