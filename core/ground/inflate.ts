import { type EncodedImage } from '../raster/encodedImage';
import { sharedFloats } from '../raster/raster';
import { type FieldMap } from '../graph/tile';

/** long edge at which a silhouette is inflated: what comes of it is smooth */
const LONGEST = 512;
const SWEEPS = 60;
/** over-relaxation (Young 1954) */
const OMEGA = 1.9;
/** half width, pixels of the plate, below which a limb counts as flat: its edges would be all that there is of it */
const THIN = 3;

/**
 * The silhouette of a cut-out blown up: ∇²u = −4 inside, u = 0 outside, so that a disc becomes the square of a half ball's height (Gorelick
 * et al., *Shape Representation and Classification Using the Poisson Equation*, 2006). Limbs thinner than a few pixels are raised evenly, so
 * that they look at the viewer.
 * @param levels of the plate, with opacity
 * @returns u in square pixels of the plate
 */
export function inflate(levels: readonly EncodedImage[]): FieldMap {
  const first = levels.findIndex((l) => Math.max(l.width, l.height) <= LONGEST);
  const level = first === -1 ? levels.length - 1 : first;
  const { width, height } = levels[level];
  const cell = 2 ** level;
  const solved = solve(insideOf(levels[level]), width, height, Math.max(width, height) > 24 ? 1 : 0);
  const soft = blurred(solved, width, height);
  const values = sharedFloats(width * height);
  const limb = largestAround(soft, width, height, Math.ceil(THIN / cell));
  for (let i = 0; i < values.length; i++)
    values[i] = cell * cell * soft[i] + Math.max(0, THIN * THIN - cell * cell * limb[i]);
  return { is: 'field', width, height, cell, values };
}

const insideOf = ({ width, height, alpha }: EncodedImage): Uint8Array =>
  Uint8Array.from({ length: width * height }, (_, i) => (alpha && alpha[3 * i] <= 127 ? 0 : 1));

/** Poisson's equation by successive over-relaxation, begun from half the size. */
function solve(inside: Uint8Array, width: number, height: number, coarser: number): Float64Array {
  const u = new Float64Array(width * height);
  if (coarser && width > 8 && height > 8) {
    const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
    const half = new Uint8Array(w * h);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const [x1, y1] = [Math.min(width - 1, 2 * x + 1), Math.min(height - 1, 2 * y + 1)];
        const sum =
          inside[2 * y * width + 2 * x] +
          inside[2 * y * width + x1] +
          inside[y1 * width + 2 * x] +
          inside[y1 * width + x1];
        half[y * w + x] = sum >= 2 ? 1 : 0;
      }
    const begun = solve(half, w, h, coarser);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (inside[y * width + x]) u[y * width + x] = 4 * begun[(y >> 1) * w + (x >> 1)];
  }
  for (let sweep = 0; sweep < 2 * SWEEPS; sweep++)
    // one colour of a chessboard after the other, so that the order of pixels does not matter
    for (let y = 0; y < height; y++)
      for (let x = (y + sweep) & 1; x < width; x += 2) {
        const i = y * width + x;
        if (!inside[i]) continue;
        const sum =
          (x > 0 ? u[i - 1] : 0) +
          (x < width - 1 ? u[i + 1] : 0) +
          (y > 0 ? u[i - width] : 0) +
          (y < height - 1 ? u[i + width] : 0);
        u[i] += OMEGA * ((sum + 4) / 4 - u[i]);
      }
  return u;
}

/** Softened by about a pixel. */
function blurred(u: Float64Array, width: number, height: number): Float64Array {
  const along = (from: Float64Array, step: number, length: number, place: (i: number) => number) =>
    from.map((v, i) => {
      const at = place(i);
      const before = at > 0 ? from[i - step] : 0;
      const after = at < length - 1 ? from[i + step] : 0;
      return 0.25 * before + 0.5 * v + 0.25 * after;
    });
  const across = along(u, 1, width, (i) => i % width);
  return along(across, width, height, (i) => Math.floor(i / width));
}

/** The largest value within so many pixels to each side. */
function largestAround(u: Float64Array, width: number, height: number, by: number): Float64Array {
  const along = (from: Float64Array, step: number, length: number, place: (i: number) => number) =>
    from.map((_, i) => {
      const at = place(i);
      let most = 0;
      for (let k = -Math.min(by, at); k <= Math.min(by, length - 1 - at); k++)
        most = Math.max(most, from[i + k * step]);
      return most;
    });
  const across = along(u, 1, width, (i) => i % width);
  return along(across, width, height, (i) => Math.floor(i / width));
}
