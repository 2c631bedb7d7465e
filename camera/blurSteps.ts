import { type Kernels } from '@/core/kernels/kernels';
import { emptyLevels, type Field, type Level, levelIn, levelSize, type Part } from './discField';
import { discReach, discRows, discStep, spreadDiscs } from './spreadDiscs';

/** The steps of {@link defocus} that touch every place, plain or compiled, and the memory that they work in. */
export interface BlurSteps {
  readonly levels: readonly Level[];
  /** Spreads a level's cells over their discs and lays these over its field. @returns the part that they reach */
  readonly overlay: (level: Level) => Part;
  /** Lays a field over the part of one of twice as many places, drawn large between the middles of its own. */
  readonly overlayDoubled: (coarse: Field, fine: Field, part: Part) => void;
}

/** The plain form of the steps. @param count of levels */
export function plainBlurSteps(width: number, height: number, count: number): BlurSteps {
  return {
    levels: emptyLevels(width, height, count),
    overlay: ({ cells, sums, field }) => {
      const part = discReach(cells, sums);
      spreadDiscs(cells, sums);
      overlaySums(sums, field, part);
      return part;
    },
    overlayDoubled,
  };
}

/** words before each row of a disc, and for the disc itself */
const WORDS = 4;

/**
 * The compiled form, in the kernels' own memory: good until what is borrowed is given back.
 * @param radius of the largest disc in any level, squares
 */
export function kernelBlurSteps(
  k: Kernels,
  width: number,
  height: number,
  count: number,
  radius: number,
): BlurSteps {
  const sizes = Array.from({ length: count }, (_, l) => levelSize(width, height, l));
  // memory moves when it grows: all is taken before any of it is looked at
  const places = sizes.map(({ width: w, height: h }) =>
    [16, 16, 16, 4, 4].map((bytes) => k.take(bytes * w * h)),
  );
  // the radii of a layer are within a fifth of each other and two squares, and a disc has no more rows than its width
  const table = k.take(discStep(0.2 * radius + 2) * (2 * radius + 6) * WORDS * 4);
  const words = new Int32Array(k.bytes(0, 4).buffer);
  const levels = sizes.map((size, l) => {
    const n = size.width * size.height;
    const [field, sums, light, cells] = places[l];
    k.floats(field, 4 * n).fill(0);
    k.floats(sums, 4 * n).fill(0);
    return levelIn(
      size,
      k.floats(field, 4 * n),
      k.floats(sums, 4 * n),
      k.floats(light, 4 * n),
      words.subarray(cells >> 2, (cells >> 2) + n),
    );
  });
  const pointer = (data: Float32Array | Int32Array): number => data.byteOffset;
  return {
    levels,
    overlay: (level) => {
      const { cells, sums, field } = level;
      const part = discReach(cells, sums);
      const shapes = places[levels.indexOf(level)][4];
      // a layer's discs are alike: their shapes are few
      layShapes(cells.radii, cells.count, words, shapes >> 2, table >> 2);
      k.spreadCells(
        pointer(cells.places),
        shapes,
        pointer(cells.light),
        cells.count,
        table,
        pointer(sums.data),
        sums.width,
        sums.height,
      );
      k.overlaySums(
        pointer(sums.data),
        pointer(field.data),
        field.width,
        part.left,
        part.top,
        part.right,
        part.bottom,
      );
      return part;
    },
    overlayDoubled: (coarse, fine, { left, top, right, bottom }) =>
      k.overlayDoubled(
        pointer(coarse.data),
        coarse.width,
        coarse.height,
        pointer(fine.data),
        fine.width,
        left,
        top,
        right,
        bottom,
      ),
  };
}

/** Writes where each cell's shape lies, and the shapes themselves as `spreadCells` reads them. @param to, table words from the memory's start */
function layShapes(radii: Float32Array, count: number, words: Int32Array, to: number, table: number): void {
  const rests = new Float32Array(words.buffer);
  const known = new Map<number, number>();
  let next = 0;
  let before = NaN;
  let found = -1;
  for (let k = 0; k < count; k++) {
    const step = discStep(radii[k]);
    if (step !== before) {
      before = step;
      found = step < 0 ? -1 : (known.get(step) ?? -2);
      if (found === -2) {
        const { first, from, fromRest, to: ends, toRest, share } = discRows(step);
        let at = table + next;
        words[at] = first;
        words[at + 1] = from.length;
        rests[at + 2] = share;
        for (let row = 0; row < from.length; row++) {
          at += WORDS;
          words[at] = from[row];
          rests[at + 1] = fromRest[row];
          words[at + 2] = ends[row];
          rests[at + 3] = toRest[row];
        }
        found = 4 * next;
        known.set(step, found);
        next += WORDS * (from.length + 1);
      }
    }
    words[to + k] = found;
  }
}

/** Sums a layer's differences up along its rows, lays it over what is there, and leaves `sums` empty. */
function overlaySums(sums: Field, field: Field, part: Part): void {
  const { data, width } = sums;
  const out = field.data;
  for (let y = part.top; y < part.bottom; y++) {
    let a = 0;
    let b = 0;
    let c = 0;
    let run = 0;
    for (let i = 4 * (y * width + part.left), end = 4 * (y * width + part.right); i < end; i += 4) {
      a += data[i];
      b += data[i + 1];
      c += data[i + 2];
      run += data[i + 3];
      // what is left of steps that cancel each other is rounding
      if (run <= 1e-5) continue;
      // where a layer's own discs overlap beyond 1, they share the place
      const k = run > 1 ? 1 / run : 1;
      const through = run < 1 ? 1 - run : 0;
      out[i] = a * k + out[i] * through;
      out[i + 1] = b * k + out[i + 1] * through;
      out[i + 2] = c * k + out[i + 2] * through;
      out[i + 3] = run * k + out[i + 3] * through;
    }
  }
  clearPart(sums, part);
}

function overlayDoubled(coarse: Field, fine: Field, { left, top, right, bottom }: Part): void {
  const { width: w, height: h, data } = coarse;
  const { width, data: out } = fine;
  const line = new Float32Array(4 * w);
  for (let y = top; y < bottom; y++) {
    // three quarters of its own row and one of the next nearest
    const own = 4 * w * (y >> 1);
    const next = 4 * w * Math.max(0, Math.min(h - 1, (y >> 1) + (y & 1 ? 1 : -1)));
    for (let i = 0; i < line.length; i++) line[i] = 0.75 * data[own + i] + 0.25 * data[next + i];
    for (let x = left, i = 4 * (y * width + left); x < right; x++, i += 4) {
      const p = 4 * (x >> 1);
      const q = x & 1 ? Math.min(p + 4, 4 * w - 4) : Math.max(p - 4, 0);
      const run = 0.75 * line[p + 3] + 0.25 * line[q + 3];
      if (run <= 1e-5) continue;
      const through = 1 - run;
      out[i] = 0.75 * line[p] + 0.25 * line[q] + out[i] * through;
      out[i + 1] = 0.75 * line[p + 1] + 0.25 * line[q + 1] + out[i + 1] * through;
      out[i + 2] = 0.75 * line[p + 2] + 0.25 * line[q + 2] + out[i + 2] * through;
      out[i + 3] = run + out[i + 3] * through;
    }
  }
}

/** Empties a part of a field. */
export function clearPart({ data, width }: Field, { left, top, right, bottom }: Part): void {
  for (let y = top; y < bottom; y++) data.fill(0, 4 * (y * width + left), 4 * (y * width + right));
}
