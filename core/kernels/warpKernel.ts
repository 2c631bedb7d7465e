import { type EncodedImage } from '../raster/encodedImage';
import { integerShift, type Matrix3, transform } from '../raster/matrix3';
import { type Rectangle } from '../raster/raster';
import { LANCZOS, LANCZOS_PHASES, LANCZOS_TAPS } from '../raster/lanczos';
import { codeBytes, type Kernels, planeBytes } from './kernels';

const UNIT = 16384;

interface WeightTables {
  readonly whole: number;
  readonly exact: number;
}

const made = new WeakMap<Kernels, WeightTables>();

/** The weights of every phase as the kernel wants them: 48 bytes of 16-bit pairs, and 32 bytes of floats, a phase; made once. */
function weightTables(k: Kernels): WeightTables {
  const known = made.get(k);
  if (known) return known;
  const phases = LANCZOS_PHASES + 1;
  const whole = k.keep(phases * 48);
  const exact = k.keep(phases * 32);
  const pairs = new Int16Array(k.bytes(whole, phases * 48).buffer, whole, phases * 24);
  const floats = k.floats(exact, phases * 8);
  for (let p = 0; p < phases; p++) {
    const weights = LANCZOS.subarray(p * LANCZOS_TAPS, (p + 1) * LANCZOS_TAPS);
    floats.set(weights, p * 8);
    const rounded = Array.from(weights, (w) => Math.round(w * UNIT));
    // an even picture stays even: what rounding lost goes to the heaviest tap
    const lost = UNIT - rounded.reduce((a, b) => a + b, 0);
    rounded[weights[2] >= weights[3] ? 2 : 3] += lost;
    for (let pair = 0; pair < 3; pair++)
      for (let c = 0; c < 3; c++) {
        pairs[p * 24 + pair * 8 + c * 2] = rounded[pair * 2];
        pairs[p * 24 + pair * 8 + c * 2 + 1] = rounded[pair * 2 + 1];
      }
  }
  made.set(k, { whole, exact });
  return { whole, exact };
}

/** A part of a source: rows and columns from the first to before the end. */
export interface Part {
  readonly firstRow: number;
  readonly endRow: number;
  readonly firstColumn: number;
  readonly endColumn: number;
}

/** The part of a source that an area of the output reaches, with the taps of the kernel. */
export function reachedPart(
  image: Pick<EncodedImage, 'width' | 'height'>,
  matrix: Matrix3,
  area: Rectangle,
): Part {
  const corners = [0, 1, 2, 3].map((c) =>
    transform(matrix, area.x + (c & 1) * (area.width - 1), area.y + (c >> 1) * (area.height - 1)),
  );
  const span = (axis: 0 | 1, size: number): readonly [number, number] => {
    const at = corners.map((p) => p[axis]);
    if (!at.every(Number.isFinite)) return [0, size];
    // places beyond the border are moved onto it first, and their taps are asked for there
    const clamp = (v: number): number => Math.min(size - 1, Math.max(0, v));
    const first = Math.max(0, clamp(Math.floor(Math.min(...at))) - 4);
    return [first, Math.min(size - 1, clamp(Math.ceil(Math.max(...at))) + 5) + 1];
  };
  const [firstRow, endRow] = span(1, image.height);
  const [firstColumn, endColumn] = span(0, image.width);
  return { firstRow, endRow, firstColumn, endColumn };
}

/** Takes room for a part of a source and copies it there, row by row. */
function uploadPart(
  k: Kernels,
  image: EncodedImage,
  { firstRow: first, endRow: end, firstColumn, endColumn }: Part,
): number {
  const { width, data, white } = image;
  checkRows(image, first, end);
  const [firstRow, endRow] = [first - (image.firstRow ?? 0), end - (image.firstRow ?? 0)];
  if (firstColumn === 0 && endColumn === width)
    return k.uploadCodes(data.subarray(firstRow * width * 3, endRow * width * 3));
  const row = (endColumn - firstColumn) * 3 * codeBytes(white);
  const at = k.take(row * (endRow - firstRow));
  for (let y = firstRow, to = at; y < endRow; y++, to += row) {
    const codes = data.subarray((y * width + firstColumn) * 3, (y * width + endColumn) * 3);
    k.bytes(to, row).set(new Uint8Array(codes.buffer, codes.byteOffset, row));
  }
  return at;
}

/** @throws Error when rows are asked for that are not at hand: a step forgot to have them read */
function checkRows({ width, data, firstRow = 0 }: EncodedImage, first: number, end: number): void {
  if (first < firstRow || (end - firstRow) * width * 3 > data.length)
    throw new Error(`rows ${first} to ${end} of a picture are not at hand`);
}

/** Takes room for an area of a source that lies by whole pixels and copies it there, its border's pixels continued outside. */
function uploadShifted(
  k: Kernels,
  image: EncodedImage,
  area: Rectangle,
  [dx, dy]: readonly [number, number],
): number {
  const { width, height, data, white, firstRow = 0 } = image;
  const clamp = (v: number, size: number): number => Math.min(size - 1, Math.max(0, v));
  const [x, y] = [area.x + dx, area.y + dy];
  const [first, last] = [clamp(y, height), clamp(y + area.height - 1, height)];
  checkRows(image, first, last + 1);
  if (x === 0 && area.width === width && y === first && y + area.height === last + 1)
    return k.uploadCodes(data.subarray((first - firstRow) * width * 3, (last + 1 - firstRow) * width * 3));
  const pixel = 3 * codeBytes(white);
  const row = area.width * pixel;
  const at = k.take(row * area.height);
  const codes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  // columns from … to lie on the source
  const from = Math.min(area.width, Math.max(0, -x));
  const to = Math.max(from, Math.min(area.width, width - x));
  for (let v = 0, o = at; v < area.height; v++, o += row) {
    const line = (clamp(y + v, height) - firstRow) * width;
    const out = k.bytes(o, row);
    if (to > from) out.set(codes.subarray((line + x + from) * pixel, (line + x + to) * pixel), from * pixel);
    const edge = (column: number): Uint8Array =>
      codes.subarray((line + column) * pixel, (line + column + 1) * pixel);
    for (let u = 0; u < from; u++) out.set(edge(0), u * pixel);
    for (let u = to; u < area.width; u++) out.set(edge(width - 1), u * pixel);
  }
  return at;
}

/** Resamples a source into three planes in the kernels' memory, `plane` bytes apart. @param kernel bilinear asks for two rows and columns */
export function warpIntoKernels(
  k: Kernels,
  image: EncodedImage,
  matrix: Matrix3,
  area: Rectangle,
  dst: number,
  plane: number,
  kernel: 'lanczos' | 'bilinear' = 'lanczos',
): void {
  const tables = weightTables(k);
  k.borrow(() => {
    const { width: w, height: h, white } = image;
    const size = codeBytes(white);
    const shift = integerShift(matrix);
    if (shift) {
      // nothing is resampled
      const codes = uploadShifted(k, image, area, shift);
      k.splitPlanes(codes, size, area.width * area.height, dst, plane, 1 / white);
      return;
    }
    const part = reachedPart(image, matrix, area);
    const source = [w, h, part.firstRow, part.firstColumn, part.endColumn - part.firstColumn, size] as const;
    const src = uploadPart(k, image, part);
    const target = [dst, plane, area.width, area.height, area.x, area.y, 1 / white] as const;
    if (kernel === 'bilinear') k.warpBilinear(src, ...source, ...target, ...matrix);
    else k.warpLanczos(src, ...source, tables.whole, tables.exact, ...target, ...matrix);
  });
}

/** A map given at every `cell`th pixel: pairs of source coordinates, row by row, NaN where there is none. */
export interface PlaceGrid {
  readonly width: number;
  readonly height: number;
  readonly cell: number;
  readonly places: Float64Array;
}

/**
 * Resamples a source by a grid of places into three planes of `width` × `height`, and says how far inside its border each pixel lies; the
 * border's pixels are continued up to `slack` pixels outside (negative).
 */
export function warpByGrid(
  k: Kernels,
  image: EncodedImage,
  grid: PlaceGrid,
  width: number,
  height: number,
  slack: number,
): { planes: [Float32Array, Float32Array, Float32Array]; inside: Float32Array } {
  return k.borrow(() => {
    const n = width * height;
    const plane = planeBytes(n);
    const dst = k.take(4 * plane);
    const inside = dst + 3 * plane;
    warpGridInto(k, image, grid, width, height, slack, dst, plane);
    const copy = (at: number): Float32Array => k.floats(at, n).slice();
    return { planes: [copy(dst), copy(dst + plane), copy(dst + 2 * plane)], inside: copy(inside) };
  });
}

/** The rows of a source that a grid of places reaches, from the first to before the end. @param height of the source */
export function gridRows({ places }: PlaceGrid, height: number): readonly [first: number, end: number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 1; i < places.length; i += 2) {
    const v = places[i];
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const first = Math.max(0, Math.min(height - 1, Math.floor(low) - 4));
  return [first, Math.max(first + 1, Math.min(height, Math.ceil(high) + 6))];
}

/** {@link warpByGrid} within the kernels' memory: `dst` takes the three planes and what lies inside, `plane` bytes apart. */
export function warpGridInto(
  k: Kernels,
  image: EncodedImage,
  grid: PlaceGrid,
  width: number,
  height: number,
  slack: number,
  dst: number,
  plane: number,
): void {
  const tables = weightTables(k);
  k.borrow(() => {
    const { width: w, height: h, white } = image;
    const size = codeBytes(white);
    const [first, end] = gridRows(grid, h);
    const src = uploadPart(k, image, { firstRow: first, endRow: end, firstColumn: 0, endColumn: w });
    const places = k.take(grid.places.byteLength);
    new Float64Array(k.bytes(places, grid.places.byteLength).buffer, places, grid.places.length).set(
      grid.places,
    );
    k.warpGrid(
      ...[src, w, h, first, 0, w, size, tables.whole, tables.exact, dst, plane, width, height],
      ...[places, grid.width, grid.cell, 1 / white, dst + 3 * plane, slack],
    );
  });
}
