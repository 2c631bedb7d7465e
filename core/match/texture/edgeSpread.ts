import { type EncodedImage } from '../../raster/encodedImage';
import { gaussianBlur } from '../../raster/gaussianBlur';
import { length2 } from '../../raster/length';

/** blur before anything is measured: noise has no edges then, pixels */
const BEFORE = 0.6;
/** known blur that edges are blurred by once more, pixels */
const AGAIN = 2;
/** variance that the difference of the two neighbours adds: it is a slope over a width of two, pixels² */
const ACROSS = 4 / 12;
/** part of the pixels, by their gradient, that can be edges */
const STRONGEST = 0.03;
/** edges wanted at least */
const LEAST_EDGES = 40;
/** opaque pixels about an edge that counts: the rim of a cut-out is no edge of what it shows */
const RIM = 6;
const SEEN = 250;

/**
 * How soft the edges of a picture are: the sigma of the Gaussian that a step would have been blurred by, pixels; the median over its strongest edges.
 * From the ratio of gradients before and after a known blur (Zhuo & Sim 2011).
 * @returns undefined where it has too few edges
 */
export function edgeSpread(image: EncodedImage): number | undefined {
  const { width, height, data, white, alpha } = image;
  const n = width * height;
  const luma = Float32Array.from(
    { length: n },
    (_, i) => (0.2126 * data[3 * i] + 0.7152 * data[3 * i + 1] + 0.0722 * data[3 * i + 2]) / white,
  );
  const first = gaussianBlur(luma, width, height, BEFORE);
  const second = gaussianBlur(first, width, height, AGAIN);
  const solid = alpha && insideOf(alpha, width, height);
  const across = (plane: Float32Array, i: number): number => plane[i + 1] - plane[i - 1];
  const down = (plane: Float32Array, i: number): number => plane[i + width] - plane[i - width];
  const slope = (plane: Float32Array, i: number): number => length2(across(plane, i), down(plane, i));
  const own = new Float32Array(n);
  const inner: number[] = [];
  for (let y = RIM; y < height - RIM; y++)
    for (let x = RIM; x < width - RIM; x++) {
      const i = y * width + x;
      if (solid && solid[i] === 0) continue;
      own[i] = slope(first, i);
      inner.push(own[i]);
    }
  if (inner.length === 0) return undefined;
  const sorted = Float32Array.from(inner).sort();
  const least = sorted[Math.floor((1 - STRONGEST) * (sorted.length - 1))];
  const spreads: number[] = [];
  for (let y = RIM; y < height - RIM; y++)
    for (let x = RIM; x < width - RIM; x++) {
      const i = y * width + x;
      if (own[i] < least || own[i] === 0) continue;
      // the steepest place across the edge
      const next = Math.abs(across(first, i)) > Math.abs(down(first, i)) ? 1 : width;
      if (own[i] < own[i - next] || own[i] < own[i + next]) continue;
      const ratio = own[i] / Math.max(1e-9, slope(second, i));
      if (ratio <= 1.01) continue;
      const seen = AGAIN / Math.sqrt(ratio * ratio - 1);
      spreads.push(Math.sqrt(Math.max(0, seen * seen - BEFORE * BEFORE - ACROSS)));
    }
  if (spreads.length < LEAST_EDGES) return undefined;
  spreads.sort((a, b) => a - b);
  return spreads[Math.floor(spreads.length / 2)];
}

/** Where a cut-out is opaque for some pixels about. */
function insideOf(alpha: ArrayLike<number>, width: number, height: number): Uint8Array {
  const clear = (across: boolean, from: Uint8Array): Uint8Array => {
    const out = new Uint8Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let most = 0;
        for (let k = -RIM; k <= RIM && most === 0; k++) {
          const [u, v] = across ? [x + k, y] : [x, y + k];
          if (u >= 0 && v >= 0 && u < width && v < height) most = from[v * width + u];
        }
        out[y * width + x] = most;
      }
    return out;
  };
  const open = Uint8Array.from({ length: width * height }, (_, i) => (alpha[3 * i] < SEEN ? 1 : 0));
  return clear(false, clear(true, open)).map((v) => 1 - v);
}
