import { mixed } from 'yup';
import { operator } from '../../graph/operator';
import { strict } from '../../recipe/schemaParts';
import { gridRows } from '../gridRows';
import { type PartKind } from '../partKind';

/** A corner, fractions of the long edge. */
export type Corner = readonly [x: number, y: number];

/** A closed line of straight pieces; what it goes round an odd number of times lies inside. */
export interface PolygonSettings {
  readonly corners: readonly Corner[];
}

const MOST_CORNERS = 1000;

/** Signed distance from the outline, positive inside, in the units of the corners (even–odd rule). */
export function polygonDistance(corners: readonly Corner[], x: number, y: number): number {
  let nearest = Infinity;
  let inside = false;
  for (let i = 0, j = corners.length - 1; i < corners.length; j = i++) {
    const [ax, ay] = corners[i];
    const [bx, by] = corners[j];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    const [dx, dy] = [bx - ax, by - ay];
    const length2 = dx * dx + dy * dy;
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
    nearest = Math.min(nearest, (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2);
  }
  return (inside ? 1 : -1) * Math.sqrt(nearest);
}

const fillPolygon = operator<PolygonSettings & { readonly longEdge: number }>({
  kind: 'fillPolygon',
  version: 1,
  gives: 'mask',
  run: (_, { corners, longEdge }, at) => {
    const perPixel = longEdge / 2 ** at.level;
    // its edge is one pixel wide, so that it is not jagged
    const plane = gridRows(at, longEdge, (row, { first, scale, y }) => {
      for (let i = 0; i < row.length; i++) {
        const inside = polygonDistance(corners, (first + i + 0.5) * scale, y);
        row[i] = Math.min(1, Math.max(0, 0.5 + perPixel * inside));
      }
    });
    return { is: 'mask', plane };
  },
});

const isCorner = (v: unknown): boolean =>
  Array.isArray(v) && v.length === 2 && v.every((c) => typeof c === 'number' && Math.abs(c) <= 50);

export const polygon: PartKind<PolygonSettings> = {
  kind: 'polygon',
  schema: strict({
    corners: mixed<Corner[]>(
      (v): v is Corner[] => Array.isArray(v) && v.length <= MOST_CORNERS && v.every(isCorner),
    ).required(),
  }),
  plain: { corners: [] },
  says: ({ corners }) => `outline of ${corners.length} corners`,
  operators: [fillPolygon],
  compile: (graph, settings, { longEdge }) =>
    settings.corners.length > 2 ? graph.add('fillPolygon', { ...settings, longEdge }) : undefined,
};
