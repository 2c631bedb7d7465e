/**
 * Gaussian and Laplacian pyramids with the five-tap kernel [1 4 6 4 1]/16 (Burt & Adelson 1983), mirrored at the borders
 * without repeating the edge sample. Pixel x of a level lies on pixel 2x of the level below it.
 */

export interface Plane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Number of levels below the finest one for a picture, down to a side of one or two pixels (Mertens et al. 2007). */
export function pyramidDepth(width: number, height: number): number {
  return Math.max(0, Math.floor(Math.log2(Math.min(width, height))));
}

/** Size of a level: halved and rounded up `level` times. */
export function levelSize(size: number, level: number): number {
  let s = size;
  for (let l = 0; l < level; l++) s = (s + 1) >> 1;
  return s;
}

const mirror = (i: number, n: number): number => {
  if (n === 1) return 0;
  const k = i < 0 ? -i : i;
  return k >= n ? Math.max(0, 2 * n - 2 - k) : k;
};

/** The next coarser level: blurred, every second pixel kept. */
export function reduce(plane: Plane): Plane {
  const { width: w, height: h, data } = plane;
  const width = (w + 1) >> 1;
  const height = (h + 1) >> 1;
  const out = new Float32Array(width * height);
  // a ring of five rows blurred across, so each source row is touched once
  const ring = new Float32Array(5 * width);
  let next = -2;
  const row = (source: number, slot: number): void => {
    const s = mirror(source, h) * w;
    const o = slot * width;
    const across = (x: number): number =>
      0.375 * data[s + 2 * x] +
      0.25 * (data[s + mirror(2 * x - 1, w)] + data[s + mirror(2 * x + 1, w)]) +
      0.0625 * (data[s + mirror(2 * x - 2, w)] + data[s + mirror(2 * x + 2, w)]);
    const last = (w - 3) >> 1;
    ring[o] = across(0);
    for (let x = 1, i = s + 2; x <= last; x++, i += 2)
      ring[o + x] =
        0.375 * data[i] + 0.25 * (data[i - 1] + data[i + 1]) + 0.0625 * (data[i - 2] + data[i + 2]);
    for (let x = Math.max(1, last + 1); x < width; x++) ring[o + x] = across(x);
  };
  for (let y = 0; y < height; y++) {
    for (; next <= 2 * y + 2; next++) row(next, (next + 5) % 5);
    const a = ((2 * y - 2 + 5) % 5) * width;
    const b = ((2 * y - 1 + 5) % 5) * width;
    const c = ((2 * y + 5) % 5) * width;
    const d = ((2 * y + 1 + 5) % 5) * width;
    const e = ((2 * y + 2 + 5) % 5) * width;
    const o = y * width;
    for (let x = 0; x < width; x++)
      out[o + x] =
        0.375 * ring[c + x] + 0.25 * (ring[b + x] + ring[d + x]) + 0.0625 * (ring[a + x] + ring[e + x]);
  }
  return { width, height, data: out };
}

/**
 * Adds `gain` times the expanded coarse level to `fine`, in place. With gain −1 this leaves the Laplacian of `fine`, with +1 it
 * rebuilds the finer level from it.
 */
export function addExpanded(fine: Plane, coarse: Plane, gain: number): void {
  const { width: w, height: h, data } = fine;
  const { width: cw, height: ch, data: c } = coarse;
  const line = new Float32Array(cw);
  // an index one past the end mirrors onto the last sample that lies on the finer grid
  const right = (x: number): number => (x + 1 < cw ? x + 1 : w % 2 === 0 ? cw - 1 : Math.max(0, cw - 2));
  for (let y = 0; y < h; y++) {
    const k = y >> 1;
    if (y % 2 === 0) {
      const up = k > 0 ? k - 1 : Math.min(1, ch - 1);
      const down = k + 1 < ch ? k + 1 : h % 2 === 0 ? ch - 1 : Math.max(0, ch - 2);
      const a = up * cw;
      const b = k * cw;
      const d = down * cw;
      for (let x = 0; x < cw; x++) line[x] = gain * (0.75 * c[b + x] + 0.125 * (c[a + x] + c[d + x]));
    } else {
      const b = k * cw;
      const d = (k + 1 < ch ? k + 1 : ch - 1) * cw;
      for (let x = 0; x < cw; x++) line[x] = gain * 0.5 * (c[b + x] + c[d + x]);
    }
    const o = y * w;
    data[o] += 0.75 * line[0] + 0.125 * (line[Math.min(1, cw - 1)] + line[right(0)]);
    for (let x = 1; x + 1 < cw; x++) {
      data[o + 2 * x - 1] += 0.5 * (line[x - 1] + line[x]);
      data[o + 2 * x] += 0.75 * line[x] + 0.125 * (line[x - 1] + line[x + 1]);
    }
    if (cw > 1) {
      const x = cw - 1;
      data[o + 2 * x - 1] += 0.5 * (line[x - 1] + line[x]);
      data[o + 2 * x] += 0.75 * line[x] + 0.125 * (line[x - 1] + line[right(x)]);
    }
    if (w % 2 === 0) data[o + w - 1] += line[cw - 1];
  }
}

/** All levels from the plane itself down to `depth` halvings. */
export function gaussianPyramid(plane: Plane, depth: number): Plane[] {
  const levels = [plane];
  for (let l = 0; l < depth; l++) levels.push(reduce(levels[l]));
  return levels;
}

/** Turns a Gaussian pyramid into the Laplacian pyramid of the same plane, in place; the coarsest level stays as it is. */
export function laplacianInPlace(levels: readonly Plane[]): void {
  for (let l = 0; l + 1 < levels.length; l++) addExpanded(levels[l], levels[l + 1], -1);
}

/** Rebuilds the finest level from a Laplacian pyramid, in place; afterwards every level is Gaussian again. */
export function collapseInPlace(levels: readonly Plane[]): Plane {
  for (let l = levels.length - 2; l >= 0; l--) addExpanded(levels[l], levels[l + 1], 1);
  return levels[0];
}
