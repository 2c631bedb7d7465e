/** half the side of a patch: 7 × 7 pixels */
export const HALF = 3;

/** A picture with a gap, as patches of it are compared. */
export interface GapPicture {
  readonly width: number;
  readonly height: number;
  /** encoded R, G, B, three a pixel; in the gap what it is guessed to hold */
  readonly colours: Float32Array;
  /** [pixel] 1 in the gap */
  readonly gap: Uint8Array;
  /** [pixel] how much it counts in a patch */
  readonly weights: Float32Array;
  /** [pixel] 1 where a patch about it may be copied */
  readonly taken: Uint8Array;
  /** pixels with a 1 there */
  readonly sources: Int32Array;
  /** pixels whose patch reaches into the gap, row by row */
  readonly targets: Int32Array;
}

/** For each pixel what its patch is most like: the pixel there, and how much they differ. */
export interface PatchField {
  /** [pixel] −1 for those that are no targets */
  readonly nearest: Int32Array;
  /** [pixel] weighted mean of squared differences */
  readonly cost: Float32Array;
}

/** How much two patches differ: the weighted mean of their squared differences; no further than `most`. @param total of the weights of the target's patch */
function patchCost(p: GapPicture, target: number, source: number, total: number, most: number): number {
  const { width, height, colours, weights } = p;
  const x = target % width;
  const y = (target - x) / width;
  const left = Math.max(-HALF, -x);
  const right = Math.min(HALF, width - 1 - x);
  const top = Math.max(-HALF, -y);
  const bottom = Math.min(HALF, height - 1 - y);
  const limit = most * total;
  let sum = 0;
  for (let v = top; v <= bottom; v++) {
    let t = target + v * width + left;
    let s = 3 * (source + v * width + left);
    for (let u = left; u <= right; u++, t++, s += 3) {
      const r = colours[3 * t] - colours[s];
      const g = colours[3 * t + 1] - colours[s + 1];
      const b = colours[3 * t + 2] - colours[s + 2];
      sum += weights[t] * (r * r + g * g + b * b);
    }
    if (sum > limit) return Infinity;
  }
  return sum / total;
}

/** Sum of the weights of the patch about each target, 0 for other pixels. */
function patchWeights({ width, height, weights, targets }: GapPicture): Float32Array {
  const out = new Float32Array(weights.length);
  for (const t of targets) {
    const x = t % width;
    const y = (t - x) / width;
    for (let v = Math.max(-HALF, -y); v <= Math.min(HALF, height - 1 - y); v++)
      for (let u = Math.max(-HALF, -x); u <= Math.min(HALF, width - 1 - x); u++)
        out[t] += weights[t + v * width + u];
  }
  return out;
}

/**
 * Nearest patches by passing good ones on to those beside them and trying others at random, nearer and nearer (PatchMatch: Barnes, Shechtman,
 * Finkelstein & Goldman 2009), in place.
 * @param reach pixels about the best one in which others are tried at random
 * @param isBackward from the last target to the first: by turns, so that what is good spreads everywhere
 */
export function searchPatches(
  p: GapPicture,
  { nearest, cost }: PatchField,
  random: () => number,
  reach: number,
  isBackward: boolean,
): void {
  const { width, height, taken, sources, targets } = p;
  const totals = patchWeights(p);
  const attempt = (target: number, source: number): void => {
    if (source < 0 || source >= taken.length || taken[source] === 0 || source === nearest[target]) return;
    const value = patchCost(p, target, source, totals[target], cost[target]);
    if (value < cost[target]) {
      cost[target] = value;
      nearest[target] = source;
    }
  };
  for (const target of targets)
    cost[target] =
      nearest[target] < 0 ? Infinity : patchCost(p, target, nearest[target], totals[target], Infinity);
  const step = isBackward ? 1 : -1;
  for (let k = 0; k < targets.length; k++) {
    const target = targets[isBackward ? targets.length - 1 - k : k];
    const x = target % width;
    // what is good beside it is good here, shifted alike
    const isWithin = x + step >= 0 && x + step < width;
    if (isWithin && nearest[target + step] >= 0)
      attempt(target, shifted(nearest[target + step], -step, width));
    const row = target + step * width;
    if (row >= 0 && row < taken.length && nearest[row] >= 0) attempt(target, nearest[row] - step * width);
    if (nearest[target] < 0) attempt(target, sources[Math.floor(random() * sources.length)]);
    const own = nearest[target];
    if (own < 0) continue;
    const ox = own % width;
    const oy = (own - ox) / width;
    for (let within = reach; within >= 1; within /= 2) {
      const u = Math.round(ox + (2 * random() - 1) * within);
      const v = Math.round(oy + (2 * random() - 1) * within);
      if (u >= 0 && v >= 0 && u < width && v < height) attempt(target, v * width + u);
    }
  }
}

/** A pixel so many columns further; −1 beyond the row's ends. */
function shifted(pixel: number, by: number, width: number): number {
  const x = (pixel % width) + by;
  return x < 0 || x >= width ? -1 : pixel + by;
}
