import { type EncodedImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { invert, type Matrix3, toLevel } from '../../raster/matrix3';
import { linearToSrgb, srgbToLinear } from '../../raster/srgb';
import { type Rectangle } from '../../raster/raster';
import { laidOver } from '../laidOver';
import { localStructure } from '../localStructure';
import { logFloor, logLuminance, type Representation } from '../logLuminance';
import { CLIP_SHARE, halveLuminance, luminancePyramid, usableChannel } from '../luminance';
import { type DisplacementMesh, drawBent, type MeshFit, refineMesh } from './displacementMesh';
import { type LocalBend } from './localBend';
import { length2 } from '../../raster/length';

/** shifts are sought on pictures of this long edge at most, pixels: a tenth of such a pixel is found */
const LOOKED_AT = 1000;
/** the search begins on a picture of about this long edge, where a few pixels are a few hundredths of its width */
const START_EDGE = 96;
/** pixels of the level between vertices */
const CELL = 16;
/** structure is what differs from the mean of so many pixels to each side */
const RADIUS = 10;
const PASSES_AT_START = 12;
const PASSES = 5;

/** vertices that differ by more than this share of their distance are an edge of depth: something is hidden beside it */
const STEEP = 0.2;
/** structure that correlates less with the reference's, bent, is not the same */
const LEAST_ALIKE = 0.5;
/** share of a cell that must be seen to say anything: thin things before a burnt sky are little more */
const LEAST_SEEN = 0.08;
/** correlation may fall by so much before a shift counts as harm */
const HARM = 0.03;
/** structure below this deviation is noise: nothing can be said there */
const LEAST_STRUCTURE = 0.25;
/** a vertex whose shift the picture knows less well than this, pixels of the level, counts for no figure */
const LEAST_KNOWN = 0.3;

/**
 * How a frame must be bent so that near and far lie on the reference at once, where one plane cannot do it (parallax): an even mesh of
 * shifts, sought from a hundredth of the width down to a tenth of a pixel on structure that exposure does not change.
 * @param matrix reference pixel → frame pixel, as fitted
 * @param stops exposure of the frame relative to the reference, EV
 */
export function measureBend(
  reference: EncodedImage,
  frame: EncodedImage,
  matrix: Matrix3,
  stops: number,
): LocalBend {
  return summary(seekMesh(reference, frame, matrix, stops, LOOKED_AT), frame);
}

/** Shifts that were sought, in pixels of a level, and what the pictures say of them there. */
export interface SoughtMesh {
  readonly mesh: DisplacementMesh;
  readonly fit: MeshFit;
  /** pixels of the frame to one of the level */
  readonly size: number;
  /** structure about each vertex before and after */
  readonly was: Likeness;
  readonly is: Likeness;
}

/** The shifts of {@link measureBend}. @param lookedAt on pictures of this long edge at most, pixels */
export function seekMesh(
  reference: EncodedImage,
  frame: EncodedImage,
  matrix: Matrix3,
  stops: number,
  lookedAt: number,
): SoughtMesh {
  let [ref, own, map, level] = [reference, frame, matrix, 0];
  for (; Math.max(own.width, own.height) > lookedAt; level++) {
    [ref, own] = [halveImage(ref), halveImage(own)];
    map = toLevel(matrix, level + 1);
  }
  const sides = bothSides(laidOver(ref, invert(map), own), own, stops);
  const top = sides.length - 1;
  let mesh = evenMesh(sides[top][1], top + level);
  let fit: MeshFit | undefined;
  for (let k = top; k >= 0; k--) {
    const [a, b] = sides[k];
    if (k < top) mesh = finer(mesh, b, k + level);
    const refined = refineMesh(a, b, mesh, k === top ? PASSES_AT_START : PASSES);
    const kept = withoutHarm(a, b, refined.mesh, refined.fit);
    ({ mesh, fit } = kept === refined.mesh ? refined : refineMesh(a, b, kept, 1));
  }
  if (!fit) throw new Error('a frame has at least one level');
  const [on, drawn] = sides[0];
  const still = { ...mesh, shifts: new Float64Array(mesh.shifts.length) };
  return {
    ...{ mesh, fit, size: 2 ** level },
    ...{ was: alike(on, drawBent(drawn, still), mesh), is: alike(on, fit, mesh) },
  };
}

/** Whether a vertex is sure: no edge of depth beside it, and no structure there that differs even when bent. */
export const isSure = ({ mesh, is }: SoughtMesh, v: number): boolean =>
  steepAt(mesh, v) <= STEEP && !(is.says[v] && is.correlation[v] < LEAST_ALIKE);

/** Whether the picture itself tells the shift of a vertex. */
export function isTold({ fit, is }: SoughtMesh, v: number): boolean {
  const [xx, xy, yy] = [0, 1, 2].map((c) => fit.evidence[3 * v + c]);
  const det = xx * yy - xy * xy;
  // variance of the worse direction is below the trace of the inverse
  return is.says[v] === 1 && det > 0 && (xx + yy) / det <= LEAST_KNOWN ** 2;
}

/** A mesh without those shifts by which structure is less alike than as the plane has it. */
function withoutHarm(
  reference: Representation,
  frame: Representation,
  mesh: DisplacementMesh,
  fit: MeshFit,
): DisplacementMesh {
  const still = { ...mesh, shifts: new Float64Array(mesh.shifts.length) };
  const was = alike(reference, drawBent(frame, still), mesh);
  const is = alike(reference, fit, mesh);
  const shifts = mesh.shifts.slice();
  let harmed = 0;
  for (let v = 0; v < is.says.length; v++) {
    if (!was.says[v] || was.correlation[v] < is.correlation[v] + HARM + 0.5 * was.scatter[v]) continue;
    shifts[2 * v] = shifts[2 * v + 1] = 0;
    harmed++;
  }
  return harmed > 0 ? { ...mesh, shifts } : mesh;
}

/** Structure of both, from the finest level to the coarsest. */
function bothSides(
  reference: EncodedImage,
  frame: EncodedImage,
  stops: number,
): (readonly [Representation, Representation])[] {
  const channel = usableChannel(reference, frame, stops);
  const floor = logFloor(stops);
  const structures = [
    { image: clippedAlike(reference, stops), own: 0 },
    { image: clippedAlike(frame, -stops), own: stops },
  ].map(({ image, own }) => {
    const levels = luminancePyramid(image, own, channel);
    for (;;) {
      const last = levels[levels.length - 1];
      if (Math.max(last.width, last.height) <= START_EDGE * 1.5) break;
      levels.push(halveLuminance(last));
    }
    return levels.map((l) => localStructure(logLuminance(l, floor), RADIUS, true));
  });
  return structures[0].map((s, k) => [s, structures[1][k]] as const);
}

/**
 * A picture in which all is white that clips in the other one: structure is what differs from its surroundings, and those must be the same.
 * @param stops exposure of the other relative to it, EV
 */
function clippedAlike(image: EncodedImage, stops: number): EncodedImage {
  if (stops <= 0) return image;
  const { white, data } = image;
  const limit = linearToSrgb(srgbToLinear(CLIP_SHARE) * 2 ** -stops) * white;
  const out = { ...image, data: data.slice() };
  for (let o = 0; o < data.length; o += 3)
    if (Math.max(data[o], data[o + 1], data[o + 2]) >= limit) out.data.fill(white, o, o + 3);
  return out;
}

/** A mesh without shifts, its first vertex on the first pixel of full size: those of finer levels lie on its own and between them. */
function evenMesh({ width, height }: Representation, level: number): DisplacementMesh {
  // pixel centres of a level lie between those of full size
  const offset = (1 - 2 ** -level) / 2;
  const columns = Math.ceil((width + offset) / CELL) + 1;
  const rows = Math.ceil((height + offset) / CELL) + 1;
  return { columns, rows, cell: CELL, offset, shifts: new Float64Array(2 * columns * rows) };
}

/** The same shifts on the next finer level. @param level of it, halvings from full size */
function finer(coarse: DisplacementMesh, size: Representation, level: number): DisplacementMesh {
  const mesh = evenMesh(size, level);
  for (let j = 0; j < mesh.rows; j++)
    for (let i = 0; i < mesh.columns; i++) {
      const y = Math.min(coarse.rows - 1, j / 2);
      const x = Math.min(coarse.columns - 1, i / 2);
      const [j0, i0] = [Math.min(coarse.rows - 2, y | 0), Math.min(coarse.columns - 2, x | 0)];
      const [fy, fx] = [y - j0, x - i0];
      const k = 2 * (j0 * coarse.columns + i0);
      for (let c = 0; c < 2; c++) {
        const at = (o: number): number => coarse.shifts[k + o + c];
        const above = (1 - fx) * at(0) + fx * at(2);
        const below = (1 - fx) * at(2 * coarse.columns) + fx * at(2 * coarse.columns + 2);
        mesh.shifts[2 * (j * mesh.columns + i) + c] = 2 * ((1 - fy) * above + fy * below);
      }
    }
  return mesh;
}

/** The mesh in pixels of the frame, with what is to be said of it. */
function summary(sought: SoughtMesh, frame: Pick<EncodedImage, 'width' | 'height'>): LocalBend {
  const { mesh, fit, size, was, is } = sought;
  const { columns, rows, shifts } = mesh;
  const count = columns * rows;
  const unsure: number[] = [];
  const lengths: number[] = [];
  const left: number[] = [];
  const sums = { before: 0, after: 0, weight: 0 };
  for (let v = 0; v < count; v++) {
    if (!isSure(sought, v)) {
      unsure.push(v);
      continue;
    }
    if (!is.says[v]) continue;
    sums.before += Math.max(0, was.correlation[v]);
    sums.after += Math.max(0, is.correlation[v]);
    sums.weight++;
    if (!isTold(sought, v)) continue;
    const [xx, xy, yy] = [0, 1, 2].map((c) => fit.evidence[3 * v + c]);
    const det = xx * yy - xy * xy;
    const [px, py] = [fit.pull[2 * v], fit.pull[2 * v + 1]];
    left.push(size * length2((yy * px - xy * py) / det, (xx * py - xy * px) / det));
    lengths.push(size * length2(shifts[2 * v], shifts[2 * v + 1]));
  }
  const rms = (of: readonly number[]): number =>
    of.length ? Math.sqrt(of.reduce((s, v) => s + v * v, 0) / of.length) : 0;
  const worst = (sorted: readonly number[]): number =>
    sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(0.95 * sorted.length))] : 0;
  const rising = (of: number[]): number[] => of.sort((a, b) => a - b);
  const [long, off] = [rising(lengths), rising(left)];
  return {
    columns,
    rows,
    cell: mesh.cell * size,
    // JSON knows no −0
    shifts: Array.from(shifts, (s) => Math.round(s * size * 100) / 100 + 0),
    inside: insideOf(mesh, size, frame),
    told: lengths.length / count,
    unsure,
    bends: { typical: rms(long), most: worst(long) },
    residual: { typical: rms(off.slice(0, Math.ceil(0.9 * off.length))), worst: worst(off) },
    agreement: {
      before: sums.weight ? sums.before / sums.weight : 0,
      after: sums.weight ? sums.after / sums.weight : 0,
    },
  };
}

/** the bend may cut so much of a side at most */
const MOST_CUT = 0.25;

/** The part that is drawn from within the frame: sides move in until no vertex near them points outside. */
function insideOf(
  { columns, rows, cell, shifts }: DisplacementMesh,
  size: number,
  { width, height }: Pick<EncodedImage, 'width' | 'height'>,
): Rectangle {
  const full = cell * size;
  // how far inside a border that all vertices within a cell of it must lie, so that they point to the inside
  const cut = (length: number, outwards: (v: number) => number, from: (v: number) => number): number => {
    let by = 0;
    for (let again = true; again && by < MOST_CUT * length;) {
      again = false;
      for (let v = 0; v < columns * rows; v++)
        if (from(v) <= by + full && size * outwards(v) > by) {
          by = Math.ceil(size * outwards(v));
          again = true;
        }
    }
    return Math.min(by, Math.floor(MOST_CUT * length));
  };
  const [x, y] = [(v: number) => (v % columns) * full, (v: number) => Math.floor(v / columns) * full];
  const left = cut(width, (v) => -shifts[2 * v], x);
  const top = cut(height, (v) => -shifts[2 * v + 1], y);
  const right = cut(
    width,
    (v) => shifts[2 * v],
    (v) => width - 1 - x(v),
  );
  const bottom = cut(
    height,
    (v) => shifts[2 * v + 1],
    (v) => height - 1 - y(v),
  );
  return { x: left, y: top, width: width - left - right, height: height - top - bottom };
}

/** The largest stretch of the mesh about a vertex. */
function steepAt({ columns, rows, cell, shifts }: DisplacementMesh, v: number): number {
  const [i, j] = [v % columns, Math.floor(v / columns)];
  let most = 0;
  for (const [dx, dy] of [
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ]) {
    if (i + dx < 0 || i + dx >= columns || j + dy < 0 || j + dy >= rows) continue;
    const u = v + dy * columns + dx;
    most = Math.max(most, length2(shifts[2 * u] - shifts[2 * v], shifts[2 * u + 1] - shifts[2 * v + 1]));
  }
  return most / cell;
}

/** Correlation of structure about each vertex, and whether there is structure enough to say anything. */
interface Likeness {
  readonly correlation: Float64Array;
  readonly says: Uint8Array;
  /** standard error of a correlation of 0 */
  readonly scatter: Float64Array;
}

function alike(
  { width, height, value, valid }: Representation,
  { drawn, held }: Pick<MeshFit, 'drawn' | 'held'>,
  { columns, rows, cell, offset }: DisplacementMesh,
): Likeness {
  const sums = new Float64Array(6 * columns * rows);
  for (let y = 0; y < height; y++) {
    const j = Math.round((y + offset) / cell);
    for (let x = 0; x < width; x++) {
      const o = y * width + x;
      if (!held[o] || valid[o] <= 0) continue;
      const k = 6 * (j * columns + Math.round((x + offset) / cell));
      const [a, b] = [value[o], drawn[o]];
      sums[k]++;
      sums[k + 1] += a;
      sums[k + 2] += b;
      sums[k + 3] += a * a;
      sums[k + 4] += b * b;
      sums[k + 5] += a * b;
    }
  }
  const correlation = new Float64Array(columns * rows);
  const says = new Uint8Array(columns * rows);
  const scatter = new Float64Array(columns * rows);
  for (let v = 0; v < correlation.length; v++) {
    const [n, a, b, aa, bb, ab] = sums.subarray(6 * v, 6 * v + 6);
    if (n < LEAST_SEEN * cell * cell) continue;
    const [va, vb] = [aa / n - (a / n) ** 2, bb / n - (b / n) ** 2];
    if (!(va > LEAST_STRUCTURE ** 2)) continue;
    says[v] = 1;
    scatter[v] = 1 / Math.sqrt(n);
    correlation[v] = (ab / n - (a / n) * (b / n)) / Math.sqrt(va * Math.max(vb, 1e-9));
  }
  return { correlation, says, scatter };
}
