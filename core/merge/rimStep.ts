import { type Place } from '../proof/finding';
import { type EncodedImage } from '../raster/encodedImage';
import { invert, type Matrix3, transform } from '../raster/matrix3';

/** The most visible step along a frame's border inside the picture. */
export interface Rim {
  /** 8-bit code values */
  readonly step: number;
  readonly where?: Place;
}

const SAMPLES = 240;
/** distance of the two compared lines from the border, share of the long edge */
const REACH = 0.004;

/**
 * Measures whether the border of a frame shows in the merged picture: along each side that lies inside, the mean difference across
 * the border, beyond what the same line shows two and four reaches further in. Content averages out along the line; a rim does not.
 */
export function rimStep(
  merged: EncodedImage,
  frames: readonly { readonly width: number; readonly height: number; readonly matrix: Matrix3 }[],
): Rim {
  let worst: Rim = { step: 0 };
  const reach = Math.max(3, REACH * Math.max(merged.width, merged.height));
  for (const frame of frames) {
    const back = invert(frame.matrix);
    const w = frame.width - 1;
    const h = frame.height - 1;
    const sides: readonly (readonly [number, number, number, number, number, number])[] = [
      [0, 0, w, 0, 0, 1],
      [0, h, w, h, 0, -1],
      [0, 0, 0, h, 1, 0],
      [w, 0, w, h, -1, 0],
    ];
    for (const [x0, y0, x1, y1, nx, ny] of sides) {
      const across = [0, 2 * reach, 4 * reach].map(() => [] as number[]);
      let where: Place | undefined;
      for (let k = 0; k < SAMPLES; k++) {
        const t = (k + 0.5) / SAMPLES;
        const values = [-1, 1, 3, 5].map((d) =>
          greenAt(merged, back, x0 + t * (x1 - x0) + d * reach * nx, y0 + t * (y1 - y0) + d * reach * ny),
        );
        const [outside, a, b, c] = values;
        if (outside === undefined || a === undefined || b === undefined || c === undefined) continue;
        across[0].push(a - outside);
        across[1].push(b - a);
        across[2].push(c - b);
        if (k === SAMPLES >> 1 || !where) {
          const [x, y] = transform(back, x0 + t * (x1 - x0), y0 + t * (y1 - y0));
          where = { x: x - 60, y: y - 60, width: 120, height: 120 };
        }
      }
      if (across[0].length < SAMPLES / 4) continue;
      const [rim, near, far] = across.map(median);
      const step = Math.max(0, Math.abs(rim - near) - Math.abs(near - far));
      if (step > worst.step) worst = { step, where };
    }
  }
  return worst;
}

function greenAt(image: EncodedImage, back: Matrix3, u: number, v: number): number | undefined {
  const [px, py] = transform(back, u, v);
  const x = Math.round(px);
  const y = Math.round(py);
  if (x < 0 || y < 0 || x >= image.width || y >= image.height) return undefined;
  return (image.data[(y * image.width + x) * 3 + 1] / image.white) * 255;
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
}
