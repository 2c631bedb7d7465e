import { type EncodedImage } from '../../raster/encodedImage';
import { length2 } from '../../raster/length';

/** An even quadrangle of a picture. */
export interface FlatPatch {
  /** its middle, pixels */
  readonly x: number;
  readonly y: number;
  /** pixels */
  readonly area: number;
}

/** steepest change of codes (0…1) to the next pixel that is still even; the gentlest first, noise wants more */
const EVEN = [0.012, 0.025, 0.05] as const;
/** parts of the picture that a patch takes up */
const SMALLEST = 6e-5;
const LARGEST = 0.03;
/** area over that of the parallelogram with the same second moments */
const LEAST_FILLED = 0.86;
const MOST_FILLED = 1.1;

/** Even parts of a picture that are nearly parallelograms, at whichever evenness they show; of those that lie on each other one. */
export function flatPatches(image: EncodedImage): FlatPatch[] {
  const slopes = slopesOf(image);
  const { width, height } = image;
  const found: FlatPatch[] = [];
  for (const limit of EVEN)
    for (const patch of patchesBelow(slopes, width, height, limit)) {
      const known = found.some(
        (p) => length2(p.x - patch.x, p.y - patch.y) < 0.25 * Math.sqrt(Math.min(p.area, patch.area)),
      );
      if (!known) found.push(patch);
    }
  return found;
}

/** Largest change of any channel to the neighbours on the right and below, of the picture smoothed by 3 × 3. */
function slopesOf({ width, height, data, white }: EncodedImage): Float32Array {
  const smooth = [0, 1, 2].map((c) => {
    const rows = new Float32Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let dx = -1; dx <= 1; dx++)
          sum += data[3 * (y * width + Math.min(width - 1, Math.max(0, x + dx))) + c];
        rows[y * width + x] = sum / 3 / white;
      }
    return rows.map((_, i) => {
      const [up, down] = [i - width, i + width];
      return (rows[up < 0 ? i : up] + rows[i] + rows[down >= rows.length ? i : down]) / 3;
    });
  });
  return smooth[0].map((_, i) => {
    const right = i % width === width - 1 ? i : i + 1;
    const below = i + width >= width * height ? i : i + width;
    return smooth.reduce(
      (most, plane) => Math.max(most, Math.abs(plane[right] - plane[i]), Math.abs(plane[below] - plane[i])),
      0,
    );
  });
}

/** Connected parts below a slope that have the form of a parallelogram. */
function patchesBelow(slopes: Float32Array, width: number, height: number, limit: number): FlatPatch[] {
  const seen = new Uint8Array(width * height);
  const [least, most] = [SMALLEST * width * height, LARGEST * width * height];
  const found: FlatPatch[] = [];
  const stack: number[] = [];
  for (let start = 0; start < slopes.length; start++) {
    if (seen[start] || slopes[start] > limit) continue;
    stack.push(start);
    seen[start] = 1;
    let [n, sx, sy, sxx, sxy, syy, touches] = [0, 0, 0, 0, 0, 0, false];
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      const x = i % width;
      const y = (i - x) / width;
      n++;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
      syy += y * y;
      touches ||= x === 0 || y === 0 || x === width - 1 || y === height - 1;
      for (const next of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width])
        if (next >= 0 && next < slopes.length && !seen[next] && slopes[next] <= limit) {
          seen[next] = 1;
          stack.push(next);
        }
    }
    if (touches || n < least || n > most) continue;
    const [x, y] = [sx / n, sy / n];
    // second moments of pixels, each a square of its own
    const [xx, xy, yy] = [sxx / n - x * x + 1 / 12, sxy / n - x * y, syy / n - y * y + 1 / 12];
    const filled = n / (12 * Math.sqrt(Math.max(1e-9, xx * yy - xy * xy)));
    if (filled >= LEAST_FILLED && filled <= MOST_FILLED) found.push({ x: x + 0.5, y: y + 0.5, area: n });
  }
  return found;
}
