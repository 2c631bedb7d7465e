import { type EncodedImage } from '../../raster/encodedImage';

const CELL = 12;

/** The smoothest gently sloping places of a reduced picture: where steps would show. Middles, pixels of that picture, smoothest first. */
export function smoothPatches(
  { width, height, data, white }: EncodedImage,
  count: number,
): { x: number; y: number }[] {
  const found: { x: number; y: number; rough: number }[] = [];
  for (let cy = 0; cy + CELL <= height; cy += CELL)
    for (let cx = 0; cx + CELL <= width; cx += CELL) {
      let [sum, square, low, high] = [0, 0, Infinity, -Infinity];
      let rough = 0;
      for (let y = cy; y < cy + CELL; y++)
        for (let x = cx; x < cx + CELL; x++) {
          const i = (y * width + x) * 3 + 1;
          const v = (data[i] * 255) / white;
          sum += v;
          square += v * v;
          low = Math.min(low, v);
          high = Math.max(high, v);
          if (x > cx) rough += Math.abs(v - (data[i - 3] * 255) / white);
        }
      const mean = sum / (CELL * CELL);
      const spread = Math.sqrt(Math.max(0, square / (CELL * CELL) - mean * mean));
      // neither clipped, nor busy, nor perfectly even
      if (low < 4 || high > 251 || spread > 6 || high - low < 1) continue;
      found.push({ x: cx + CELL / 2, y: cy + CELL / 2, rough: rough / (CELL * CELL) });
    }
  return found.sort((a, b) => a.rough - b.rough).slice(0, count);
}
