import { asCodes, type EncodedImage } from '../../raster/encodedImage';
import { halveImage } from '../../raster/halveImage';
import { type Structure, structureTensor } from './structureTensor';

/** Distinct points of a picture and what their surroundings look like; parallel lists. */
export interface Features {
  readonly count: number;
  /** full-size pixels */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** standard error of a place, full-size pixels: finer levels are surer */
  readonly spread: Float32Array;
  /** {@link DESCRIPTOR} whole numbers a point, together a vector of {@link DESCRIPTOR_LENGTH} */
  readonly descriptors: Int16Array;
}

const CELLS = 4;
const ANGLES = 8;
/** numbers that describe a point */
export const DESCRIPTOR = CELLS * CELLS * ANGLES;
/** products of two still fit 32 bits */
export const DESCRIPTOR_LENGTH = 512;
/** samples along a side of the described square, and their spacing in pixels of the level */
const SAMPLES = 16;
const SPACING = 1.3;
const LARGEST_EDGE = 1700;
const LEVELS = 3;
const BUCKETS = 12;
const MARGIN = 14;
/** corner strength that noise does not reach, encoded units squared */
const LEAST_STRENGTH = 6e-6;

interface Corner {
  readonly x: number;
  readonly y: number;
  readonly strength: number;
}

/**
 * Multi-scale corners, the harmonic mean of the structure tensor's eigenvalues (Brown, Szeliski & Winder 2005), spread evenly over the
 * picture, each described by histograms of gradient directions around it (4 × 4 cells of 8 directions: Lowe 2004), upright, since the
 * frames of a set are turned little against each other.
 * @param wanted about as many points
 */
export function featurePoints(image: EncodedImage, wanted = 1100): Features {
  let source = asCodes(image);
  let level = 0;
  for (; Math.max(source.width, source.height) > LARGEST_EDGE; level++) source = halveImage(source);
  const found: { x: number; y: number; spread: number; descriptor: Float32Array }[] = [];
  for (let step = 0; step < LEVELS && Math.min(source.width, source.height) > 4 * MARGIN; step++, level++) {
    if (step > 0) source = halveImage(source);
    const { width, height, data, white } = source;
    const grey = new Float32Array(width * height);
    // the square root opens the darks, so that a shaded wall gives corners too
    for (let i = 0; i < grey.length; i++)
      grey[i] = Math.sqrt((data[3 * i] + 2 * data[3 * i + 1] + data[3 * i + 2]) / (4 * white));
    const structure = structureTensor(grey, width, height);
    const share = wanted * [0.6, 0.27, 0.13][step];
    const scale = 2 ** level;
    for (const corner of corners(structure.strength, width, height, share))
      found.push({
        x: (corner.x + 0.5) * scale - 0.5,
        y: (corner.y + 0.5) * scale - 0.5,
        spread: 0.35 * scale,
        descriptor: describe(structure, width, corner.x, corner.y),
      });
  }
  const descriptors = new Int16Array(found.length * DESCRIPTOR);
  found.forEach((f, i) =>
    f.descriptor.forEach((v, k) => (descriptors[i * DESCRIPTOR + k] = Math.round(v * DESCRIPTOR_LENGTH))),
  );
  return {
    count: found.length,
    x: Float32Array.from(found, (f) => f.x),
    y: Float32Array.from(found, (f) => f.y),
    spread: Float32Array.from(found, (f) => f.spread),
    descriptors,
  };
}

/** Local maxima of the corner strength, the strongest of each bucket first. */
function corners(strength: Float32Array, width: number, height: number, wanted: number): Corner[] {
  const buckets = new Map<number, Corner[]>();
  for (let y = MARGIN; y + MARGIN < height; y++)
    for (let x = MARGIN, i = y * width + MARGIN; x + MARGIN < width; x++, i++) {
      const s = strength[i];
      if (s < LEAST_STRENGTH || s < strength[i - 1] || s <= strength[i + 1]) continue;
      const [a, b] = [i - width, i + width];
      if (s < strength[a] || s <= strength[b] || s < strength[a - 1] || s < strength[a + 1]) continue;
      if (s < strength[b - 1] || s < strength[b + 1]) continue;
      const key = Math.floor((y * BUCKETS) / height) * BUCKETS + Math.floor((x * BUCKETS) / width);
      const corner = {
        x: x + vertex(strength[i - 1], s, strength[i + 1]),
        y: y + vertex(strength[a], s, strength[b]),
        strength: s,
      };
      const bucket = buckets.get(key);
      if (bucket) bucket.push(corner);
      else buckets.set(key, [corner]);
    }
  const lists = [...buckets.values()];
  lists.forEach((list) => list.sort((p, q) => q.strength - p.strength));
  // round after round one from each bucket, so that an even wall is not left out for a hedge
  const out: Corner[] = [];
  for (let k = 0; out.length < wanted; k++) {
    const round = lists.flatMap((list) => (k < list.length ? [list[k]] : []));
    if (round.length === 0) break;
    round.sort((p, q) => q.strength - p.strength);
    out.push(...round.slice(0, Math.ceil(wanted - out.length)));
  }
  return out;
}

const vertex = (left: number, middle: number, right: number): number => {
  const curve = left - 2 * middle + right;
  return curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (left - right)) / curve)) : 0;
};

/** One sample of the described square: its place, its weight, and the cells that it counts in. */
interface DescriptorSample {
  readonly du: number;
  readonly dv: number;
  readonly weight: number;
  /** first number of each cell, and its share */
  readonly cells: readonly (readonly [at: number, share: number])[];
}

const PATTERN: readonly DescriptorSample[] = Array.from({ length: SAMPLES * SAMPLES }, (_, k) => {
  const [i, j] = [k % SAMPLES, Math.floor(k / SAMPLES)];
  const [du, dv] = [i - (SAMPLES - 1) / 2, j - (SAMPLES - 1) / 2];
  const near = (place: number): (readonly [number, number])[] => {
    const at = (place + 0.5) / 4 - 0.5;
    const first = Math.floor(at);
    const both = [
      [first, first + 1 - at],
      [first + 1, at - first],
    ] as const;
    return both.filter(([cell]) => cell >= 0 && cell < CELLS);
  };
  return {
    du: du * SPACING,
    dv: dv * SPACING,
    weight: Math.exp(-(du * du + dv * dv) / (2 * 8 * 8)),
    cells: near(j).flatMap(([y, wy]) =>
      near(i).map(([x, wx]): [number, number] => [(y * CELLS + x) * ANGLES, wx * wy]),
    ),
  };
});

function describe({ x: gx, y: gy }: Structure, width: number, cx: number, cy: number): Float32Array {
  const out = new Float32Array(DESCRIPTOR);
  for (const { du, dv, weight, cells } of PATTERN) {
    const u = cx + du;
    const v = cy + dv;
    const iu = Math.floor(u);
    const iv = Math.floor(v);
    const fu = u - iu;
    const fv = v - iv;
    const at = iv * width + iu;
    const down = at + width;
    const sx =
      (1 - fv) * ((1 - fu) * gx[at] + fu * gx[at + 1]) + fv * ((1 - fu) * gx[down] + fu * gx[down + 1]);
    const sy =
      (1 - fv) * ((1 - fu) * gy[at] + fu * gy[at + 1]) + fv * ((1 - fu) * gy[down] + fu * gy[down + 1]);
    const size = Math.sqrt(sx * sx + sy * sy);
    if (size === 0) continue;
    const turn = ((Math.atan2(sy, sx) / (2 * Math.PI)) * ANGLES + ANGLES) % ANGLES;
    const angle = Math.floor(turn);
    const next = turn - angle;
    const here = angle % ANGLES;
    const beside = (angle + 1) % ANGLES;
    for (const [cell, share] of cells) {
      const w = size * weight * share;
      out[cell + here] += w * (1 - next);
      out[cell + beside] += w * next;
    }
  }
  unit(out);
  // a single strong edge must not be all there is (Lowe 2004)
  for (let k = 0; k < DESCRIPTOR; k++) out[k] = Math.min(0.2, out[k]);
  unit(out);
  return out;
}

function unit(v: Float32Array): void {
  let sum = 0;
  for (const a of v) sum += a * a;
  const k = sum > 0 ? 1 / Math.sqrt(sum) : 0;
  for (let i = 0; i < v.length; i++) v[i] *= k;
}
