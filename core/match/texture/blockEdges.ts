import { type EncodedImage } from '../../raster/encodedImage';

/** side of the squares that JPEG (ITU-T T.81) codes by itself */
const SIDE = 8;

/**
 * How much steeper a picture is between the squares of a JPEG than inside them: 1 where nothing of them is seen.
 * @param image as it was read, not moved
 */
export function blockEdges({ width, height, data }: EncodedImage): number {
  const bent = [0, 0];
  const count = [0, 0];
  const look = (i: number, step: number, at: number): void => {
    const own = at % SIDE === SIDE - 1 ? 1 : 0;
    // a step between two even sides: a slope, or an edge of what is shown, bends elsewhere as well
    bent[own] +=
      Math.abs(data[i + step] - data[i]) -
      (Math.abs(data[i] - data[i - step]) + Math.abs(data[i + 2 * step] - data[i + step])) / 2;
    count[own]++;
  };
  for (let y = 1; y + 2 < height; y++)
    for (let x = 1; x + 2 < width; x++) {
      const i = 3 * (y * width + x) + 1;
      look(i, 3, x);
      look(i, 3 * width, y);
    }
  let steepness = 0;
  for (let i = 4; i + 3 < data.length; i += 3) steepness += Math.abs(data[i + 3] - data[i]);
  const mean = steepness / Math.max(1, data.length / 3);
  const [inside, between] = bent.map((sum, k) => sum / Math.max(1, count[k]));
  return mean > 0 ? 1 + Math.max(0, between - inside) / mean : 1;
}
