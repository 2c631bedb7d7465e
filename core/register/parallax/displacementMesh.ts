import { type Representation } from '../logLuminance';

/** An even mesh of displacements over a picture at one of its levels. */
export interface DisplacementMesh {
  readonly columns: number;
  readonly rows: number;
  /** pixels of the level between vertices */
  readonly cell: number;
  /** where the first pixel's centre lies from the first vertex, pixels of the level */
  readonly offset: number;
  /** [2 · vertex] pixels of the level */
  readonly shifts: Float64Array;
}

/** What a pass of {@link refineMesh} ended with. */
export interface MeshFit {
  /** [3 · vertex] what the picture knows of each vertex: xx, xy, yy of its own equations, in 1/px² */
  readonly evidence: Float64Array;
  /** [2 · vertex] what the picture alone would still move, in the same weights */
  readonly pull: Float64Array;
  /** the frame drawn as the mesh bends it */
  readonly drawn: Float32Array;
  /** 1 where the drawn frame is usable */
  readonly held: Uint8Array;
}

/** neighbours differ by about so much on one surface, pixels of the level */
const STEP = 0.3;
/** from here on a difference counts as an edge of depth, and less and less, pixels of the level */
const EDGE = 0.5;
/** Tukey's constant, in spreads */
const TUKEY = 4.7;
const LEAST_SPREAD = 0.05;
const SWEEPS = 30;
const OVER_RELAXED = 1.6;
/** neighbouring samples share noise: about four are worth one */
const SHARED = 0.25;

/**
 * Moves the vertices so that the frame, bent, looks like the reference: Gauss–Newton on all pixels, Tukey's weights, neighbours held
 * together the less the more they differ (Cauchy), so that an edge of depth may stand (Black & Anandan 1996 on a mesh).
 * @param reference the structure of the reference as drawn on the frame's grid
 * @param passes how often it is linearised anew
 */
export function refineMesh(
  reference: Representation,
  frame: Representation,
  mesh: DisplacementMesh,
  passes: number,
): { readonly mesh: DisplacementMesh; readonly fit: MeshFit } {
  let now = mesh;
  for (let pass = 0; pass < passes; pass++) {
    const equations = equationsOf(reference, frame, now);
    now = { ...now, shifts: solved(now, equations) };
  }
  return { mesh: now, fit: fitOf(reference, frame, now) };
}

/** [30 · cell] products of the shares of the cell's corners with gradients (ten pairs of xx, xy, yy); [8 · cell] with residuals. */
interface CellEquations {
  readonly products: Float64Array;
  readonly sides: Float64Array;
}

/** pixels of so many rows and columns have one share in their cell's corners */
const BLOCK = 4;

/** pairs of corners, in the order of their products */
const PAIRS = [0, 1, 2, 3].flatMap((a) => [0, 1, 2, 3].filter((b) => b >= a).map((b) => [a, b] as const));

/** The frame as a mesh bends it, by Catmull–Rom, and where all that it is made of can be used. */
export function drawBent(
  frame: Representation,
  mesh: DisplacementMesh,
): { drawn: Float32Array; held: Uint8Array } {
  const { width, height, value, valid } = frame;
  const drawn = new Float32Array(width * height);
  const held = new Uint8Array(width * height);
  const { columns, cell, offset, shifts } = mesh;
  for (let y = 0, o = 0; y < height; y++) {
    const gy = (y + offset) / cell;
    const j = Math.min(mesh.rows - 2, gy | 0);
    const fy = gy - j;
    const rowAt = 2 * j * columns;
    const down = 2 * columns;
    for (let x = 0; x < width; x++, o++) {
      const gx = (x + offset) / cell;
      const i = Math.min(columns - 2, gx | 0);
      const fx = gx - i;
      const k = rowAt + 2 * i;
      const [leftU, leftV] = [
        shifts[k] + fy * (shifts[k + down] - shifts[k]),
        shifts[k + 1] + fy * (shifts[k + down + 1] - shifts[k + 1]),
      ];
      const rightU = shifts[k + 2] + fy * (shifts[k + down + 2] - shifts[k + 2]);
      const rightV = shifts[k + 3] + fy * (shifts[k + down + 3] - shifts[k + 3]);
      const u = x + leftU + fx * (rightU - leftU);
      const v = y + leftV + fx * (rightV - leftV);
      if (!(u >= 1 && v >= 1 && u < width - 2 && v < height - 2)) continue;
      const [iu, iv] = [u | 0, v | 0];
      const at = iv * width + iu;
      if (valid[at] <= 0 || valid[at + 1] <= 0 || valid[at + width] <= 0 || valid[at + width + 1] <= 0)
        continue;
      held[o] = 1;
      const t = u - iu;
      // Catmull–Rom along four rows, then across them
      const t2 = t * t;
      const t3 = t2 * t;
      const [p, q, r, s] = [
        t2 - 0.5 * (t + t3),
        1 - 2.5 * t2 + 1.5 * t3,
        0.5 * t + 2 * t2 - 1.5 * t3,
        0.5 * (t3 - t2),
      ];
      const f = v - iv;
      const f2 = f * f;
      const f3 = f2 * f;
      const [up, on, under, last] = [at - width, at, at + width, at + 2 * width];
      drawn[o] =
        (f2 - 0.5 * (f + f3)) * (p * value[up - 1] + q * value[up] + r * value[up + 1] + s * value[up + 2]) +
        (1 - 2.5 * f2 + 1.5 * f3) *
          (p * value[on - 1] + q * value[on] + r * value[on + 1] + s * value[on + 2]) +
        (0.5 * f + 2 * f2 - 1.5 * f3) *
          (p * value[under - 1] + q * value[under] + r * value[under + 1] + s * value[under + 2]) +
        0.5 * (f3 - f2) * (p * value[last - 1] + q * value[last] + r * value[last + 1] + s * value[last + 2]);
    }
  }
  return { drawn, held };
}

function equationsOf(
  reference: Representation,
  frame: Representation,
  mesh: DisplacementMesh,
): CellEquations {
  const { width, height } = reference;
  const { drawn, held } = drawBent(frame, mesh);
  const spread = spreadOf(reference, drawn, held);
  const cells = (mesh.columns - 1) * (mesh.rows - 1);
  const products = new Float64Array(30 * cells);
  const sides = new Float64Array(8 * cells);
  const share = new Float64Array(4);
  const sums = new Float64Array(5);
  for (let y = 0; y < height; y += BLOCK) {
    const gy = (Math.min(height - 1, y + (BLOCK - 1) / 2) + mesh.offset) / mesh.cell;
    const j = Math.min(mesh.rows - 2, gy | 0);
    const fy = gy - j;
    for (let x = 0; x < width; x += BLOCK) {
      if (!blockSums(reference, frame.variance, drawn, held, spread, x, y, sums)) continue;
      const gx = (Math.min(width - 1, x + (BLOCK - 1) / 2) + mesh.offset) / mesh.cell;
      const i = Math.min(mesh.columns - 2, gx | 0);
      const fx = gx - i;
      share[0] = (1 - fx) * (1 - fy);
      share[1] = fx * (1 - fy);
      share[2] = (1 - fx) * fy;
      share[3] = fx * fy;
      const cell = j * (mesh.columns - 1) + i;
      for (let a = 0, p = 30 * cell, s = 8 * cell; a < 4; a++, s += 2) {
        for (let b = a; b < 4; b++, p += 3) {
          const both = share[a] * share[b];
          products[p] += both * sums[0];
          products[p + 1] += both * sums[1];
          products[p + 2] += both * sums[2];
        }
        sides[s] += share[a] * sums[3];
        sides[s + 1] += share[a] * sums[4];
      }
    }
  }
  return { products, sides };
}

/** Weighted xx, xy, yy of the gradients of a block of pixels, and their products with the residual. @returns whether any pixel counts */
function blockSums(
  { width, height, value, valid, variance }: Representation,
  frameVariance: Float32Array,
  drawn: Float32Array,
  held: Uint8Array,
  spread: number,
  left: number,
  top: number,
  sums: Float64Array,
): boolean {
  const over = 1 / (spread * spread);
  const limit = over / (TUKEY * TUKEY);
  let [xx, xy, yy, ex, ey] = [0, 0, 0, 0, 0];
  const right = Math.min(width - 1, left + BLOCK);
  const bottom = Math.min(height - 1, top + BLOCK);
  for (let y = Math.max(1, top); y < bottom; y++)
    for (let o = y * width + Math.max(1, left), end = y * width + right; o < end; o++) {
      if (!held[o] || valid[o] <= 0 || !held[o - 1] || !held[o + 1] || !held[o - width] || !held[o + width])
        continue;
      const residual = value[o] - drawn[o];
      const sure = 1 / (1 + (variance[o] + frameVariance[o]) * over);
      const off = 1 - residual * residual * sure * limit;
      if (off <= 0) continue;
      const w = off * off * sure;
      // the mean of both gradients: steps are then good to the second order
      const gx = 0.25 * (value[o + 1] - value[o - 1] + drawn[o + 1] - drawn[o - 1]);
      const gy = 0.25 * (value[o + width] - value[o - width] + drawn[o + width] - drawn[o - width]);
      xx += w * gx * gx;
      xy += w * gx * gy;
      yy += w * gy * gy;
      ex += w * gx * residual;
      ey += w * gy * residual;
    }
  const unit = SHARED * over;
  sums[0] = unit * xx;
  sums[1] = unit * xy;
  sums[2] = unit * yy;
  sums[3] = unit * ex;
  sums[4] = unit * ey;
  return xx + yy > 0;
}

/** Median deviation as a standard deviation, of every eleventh pixel. */
function spreadOf({ value, valid }: Representation, drawn: Float32Array, held: Uint8Array): number {
  const off: number[] = [];
  for (let i = 0; i < drawn.length; i += 11)
    if (held[i] && valid[i] > 0) off.push(Math.abs(value[i] - drawn[i]));
  if (off.length === 0) return 1;
  const sorted = Float64Array.from(off).sort();
  return Math.max(LEAST_SPREAD, 1.4826 * sorted[sorted.length >> 1]);
}

/** The shifts that hold the equations and their neighbours best: Gauss–Seidel over vertices of two unknowns, over-relaxed. */
function solved(mesh: DisplacementMesh, equations: CellEquations): Float64Array {
  const { columns, rows } = mesh;
  const before = mesh.shifts;
  const shifts = before.slice();
  const { own, toward, side } = byVertex(mesh, equations);
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const v = j * columns + i;
        const xy = own[3 * v + 1];
        let [xx, yy] = [own[3 * v], own[3 * v + 2]];
        // equations hold for the step from where they were made
        let bx = side[2 * v] + xx * before[2 * v] + xy * before[2 * v + 1];
        let by = side[2 * v + 1] + xy * before[2 * v] + yy * before[2 * v + 1];
        for (let n = 0; n < 8; n++) {
          const [dx, dy] = NEIGHBOURS[n];
          if (i + dx < 0 || i + dx >= columns || j + dy < 0 || j + dy >= rows) continue;
          const u = v + dy * columns + dx;
          const t = 3 * (8 * v + n);
          const [sx, sy] = [shifts[2 * u] - before[2 * u], shifts[2 * u + 1] - before[2 * u + 1]];
          bx -= toward[t] * sx + toward[t + 1] * sy;
          by -= toward[t + 1] * sx + toward[t + 2] * sy;
          if (dx !== 0 && dy !== 0) continue;
          const apart = (before[2 * u] - before[2 * v]) ** 2 + (before[2 * u + 1] - before[2 * v + 1]) ** 2;
          const tie = 1 / (STEP * STEP * (1 + apart / (EDGE * EDGE)));
          xx += tie;
          yy += tie;
          bx += tie * shifts[2 * u];
          by += tie * shifts[2 * u + 1];
        }
        const det = xx * yy - xy * xy;
        if (!(det > 0)) continue;
        const x = (yy * bx - xy * by) / det;
        const y = (xx * by - xy * bx) / det;
        shifts[2 * v] += OVER_RELAXED * (x - shifts[2 * v]);
        shifts[2 * v + 1] += OVER_RELAXED * (y - shifts[2 * v + 1]);
      }
  return shifts;
}

const NEIGHBOURS = [-1, 0, 1].flatMap((dy) =>
  [-1, 0, 1].filter((dx) => dx !== 0 || dy !== 0).map((dx) => [dx, dy] as const),
);

/** The equations of cells put together for each vertex: its own, those towards each of its eight neighbours, and the right side. */
function byVertex(
  { columns, rows }: DisplacementMesh,
  { products, sides }: CellEquations,
): { own: Float64Array; toward: Float64Array; side: Float64Array } {
  const own = new Float64Array(3 * columns * rows);
  const toward = new Float64Array(24 * columns * rows);
  const side = new Float64Array(2 * columns * rows);
  const link = (from: number, dx: number, dy: number, p: number): void => {
    const n = (dy + 1) * 3 + dx + 1;
    const t = 3 * (8 * from + (n > 4 ? n - 1 : n));
    for (let c = 0; c < 3; c++) toward[t + c] += products[p + c];
  };
  for (let j = 0, cell = 0; j + 1 < rows; j++)
    for (let i = 0; i + 1 < columns; i++, cell++) {
      const corner = (a: number): number => (j + (a >> 1)) * columns + i + (a & 1);
      PAIRS.forEach(([a, b], pair) => {
        const p = 30 * cell + 3 * pair;
        if (a === b) for (let c = 0; c < 3; c++) own[3 * corner(a) + c] += products[p + c];
        else {
          const [dx, dy] = [(b & 1) - (a & 1), (b >> 1) - (a >> 1)];
          link(corner(a), dx, dy, p);
          link(corner(b), -dx, -dy, p);
        }
      });
      for (let a = 0; a < 4; a++)
        for (let c = 0; c < 2; c++) side[2 * corner(a) + c] += sides[8 * cell + 2 * a + c];
    }
  return { own, toward, side };
}

function fitOf(reference: Representation, frame: Representation, mesh: DisplacementMesh): MeshFit {
  const { own, side } = byVertex(mesh, equationsOf(reference, frame, mesh));
  return { evidence: own, pull: side, ...drawBent(frame, mesh) };
}
