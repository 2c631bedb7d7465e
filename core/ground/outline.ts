import { type EncodedImage } from '../raster/encodedImage';

/** What a silhouette says of how it stands, pixels of the plate. */
export interface Outline {
  /** the middle of its lowest part, and its lowest edge */
  readonly foot: readonly [number, number];
  /** first row in which it is */
  readonly top: number;
  /** half the width of its lowest 3 % */
  readonly halfWidth: number;
}

/** share of the height that counts as where it stands */
const BASE = 0.03;

/** The outline of a cut-out; undefined where nothing of it is there. */
export function outlineOf({ width, height, alpha }: EncodedImage): Outline | undefined {
  const isThere = (x: number, y: number): boolean => !alpha || alpha[3 * (y * width + x)] > 127;
  const rows: number[] = [];
  for (let y = 0; y < height; y++) {
    let count = 0;
    for (let x = 0; x < width; x++) if (isThere(x, y)) count++;
    if (count > 0) rows.push(y);
  }
  if (rows.length === 0) return undefined;
  const [top, bottom] = [rows[0], rows[rows.length - 1]];
  const from = Math.round(bottom - BASE * (bottom - top));
  let [sum, count, left, right] = [0, 0, width, 0];
  for (let y = from; y <= bottom; y++)
    for (let x = 0; x < width; x++) {
      if (!isThere(x, y)) continue;
      sum += x;
      count++;
      left = Math.min(left, x);
      right = Math.max(right, x);
    }
  return { foot: [sum / count, bottom + 0.5], top, halfWidth: (right - left + 1) / 2 };
}
