import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';

/** Clipped light and dark of one frame. */
export interface ClippedShares {
  /** share of pixels with a channel at white, 0…1 */
  readonly light: number;
  /** share of pixels with all channels at black, 0…1 */
  readonly dark: number;
  /** the block of a 12-wide grid that holds most of it, full-size pixels; absent when nothing is clipped */
  readonly lightAt?: Rectangle;
  readonly darkAt?: Rectangle;
}

const COLUMNS = 12;
/** codes at and beyond which a sample holds no more: 254 and 1 of 255, as a lossy file moves them by one */
export const LIGHT_SHARE = 253.5 / 255;
export const DARK_SHARE = 1.5 / 255;

/** Counts pixels that hold nothing any more, and finds where most of them are. */
export function clippedShares(image: EncodedImage): ClippedShares {
  const { width, height, data, white } = image;
  const block = Math.ceil(width / COLUMNS);
  const rows = Math.ceil(height / block);
  const light = new Uint32Array(COLUMNS * rows);
  const dark = new Uint32Array(COLUMNS * rows);
  const high = LIGHT_SHARE * white;
  const low = DARK_SHARE * white;
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / block) * COLUMNS;
    for (let x = 0; x < width; x++, i += 3) {
      const r = data[i];
      const g = data[i + 1];
      const b = data[i + 2];
      if (r >= high || g >= high || b >= high) light[row + Math.floor(x / block)]++;
      else if (r <= low && g <= low && b <= low) dark[row + Math.floor(x / block)]++;
    }
  }
  const sum = (counts: Uint32Array): number => counts.reduce((a, b) => a + b, 0) / (width * height);
  const most = (counts: Uint32Array): Rectangle | undefined => {
    const at = counts.reduce((best, c, i) => (c > counts[best] ? i : best), 0);
    if (counts[at] === 0) return undefined;
    const x = (at % COLUMNS) * block;
    const y = Math.floor(at / COLUMNS) * block;
    return { x, y, width: Math.min(block, width - x), height: Math.min(block, height - y) };
  };
  return { light: sum(light), dark: sum(dark), lightAt: most(light), darkAt: most(dark) };
}
