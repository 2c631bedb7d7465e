import { randomSource } from '../raster/random';
import { type FillOffsets } from './fillOffsets';
import { membrane } from './membrane';
import { type GapPicture, HALF, type PatchField, searchPatches } from './patchField';

/** What a gap is filled from. */
export interface Gap {
  readonly width: number;
  readonly height: number;
  /** encoded R, G, B */
  readonly planes: readonly Float32Array[];
  /** [pixel] 1 in the gap */
  readonly gap: Uint8Array;
  /** [pixel] 1 where it may be taken from; what lies in the gap is never */
  readonly taken: Uint8Array;
}

/** sides of the gap below which its sizes are not halved any more, patches */
const COARSEST = 2.5;
/** rounds of searching and voting on the coarsest size, and on the finest */
const [MOST_ROUNDS, LEAST_ROUNDS] = [20, 2];
/** part of the picture's size within which others are tried at random, where the coarser size has said about where */
const NEAR = 0.1;
/** by how much a pixel of the gap counts less with each pixel further in, and the least */
const [FADE, LEAST_WEIGHT] = [1.25, 0.08];
/** pixels around the gap that are found a source too, so that what is copied can be held against what is there */
const RIM = 5;

/**
 * Fills a gap with patches from elsewhere: each patch that reaches into it looks like some patch without it, and each pixel like all the patches
 * over it say (Wexler, Shechtman & Irani 2007), searched from coarse to fine by PatchMatch (Barnes et al. 2009).
 * @returns what each pixel is copied from; undefined where no whole patch may be taken
 */
export function patchFill(whole: Gap, seed: number): Omit<FillOffsets, 'level'> | undefined {
  const sizes = [whole];
  for (let size = whole; ; sizes.push(size)) {
    const smaller = halvedGap(size);
    if (innerSide(size) < COARSEST * (2 * HALF + 1) || picture(smaller).sources.length < 64) break;
    size = smaller;
  }
  const random = randomSource(seed * 7919 + 17);
  let found: { readonly at: GapPicture; readonly field: PatchField } | undefined;
  let isBackward = false;
  for (let k = sizes.length - 1; k >= 0; k--) {
    const at = picture(sizes[k]);
    if (at.sources.length === 0) return undefined;
    const field = found ? enlarged(found.field, found.at, at) : emptyField(at);
    if (found) guess(at, field, found.at);
    else smoothGuess(at);
    const size = Math.max(at.width, at.height);
    const search = (): void => {
      searchPatches(at, field, random, found ? NEAR * size : size, isBackward);
      isBackward = !isBackward;
    };
    const rounds = Math.max(LEAST_ROUNDS, Math.round(MOST_ROUNDS / 2 ** (sizes.length - 1 - k)));
    for (let round = 0; round < rounds; round++) {
      search();
      vote(at, field);
    }
    // what was voted has changed what is nearest
    search();
    found = { at, field };
  }
  if (!found) return undefined;
  const { at: last, field } = found;
  return offsetsOf(last, agreed(last, field));
}

/** The larger side of the largest square that fits into a gap, about. */
function innerSide({ width, height, gap }: Gap): number {
  let deepest = 0;
  const depth = depths(gap, width, height);
  for (const d of depth) deepest = Math.max(deepest, d);
  return 2 * deepest;
}

/** Pixels to what lies outside a gap, by steps to the side. */
function depths(gap: Uint8Array, width: number, height: number): Uint16Array {
  const depth = new Uint16Array(gap.length);
  const far = width + height;
  const at = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? far : depth[y * width + x];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      depth[i] = gap[i] ? Math.min(far, 1 + Math.min(at(x - 1, y), at(x, y - 1))) : 0;
  for (let y = height - 1, i = gap.length - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--, i--)
      if (gap[i]) depth[i] = Math.min(depth[i], 1 + Math.min(at(x + 1, y), at(x, y + 1)));
  return depth;
}

/** Half the size: colours are the mean of what is known; a pixel with any of the gap belongs to it. */
function halvedGap({ width, height, planes, gap, taken }: Gap): Gap {
  const [w, h] = [width >> 1, height >> 1];
  const out = planes.map(() => new Float32Array(w * h));
  const own = new Uint8Array(w * h);
  const free = new Uint8Array(w * h).fill(1);
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o++) {
      const corners = [0, 1, width, width + 1].map((d) => 2 * y * width + 2 * x + d);
      const there = corners.filter((i) => !gap[i]);
      if (there.length < 4) own[o] = 1;
      if (corners.some((i) => !taken[i])) free[o] = 0;
      planes.forEach((p, c) => {
        for (const i of there) out[c][o] += p[i] / there.length;
      });
    }
  return { width: w, height: h, planes: out, gap: own, taken: free };
}

function picture({ width, height, planes, gap, taken }: Gap): GapPicture {
  const colours = new Float32Array(3 * gap.length);
  const [R, G, B] = planes;
  for (let i = 0; i < gap.length; i++) {
    colours[3 * i] = R[i];
    colours[3 * i + 1] = G[i];
    colours[3 * i + 2] = B[i];
  }
  const depth = depths(gap, width, height);
  const weights = Float32Array.from(depth, (d) => Math.max(LEAST_WEIGHT, FADE ** -d));
  const bad = Uint8Array.from(gap, (g, i) => (g || !taken[i] ? 1 : 0));
  const whole = spread(bad, width, height, HALF);
  const free = new Uint8Array(gap.length);
  for (let y = HALF; y < height - HALF; y++)
    for (let x = HALF; x < width - HALF; x++) free[y * width + x] = whole[y * width + x] ? 0 : 1;
  const reached = spread(gap, width, height, Math.max(HALF, RIM));
  const indices = (of: Uint8Array): Int32Array => {
    let n = 0;
    const list = new Int32Array(of.length);
    for (let i = 0; i < of.length; i++) if (of[i]) list[n++] = i;
    return list.slice(0, n);
  };
  return {
    ...{ width, height, colours, gap, weights, taken: free },
    sources: indices(free),
    targets: indices(reached),
  };
}

/** Where anything of a mask lies within so many pixels, to the sides and diagonally. */
function spread(mask: Uint8Array, width: number, height: number, by: number): Uint8Array {
  const along = new Uint8Array(mask.length);
  const out = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++)
    for (let x = 0, last = -by - 1; x < width + by; x++) {
      if (x < width && mask[y * width + x]) last = x;
      if (x >= by && x - by < width && x - last <= 2 * by) along[y * width + x - by] = 1;
    }
  for (let x = 0; x < width; x++)
    for (let y = 0, last = -by - 1; y < height + by; y++) {
      if (y < height && along[y * width + x]) last = y;
      if (y >= by && y - by < height && y - last <= 2 * by) out[(y - by) * width + x] = 1;
    }
  return out;
}

const emptyField = (p: GapPicture): PatchField => ({
  nearest: new Int32Array(p.gap.length).fill(-1),
  cost: new Float32Array(p.gap.length).fill(Infinity),
});

/** What was found on half the size, where that may be taken at this one. */
function enlarged({ nearest }: PatchField, from: GapPicture, to: GapPicture): PatchField {
  const field = emptyField(to);
  for (const target of to.targets) {
    const [x, y] = [target % to.width, Math.floor(target / to.width)];
    const cell = Math.min(from.height - 1, y >> 1) * from.width + Math.min(from.width - 1, x >> 1);
    const known = nearest[cell];
    if (known < 0) continue;
    const u = 2 * (known % from.width) + (x & 1);
    const v = 2 * Math.floor(known / from.width) + (y & 1);
    const source = Math.min(to.height - 1, v) * to.width + Math.min(to.width - 1, u);
    if (to.taken[source]) field.nearest[target] = source;
  }
  return field;
}

/** Fills the gap smoothly from its border, to begin with. */
function smoothGuess(p: GapPicture): void {
  const known = Uint8Array.from(p.gap, (g) => 1 - g);
  for (let c = 0; c < 3; c++) {
    const plane = Float32Array.from(p.gap, (_, i) => p.colours[3 * i + c]);
    const smooth = membrane(plane, known, p.width, p.height);
    for (let i = 0; i < smooth.length; i++) if (p.gap[i]) p.colours[3 * i + c] = smooth[i];
  }
}

/** Fills the gap by what its pixels are copied from, and as it was on half the size where that may not be taken here. */
function guess(p: GapPicture, { nearest }: PatchField, coarse: GapPicture): void {
  for (const i of p.targets) {
    if (!p.gap[i]) continue;
    const cell =
      Math.min(coarse.height - 1, Math.floor(i / p.width) >> 1) * coarse.width +
      Math.min(coarse.width - 1, (i % p.width) >> 1);
    const [from, o] = nearest[i] < 0 ? [coarse.colours, cell] : [p.colours, nearest[i]];
    for (let c = 0; c < 3; c++) p.colours[3 * i + c] = from[3 * o + c];
  }
}

/** Every pixel of the gap as the mean of what the patches over it say, the better ones more. */
function vote(p: GapPicture, { nearest, cost }: PatchField): void {
  const { width, height, colours, gap, weights, targets } = p;
  const costs = Float32Array.from(targets, (t) => cost[t]).filter((v) => v < Infinity);
  costs.sort();
  // three quarters of the patches differ by less
  const usual = Math.max(1e-6, costs[Math.floor(0.75 * (costs.length - 1))] ?? 1e-6);
  const sums = new Float64Array(4 * gap.length);
  for (const target of targets) {
    const source = nearest[target];
    if (source < 0) continue;
    const say = Math.exp(-cost[target] / (2 * usual)) * weights[target];
    const x = target % width;
    const y = (target - x) / width;
    for (let v = Math.max(-HALF, -y); v <= Math.min(HALF, height - 1 - y); v++)
      for (let u = Math.max(-HALF, -x); u <= Math.min(HALF, width - 1 - x); u++) {
        const by = v * width + u;
        if (!gap[target + by]) continue;
        const o = 4 * (target + by);
        const s = 3 * (source + by);
        sums[o] += say * colours[s];
        sums[o + 1] += say * colours[s + 1];
        sums[o + 2] += say * colours[s + 2];
        sums[o + 3] += say;
      }
  }
  for (let i = 0; i < gap.length; i++)
    if (gap[i] && sums[4 * i + 3] > 0)
      for (let c = 0; c < 3; c++) colours[3 * i + c] = sums[4 * i + c] / sums[4 * i + 3];
}

/** pixels to either side among whose shifts the most frequent good one is taken: crumbs of others between them go */
const AMONG = 2;

/** Each pixel's source as most of those about it have it. */
function agreed(p: GapPicture, { nearest, cost }: PatchField): Int32Array {
  const { width, height, targets } = p;
  const out = nearest.slice();
  for (const target of targets) {
    const [x, y] = [target % width, Math.floor(target / width)];
    const says = new Map<number, number>();
    for (let v = -AMONG; v <= AMONG; v++)
      for (let u = -AMONG; u <= AMONG; u++) {
        if (x + u < 0 || x + u >= width || y + v < 0 || y + v >= height) continue;
        const other = target + v * width + u;
        if (nearest[other] < 0) continue;
        const source = nearest[other] - v * width - u;
        if (source < 0 || source >= p.taken.length || !p.taken[source]) continue;
        says.set(source, (says.get(source) ?? 0) + 1 / (1e-4 + cost[other]));
      }
    let best = -1;
    for (const [source, said] of says)
      if (said > best) {
        best = said;
        out[target] = source;
      }
  }
  return out;
}

function offsetsOf(p: GapPicture, sources: Int32Array): Omit<FillOffsets, 'level'> {
  const { width, targets } = p;
  let [left, top, right, bottom] = [Infinity, Infinity, 0, 0];
  for (const t of targets) {
    left = Math.min(left, t % width);
    right = Math.max(right, t % width);
    top = Math.min(top, Math.floor(t / width));
    bottom = Math.max(bottom, Math.floor(t / width));
  }
  if (targets.length === 0) [left, top] = [0, 0];
  const [w, h] = targets.length === 0 ? [0, 0] : [right - left + 1, bottom - top + 1];
  const [dx, dy] = [new Int16Array(w * h), new Int16Array(w * h)];
  for (const t of targets) {
    if (sources[t] < 0) continue;
    const o = (Math.floor(t / width) - top) * w + (t % width) - left;
    dx[o] = (sources[t] % width) - (t % width);
    dy[o] = Math.floor(sources[t] / width) - Math.floor(t / width);
  }
  return { x: left, y: top, width: w, height: h, dx, dy };
}
