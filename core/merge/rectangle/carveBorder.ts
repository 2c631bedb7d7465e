/** Where each pixel of a filled rectangle comes from. */
export interface Carved {
  /** [pixel] column and row of the picture that lies there now */
  readonly fromX: Int16Array;
  readonly fromY: Int16Array;
}

/** what a seam pays for a pixel that is not there */
const MISSING = 1e4;
/** and for one that another seam has doubled before, so that they spread */
const DOUBLED = 0.12;

/** A run of missing pixels along a side. */
interface Run {
  readonly side: 0 | 1 | 2 | 3;
  readonly from: number;
  readonly to: number;
}

/**
 * Fills a picture with an uneven border to its whole rectangle: along the longest run of missing border pixels a seam of least contrast is
 * doubled, which pushes what lies outside it to the border; again and again until nothing is missing there (He, Chang & Sun 2013,
 * “Rectangling panoramic images via warping”, section 3.1; seams: Avidan & Shamir 2007).
 * @param luma [pixel] 0…1
 * @param covered [pixel] 1 where there is picture
 */
export function carveBorder(luma: Float32Array, covered: Uint8Array, width: number, height: number): Carved {
  const n = width * height;
  const value = luma.slice();
  const there = covered.slice();
  const doubled = new Float32Array(n);
  const fromX = Int16Array.from({ length: n }, (_, i) => i % width);
  const fromY = Int16Array.from({ length: n }, (_, i) => Math.floor(i / width));
  const copy = (to: number, from: number): void => {
    value[to] = value[from];
    there[to] = there[from];
    doubled[to] = doubled[from];
    fromX[to] = fromX[from];
    fromY[to] = fromY[from];
  };
  // every seam fills a pixel of the border at least
  for (let guard = 0; guard < n; guard++) {
    const run = longestRun(there, width, height);
    if (!run) break;
    const level = run.side < 2;
    const [along, across] = level ? [1, width] : [width, 1];
    const deep = level ? height : width;
    const seam = leastSeam(value, there, doubled, run, along, across, deep);
    const last = run.side % 2 === 1;
    for (let a = run.from; a <= run.to; a++) {
      const base = a * along;
      const s = seam[a - run.from];
      if (last) for (let d = deep - 1; d > s; d--) copy(base + d * across, base + (d - 1) * across);
      else for (let d = 0; d < s; d++) copy(base + d * across, base + (d + 1) * across);
      doubled[base + s * across] += DOUBLED;
      const other = last ? s + 1 : s - 1;
      if (other >= 0 && other < deep) doubled[base + other * across] += DOUBLED;
    }
  }
  return { fromX, fromY };
}

/** Sides in turn: upper, lower, left, right. */
function longestRun(there: Uint8Array, width: number, height: number): Run | undefined {
  let best: Run | undefined;
  const sides = [
    [0, 1, width],
    [(height - 1) * width, 1, width],
    [0, width, height],
    [width - 1, width, height],
  ] as const;
  sides.forEach(([start, step, length], side) => {
    let from = -1;
    for (let a = 0; a <= length; a++) {
      const missing = a < length && there[start + a * step] === 0;
      if (missing && from < 0) from = a;
      if (!missing && from >= 0) {
        if (!best || a - from > best.to - best.from + 1)
          best = { side: side as Run['side'], from, to: a - 1 };
        from = -1;
      }
    }
  });
  return best;
}

/** The seam of least contrast over a run, by dynamic programming. @returns depth for each place along the run */
function leastSeam(
  value: Float32Array,
  there: Uint8Array,
  doubled: Float32Array,
  { from, to }: Run,
  along: number,
  across: number,
  deep: number,
): Int32Array {
  const length = to - from + 1;
  const cost = new Float32Array(length * deep);
  for (let a = 0, k = 0; a < length; a++)
    for (let d = 0; d < deep; d++, k++) {
      const i = (from + a) * along + d * across;
      let own = MISSING;
      if (there[i] !== 0) {
        const [up, down] = [d > 0 ? i - across : i, d + 1 < deep ? i + across : i];
        const [back, on] = [a > 0 ? i - along : i, a + 1 < length ? i + along : i];
        own = Math.abs(value[down] - value[up]) + Math.abs(value[on] - value[back]) + doubled[i];
      }
      if (a > 0) {
        const before = k - deep;
        let least = cost[before];
        if (d > 0 && cost[before - 1] < least) least = cost[before - 1];
        if (d + 1 < deep && cost[before + 1] < least) least = cost[before + 1];
        own += least;
      }
      cost[k] = own;
    }
  const seam = new Int32Array(length);
  let at = 0;
  for (let d = 1; d < deep; d++) if (cost[(length - 1) * deep + d] < cost[(length - 1) * deep + at]) at = d;
  for (let a = length - 1; a >= 0; a--) {
    if (a < length - 1) {
      const row = a * deep;
      let best = at;
      if (at > 0 && cost[row + at - 1] < cost[row + best]) best = at - 1;
      if (at + 1 < deep && cost[row + at + 1] < cost[row + best]) best = at + 1;
      at = best;
    }
    seam[a] = at;
  }
  return seam;
}
