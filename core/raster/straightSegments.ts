import { length2 } from './length';

/** A straight edge in a picture, pixels. */
export interface Segment {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** gradient below which a pixel has no direction, of luma 0…1 a pixel */
const LEAST_GRADIENT = 0.02;
/** directions that belong together, radians: an eighth of a half turn */
const TOLERANCE = Math.PI / 8;
/** how wide an edge may be for its length */
const MOST_WIDTH = 0.12;
/** share of the segment's length that must be seen as edge */
const LEAST_FILLED = 0.6;

/**
 * Straight edges of a picture: pixels whose gradients point alike grow into regions, strongest first, and a region that is long and narrow
 * is a segment along its main axis (after Grompone von Gioi et al. 2010, “LSD”, without its test against chance: short ones are left out instead).
 * @param luma [pixel] 0…1
 * @param covered [pixel] 1 where there is picture; edges of what is missing do not count
 * @param least length, pixels
 */
export function straightSegments(
  luma: Float32Array,
  covered: Uint8Array,
  width: number,
  height: number,
  least: number,
): Segment[] {
  const n = width * height;
  const angle = new Float32Array(n);
  const strength = new Float32Array(n);
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1; x + 1 < width; x++) {
      const i = y * width + x;
      if (!(covered[i] && covered[i - 1] && covered[i + 1] && covered[i - width] && covered[i + width]))
        continue;
      const gx = (luma[i + 1] - luma[i - 1]) / 2;
      const gy = (luma[i + width] - luma[i - width]) / 2;
      strength[i] = length2(gx, gy);
      angle[i] = Math.atan2(gy, gx);
    }
  const seeds = Array.from(strength.keys())
    .filter((i) => strength[i] > LEAST_GRADIENT)
    .sort((a, b) => strength[b] - strength[a]);
  const used = new Uint8Array(n);
  const segments: Segment[] = [];
  for (const seed of seeds) {
    if (used[seed]) continue;
    const region = grow(seed, angle, strength, used, width);
    const found = region.length >= least && axisOf(region, strength, width, least);
    if (found) segments.push(found);
  }
  return segments;
}

/** All pixels joined to a seed whose gradient points as the region's does. */
function grow(
  seed: number,
  angle: Float32Array,
  strength: Float32Array,
  used: Uint8Array,
  width: number,
): number[] {
  const region = [seed];
  used[seed] = 1;
  let [sx, sy] = [Math.cos(angle[seed]), Math.sin(angle[seed])];
  const cosine = Math.cos(TOLERANCE);
  for (let k = 0; k < region.length; k++)
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const j = region[k] + dy * width + dx;
        if (used[j] || !(strength[j] > LEAST_GRADIENT)) continue;
        const [cx, cy] = [Math.cos(angle[j]), Math.sin(angle[j])];
        if (cx * sx + cy * sy < cosine * length2(sx, sy)) continue;
        used[j] = 1;
        region.push(j);
        sx += cx;
        sy += cy;
      }
  return region;
}

/** The main axis of a region by its moments, if the region is a line. */
function axisOf(
  region: readonly number[],
  strength: Float32Array,
  width: number,
  least: number,
): Segment | undefined {
  let [sum, mx, my] = [0, 0, 0];
  for (const i of region) {
    const w = strength[i];
    sum += w;
    mx += w * (i % width);
    my += w * Math.floor(i / width);
  }
  mx /= sum;
  my /= sum;
  let [xx, xy, yy] = [0, 0, 0];
  for (const i of region) {
    const [dx, dy] = [(i % width) - mx, Math.floor(i / width) - my];
    xx += strength[i] * dx * dx;
    xy += strength[i] * dx * dy;
    yy += strength[i] * dy * dy;
  }
  const turn = 0.5 * Math.atan2(2 * xy, xx - yy);
  const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
  let [first, last, wide] = [Infinity, -Infinity, 0];
  const bins = new Set<number>();
  for (const i of region) {
    const [dx, dy] = [(i % width) - mx, Math.floor(i / width) - my];
    const along = dx * ux + dy * uy;
    first = Math.min(first, along);
    last = Math.max(last, along);
    wide += (strength[i] * (dx * uy - dy * ux) ** 2) / sum;
    bins.add(Math.round(along));
  }
  const length = last - first;
  // an even strip of width w spreads by w / √12
  if (length < least || Math.sqrt(12 * wide) > Math.max(3, MOST_WIDTH * length)) return undefined;
  if (bins.size < LEAST_FILLED * length) return undefined;
  return { x0: mx + first * ux, y0: my + first * uy, x1: mx + last * ux, y1: my + last * uy };
}
