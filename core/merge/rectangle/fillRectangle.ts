import { type ProjectionKind } from '../panorama/projection';
import { carveBorder } from './carveBorder';
import { pullInside } from './pullInside';
import { cellsOf, cornersOf, placeIn, pointAt, type QuadMesh } from './quadMesh';
import { type RectangleMesh } from './rectangleMesh';
import { cutByMesh, straightenMesh } from './straightenMesh';
import { type Segment, straightSegments } from '../../raster/straightSegments';
import { length2 } from '../../raster/length';

/** A panorama with its blank borders, drawn small. */
export interface BorderedPicture {
  readonly width: number;
  readonly height: number;
  /** [pixel] encoded luma 0…1 */
  readonly luma: Float32Array;
  /** [pixel] 1 where there is picture */
  readonly covered: Uint8Array;
  readonly projection: ProjectionKind;
  /** pixel (x, y) lies at ((x + left) / scale, (y + top) / scale) of the projection's plane */
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/** long edge of the picture that seams are carved in, pixels */
const CARVED_EDGE = 420;
/** cells of the mesh (He, Chang & Sun 2013: about 400) */
const CELLS = 420;
/** straight edges shorter than this share of the long edge are left to the cells' shapes */
const LEAST_LINE = 0.022;
/** and the bow is told of those that are longer than this */
const LONG_LINE = 0.06;
/** share of the cells that are stretched less than what is told */
const MOST_CELLS = 0.98;

/**
 * The mesh that bends a panorama to a full rectangle and keeps shapes and straight lines where it can (He, Chang & Sun 2013, “Rectangling panoramic
 * images via warping”).
 * @returns undefined when nothing is covered
 */
export function fillRectangle(picture: BorderedPicture): RectangleMesh | undefined {
  const { width, height, luma, covered, scale, left, top, projection } = picture;
  if (!covered.includes(1)) return undefined;
  const before = carvedMesh(picture);
  const long = Math.max(width, height);
  const lines = straightSegments(luma, covered, width, height, LEAST_LINE * long);
  const pieces = cutByMesh(before, lines);
  const first = straightenMesh(before, pieces, width - 1, height - 1);
  // a rectangle of a shape that stretches neither way on the whole
  const [wide, tall] = meanGrowth(before, first);
  const [across, down] = [(width - 1) / wide, (height - 1) / tall];
  const after = straightenMesh(before, pieces, across, down);
  const { columns, rows } = before;
  const reached: QuadMesh = { columns, rows, at: new Float64Array(2 * columns * rows) };
  const even: QuadMesh = { columns, rows, at: new Float64Array(2 * columns * rows) };
  for (let j = 0, k = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, k += 2) {
      const [x, y] = [(i * across) / (columns - 1), (j * down) / (rows - 1)];
      even.at.set([x, y], k);
      // a cell that is turned inside out holds no place: what lies at its vertex stands in
      const place = placeIn(after, x, y);
      reached.at.set(place ? pointAt(before, place) : before.at.subarray(k, k + 2), k);
    }
  const drawn = pullInside(reached, covered, width, height);
  return {
    projection,
    left: left / scale,
    top: top / scale,
    across: across / scale,
    down: down / scale,
    columns,
    rows,
    places: Array.from(drawn.at, (v, k) => (v + (k % 2 === 0 ? left : top)) / scale),
    stretch: 100 * (growthOf(drawn, across, down) - 1),
    bow: bowOf(lines, drawn, even, LONG_LINE * long) / length2(across, down),
  };
}

/** The vertices of an even mesh on the rectangle, where the carving has them come from. */
function carvedMesh({ width, height, luma, covered }: BorderedPicture): QuadMesh {
  const k = Math.max(1, Math.ceil(Math.max(width, height) / CARVED_EDGE));
  const [w, h] = [Math.ceil(width / k), Math.ceil(height / k)];
  const small = new Float32Array(w * h);
  const there = new Uint8Array(w * h).fill(1);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const j = Math.floor(y / k) * w + Math.floor(x / k);
      small[j] += luma[i] / (k * k);
      if (!covered[i]) there[j] = 0;
    }
  const { fromX, fromY } = carveBorder(small, there, w, h);
  const cell = Math.sqrt((w * h) / CELLS);
  const columns = Math.max(3, Math.round(w / cell) + 1);
  const rows = Math.max(3, Math.round(h / cell) + 1);
  const at = new Float64Array(2 * columns * rows);
  // the border's vertices lie on the outer edges of its pixels, the others in the middle of theirs
  const edge = (from: number, index: number, last: number): number =>
    k * (from + (index === 0 ? 0 : index === last ? 1 : 0.5)) - 0.5;
  for (let j = 0, o = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, o += 2) {
      const x = Math.round((i * (w - 1)) / (columns - 1));
      const y = Math.round((j * (h - 1)) / (rows - 1));
      at[o] = Math.min(width - 1, Math.max(0, edge(fromX[y * w + x], i, columns - 1)));
      at[o + 1] = Math.min(height - 1, Math.max(0, edge(fromY[y * w + x], j, rows - 1)));
    }
  return { columns, rows, at };
}

/** How much wider and taller cells have become, on the mean. */
function meanGrowth(before: QuadMesh, after: QuadMesh): [number, number] {
  const extent = ({ at }: QuadMesh, corners: readonly number[], c: number): number => {
    const values = corners.map((k) => at[2 * k + c]);
    return Math.max(1e-3, Math.max(...values) - Math.min(...values));
  };
  const sum: [number, number] = [0, 0];
  const count = cellsOf(before);
  for (let cell = 0; cell < count; cell++) {
    const corners = cornersOf(before, cell);
    for (let c = 0; c < 2; c++) sum[c] += extent(after, corners, c) / extent(before, corners, c) / count;
  }
  return sum;
}

/** How much larger or smaller than before most cells are drawn, in the direction that is changed most: 1 for not at all. */
function growthOf({ columns, rows, at }: QuadMesh, across: number, down: number): number {
  const [dx, dy] = [across / (columns - 1), down / (rows - 1)];
  const growths: number[] = [];
  for (let j = 0; j + 1 < rows; j++)
    for (let i = 0; i + 1 < columns; i++) {
      const k = 2 * (j * columns + i);
      const below = k + 2 * columns;
      const mean = (c: number, a: number, b: number, d: number, e: number): number =>
        (at[a + c] - at[b + c] + at[d + c] - at[e + c]) / 2;
      const [xx, yx] = [0, 1].map((c) => mean(c, k + 2, k, below + 2, below) / dx);
      const [xy, yy] = [0, 1].map((c) => mean(c, below, k, below + 2, k + 2) / dy);
      // singular values of the map from the rectangle back to the picture
      const half = (xx * xx + xy * xy + yx * yx + yy * yy) / 2;
      const apart = Math.sqrt(Math.max(0, half * half - (xx * yy - xy * yx) ** 2));
      const [least, most] = [Math.sqrt(Math.max(1e-6, half - apart)), Math.sqrt(half + apart)];
      growths.push(Math.max(1 / least, most));
    }
  growths.sort((a, b) => a - b);
  return growths[Math.floor(MOST_CELLS * (growths.length - 1))];
}

/** Steps along a line between which its bow is looked for. */
const SAMPLES = 24;

/** How far the long line that fares worst leaves its chord, pixels. */
function bowOf(lines: readonly Segment[], before: QuadMesh, after: QuadMesh, least: number): number {
  let worst = 0;
  for (const { x0, y0, x1, y1 } of lines) {
    if (length2(x1 - x0, y1 - y0) < least) continue;
    const drawn: [number, number][] = [];
    for (let s = 0; s <= SAMPLES; s++) {
      const place = placeIn(before, x0 + ((x1 - x0) * s) / SAMPLES, y0 + ((y1 - y0) * s) / SAMPLES);
      if (place) drawn.push(pointAt(after, place));
    }
    if (drawn.length < SAMPLES / 2) continue;
    const [[ax, ay], [bx, by]] = [drawn[0], drawn[drawn.length - 1]];
    const length = Math.max(1e-9, length2(bx - ax, by - ay));
    for (const [x, y] of drawn)
      worst = Math.max(worst, Math.abs((x - ax) * (by - ay) - (y - ay) * (bx - ax)) / length);
  }
  return worst;
}
