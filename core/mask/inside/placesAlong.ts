import { type PackedStroke } from '../packStroke';
import { length2 } from '../../raster/length';

/** span between two places at which the colour under a brush is taken, of its radius */
const SPAN = 0.4;
/** most places of a stroke; a longer one has them farther apart */
const MOST = 192;

/** Places along a stroke where the colour under it is taken, fractions of the long edge. */
export interface PlacesAlong {
  readonly places: readonly (readonly [x: number, y: number])[];
  readonly span: number;
}

/** Places along a stroke, from its beginning on: a stroke that grows keeps those that it had. */
export function placesAlong({ points, size }: PackedStroke): PlacesAlong {
  let span = (SPAN * size) / 2;
  const lengths: number[] = [];
  for (let i = 3; i < points.length; i += 3)
    lengths.push(length2(points[i] - points[i - 3], points[i + 1] - points[i - 2]));
  const whole = lengths.reduce((sum, v) => sum + v, 0);
  while (whole / span >= MOST) span *= 2;
  const places: (readonly [number, number])[] = [[points[0], points[1]]];
  let next = span;
  let gone = 0;
  lengths.forEach((length, i) => {
    for (; next <= gone + length; next += span) {
      const t = (next - gone) / length;
      const at = 3 * i;
      places.push([
        points[at] + t * (points[at + 3] - points[at]),
        points[at + 1] + t * (points[at + 4] - points[at + 1]),
      ]);
    }
    gone += length;
  });
  return { places, span };
}
