import { operator } from '../../graph/operator';
import { between, strict } from '../../recipe/schemaParts';
import { gridRows } from '../gridRows';
import { type PartKind } from '../partKind';
import { smoothStep } from '../smoothRange';

/** From one place, where all of it counts, to another, where nothing does; fractions of the long edge. */
export interface GradientSettings {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

const fadeAlong = operator<GradientSettings & { readonly longEdge: number }>({
  kind: 'fadeAlong',
  version: 1,
  gives: 'mask',
  run: (_, { longEdge, x0, y0, x1, y1 }, at) => {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length2 = dx * dx + dy * dy;
    const plane = gridRows(at, longEdge, (row, { first, scale, y }) => {
      for (let i = 0; i < row.length; i++) {
        const x = (first + i + 0.5) * scale;
        // a line without length is a border
        const along = length2 > 0 ? ((x - x0) * dx + (y - y0) * dy) / length2 : x < x0 ? 0 : 1;
        row[i] = smoothStep(1 - along);
      }
    });
    return { is: 'mask', plane };
  },
});

const coordinate = () => between(-50, 50);

export const gradient: PartKind<GradientSettings> = {
  kind: 'gradient',
  schema: strict({ x0: coordinate(), y0: coordinate(), x1: coordinate(), y1: coordinate() }),
  plain: { x0: 0.5, y0: 0, x1: 0.5, y1: 0.4 },
  says: ({ x0, y0, x1, y1 }) => {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const from =
      Math.abs(dy) >= Math.abs(dx) ? (dy >= 0 ? 'the top' : 'below') : dx >= 0 ? 'the left' : 'the right';
    return `gradient from ${from}`;
  },
  operators: [fadeAlong],
  compile: (graph, settings, { longEdge }) => graph.add('fadeAlong', { ...settings, longEdge }),
};
