import { linearToSrgb, srgbToLinear } from '../../raster/srgb';
import { gridRows } from '../../region/gridRows';
import { operator } from '../operator';

/** A colour, encoded 0…1. */
export type FillColour = readonly [number, number, number];

/** One colour everywhere. */
export const fillColour = operator<{ readonly colour: FillColour }>({
  kind: 'fillColour',
  version: 1,
  gives: 'light',
  run: (_, { colour }, { area }) => ({
    is: 'light',
    encoded: true,
    planes: colour.map((v) => new Float32Array(area.width * area.height).fill(v)),
  }),
});

/** From one colour to another along a line; lengths are fractions of the long edge. */
export interface FillGradient {
  readonly from: FillColour;
  readonly to: FillColour;
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Two colours mixed evenly in linear light along a line. */
export const fillGradient = operator<FillGradient & { readonly longEdge: number }>({
  kind: 'fillGradient',
  version: 1,
  gives: 'light',
  run: (_, { from, to, x0, y0, x1, y1, longEdge }, at) => {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length2 = Math.max(1e-12, dx * dx + dy * dy);
    const share = gridRows(at, longEdge, (row, { first, scale, y }) => {
      for (let i = 0; i < row.length; i++)
        row[i] = Math.min(1, Math.max(0, (((first + i + 0.5) * scale - x0) * dx + (y - y0) * dy) / length2));
    });
    const planes = [0, 1, 2].map((c) => {
      const [a, b] = [srgbToLinear(from[c]), srgbToLinear(to[c])];
      return share.map((t) => linearToSrgb(a + t * (b - a)));
    });
    return { is: 'light', encoded: true, planes };
  },
});

export const FILLS = [fillColour, fillGradient] as const;
