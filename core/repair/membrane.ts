/** sides below which a plane is solved as it is */
const SMALL = 8;
/** sweeps on a plane that begins with what a smaller one gave, and on the smallest; and by how much a step goes beyond (successive over-relaxation) */
const [SWEEPS, FIRST_SWEEPS, BEYOND] = [14, 60, 1.6];

/**
 * The smoothest continuation of what is known into what is not: the solution of Laplace's equation with the known values as its border, nothing
 * flowing over the rectangle's edges. Laid over what is pasted it takes the difference at the border with it, and leaves all detail, as the
 * membrane of Pérez, Gangnet & Blake 2003 does. Solved from coarse to fine.
 * @param values [pixel]
 * @param known [pixel] not 0 where a value is known
 * @returns [pixel] known values as they are; all 0 where nothing is known
 */
export function membrane(
  values: Float32Array,
  known: Uint8Array,
  width: number,
  height: number,
): Float32Array {
  const out = new Float32Array(values.length);
  let [sum, count] = [0, 0];
  for (let i = 0; i < values.length; i++)
    if (known[i]) {
      out[i] = values[i];
      sum += values[i];
      count++;
    }
  if (count === 0 || count === values.length) return out;
  const isSmall = Math.min(width, height) < SMALL;
  if (isSmall) for (let i = 0; i < out.length; i++) out[i] = known[i] ? out[i] : sum / count;
  else fromCoarse(out, known, width, height);
  relax(out, known, width, height, isSmall ? FIRST_SWEEPS : SWEEPS);
  return out;
}

/** Begins what is not known with the membrane of a plane of half the size. */
function fromCoarse(out: Float32Array, known: Uint8Array, width: number, height: number): void {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const sums = new Float32Array(w * h);
  const counts = new Uint8Array(w * h);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      if (known[i]) {
        const o = (y >> 1) * w + (x >> 1);
        sums[o] += out[i];
        counts[o]++;
      }
  for (let o = 0; o < sums.length; o++) if (counts[o] > 0) sums[o] /= counts[o];
  const coarse = membrane(sums, counts, w, h);
  for (let y = 0, i = 0; y < height; y++) {
    const [row, below] = beside(y, h);
    for (let x = 0; x < width; x++, i++) {
      if (known[i]) continue;
      const [column, next] = beside(x, w);
      const near = 0.75 * coarse[row * w + column] + 0.25 * coarse[row * w + next];
      const far = 0.75 * coarse[below * w + column] + 0.25 * coarse[below * w + next];
      out[i] = 0.75 * near + 0.25 * far;
    }
  }
}

/** The cell of half the size in which a pixel lies, and the one that it lies nearer to. */
function beside(at: number, cells: number): [number, number] {
  const own = at >> 1;
  return [own, Math.min(cells - 1, Math.max(0, own + (at & 1 ? 1 : -1)))];
}

/** Each unknown pixel towards the mean of those beside it, in place, again and again. */
function relax(out: Float32Array, known: Uint8Array, width: number, height: number, sweeps: number): void {
  for (let sweep = 0; sweep < sweeps; sweep++)
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        if (known[i]) continue;
        let [sum, n] = [0, 0];
        if (x > 0) {
          sum += out[i - 1];
          n++;
        }
        if (x < width - 1) {
          sum += out[i + 1];
          n++;
        }
        if (y > 0) {
          sum += out[i - width];
          n++;
        }
        if (y < height - 1) {
          sum += out[i + width];
          n++;
        }
        out[i] += BEYOND * (sum / n - out[i]);
      }
}
