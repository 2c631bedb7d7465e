import { type At } from '../graph/tile';

/** A plane of what a function gives for each pixel centre of a place, whose coordinates are fractions of the long edge. */
export function gridPoints(
  { level, area }: At,
  longEdge: number,
  of: (x: number, y: number) => number,
): Float32Array {
  const scale = 2 ** level / longEdge;
  const out = new Float32Array(area.width * area.height);
  for (let y = 0, i = 0; y < area.height; y++) {
    const v = (area.y + y + 0.5) * scale;
    for (let x = 0; x < area.width; x++, i++) out[i] = of((area.x + x + 0.5) * scale, v);
  }
  return out;
}
