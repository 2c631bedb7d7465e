import { type EncodedImage } from '../raster/encodedImage';
import { gaussianBlur } from '../raster/gaussianBlur';
import { srgbToLinear } from '../raster/srgb';
import { membrane } from '../repair/membrane';
import { type DustSpot } from './dust';
import { length2 } from '../raster/length';

/** What a spot of dust lets through: a square of cells, each so many full-size frame pixels wide. */
export interface DustShade {
  /** first cell, counted from the frame's border */
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly cell: number;
  /** [cell] share of the light that arrives, 0…1 */
  readonly values: Float32Array;
}

/** long edge at which a shade is told, and half its side and the radius within which it is dark, pixels of that */
const [LONG_EDGE, HALF, RADIUS] = [2200, 26, 15];
/** blur of what frames say of it, and the darkest that is believed */
const [BLUR, DARKEST] = [1, 0.25];
/** what lies about it is even: its light spreads by no more than this share */
const EVEN = 0.12;

const levelOf = (levels: readonly EncodedImage[]): EncodedImage =>
  levels.find((l) => Math.max(l.width, l.height) <= LONG_EDGE) ?? levels[levels.length - 1];

/**
 * How much light a spot of dust takes from each pixel: the light of frames that are even about it against what goes on from there, the mean of all of
 * them. Dust lies before the sensor and takes the same share in every frame, so that dividing by it brings back what lies behind, texture too.
 * @param frames levels of each frame, full size first, all of one size
 * @returns undefined where no frame is even there
 */
export function dustShade(
  frames: readonly (readonly EncodedImage[])[],
  { x, y }: Pick<DustSpot, 'x' | 'y'>,
): DustShade | undefined {
  const side = 2 * HALF + 1;
  const full = frames[0][0];
  const { width: w } = levelOf(frames[0]);
  const cell = full.width / w;
  const [left, top] = [Math.round(x / cell - 0.5) - HALF, Math.round(y / cell - 0.5) - HALF];
  const isAbout = Uint8Array.from({ length: side * side }, (_, i) =>
    length2((i % side) - HALF, Math.floor(i / side) - HALF) > RADIUS ? 1 : 0,
  );
  const sum = new Float32Array(side * side);
  let count = 0;
  for (const levels of frames) {
    const light = squareOf(levelOf(levels), left, top, side);
    if (!isEven(light, isAbout)) continue;
    const about = membrane(light, isAbout, side, side);
    for (let i = 0; i < sum.length; i++) sum[i] += light[i] / Math.max(1e-4, about[i]);
    count++;
  }
  if (count === 0) return undefined;
  const mean = sum.map((v) => v / count);
  const smooth = gaussianBlur(mean, side, side, BLUR);
  const values = smooth.map((v, i) => (isAbout[i] ? 1 : Math.min(1, Math.max(DARKEST, v))));
  return { x: left, y: top, size: side, cell, values };
}

/** Green light of a square, its picture's border continued. */
function squareOf(
  { width, height, data, white }: EncodedImage,
  left: number,
  top: number,
  side: number,
): Float32Array {
  return Float32Array.from({ length: side * side }, (_, i) => {
    const x = Math.min(width - 1, Math.max(0, left + (i % side)));
    const y = Math.min(height - 1, Math.max(0, top + Math.floor(i / side)));
    return srgbToLinear(data[3 * (y * width + x) + 1] / white);
  });
}

/** Whether the light about a spot spreads little, and is neither noise alone nor burnt. */
function isEven(light: Float32Array, isAbout: Uint8Array): boolean {
  const about = light.filter((_, i) => isAbout[i] === 1).sort();
  const [low, middle, high] = [0.1, 0.5, 0.9].map((q) => about[Math.floor(q * (about.length - 1))]);
  return middle > 0.01 && high < 0.9 && (high - low) / middle < EVEN;
}
